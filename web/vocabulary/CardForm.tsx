// The card of a term as a form. What somebody else changed meanwhile is not written over: the server refuses, and says what.

import { Plus, X } from 'lucide-react';
import { useId, useState } from 'react';
import { LABEL_KINDS, TERM_COLOURS, WRITTEN_OTHERS, type WrittenOthers } from '@stellin/core/vocabulary/term';
import { IIM_KEYWORD_BYTES, utf8Length } from '@stellin/core/vocabulary/utf8';
import type { TermCard } from '@stellin/contract/vocabulary';
import { useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { COLOUR_DOTS } from '../parts/terms/TermColumns';
import { Select } from '../parts/Select';
import { Checkbox } from '../parts/Checkbox';

const KIND_NAMES = { preferred: 'preferred, other language', alternative: 'also called', hidden: 'only found' };
const OTHERS_NAMES: Record<WrittenOthers, string> = {
  none: 'no other labels',
  language: 'other labels of its language',
  all: 'all its labels',
};

/** The parts of a card that the form changes. */
const PARTS = [
  'label',
  'otherLabels',
  'scopeNote',
  'definition',
  'notation',
  'uri',
  'colour',
  'writeSelf',
  'writeBroader',
  'writeOthers',
  'writeLanguage',
] as const;

export function CardForm({ card, onClose }: { card: TermCard; onClose: () => void }) {
  // What is compared with is what was there when the form was opened, whatever comes in meanwhile.
  const [seen] = useState(card);
  const [facts, setFacts] = useState(card);
  const change = useChange();
  const set = (part: Partial<TermCard>) => setFacts((before) => ({ ...before, ...part }));
  const changed = PARTS.filter((part) => JSON.stringify(facts[part]) !== JSON.stringify(seen[part]));
  const pick = (from: TermCard) => Object.fromEntries(changed.map((part) => [part, from[part]]));
  const bytes = utf8Length(facts.label);
  const save = () => {
    const others = facts.otherLabels.filter(({ label }) => label.trim() !== '');
    const after = { ...facts, otherLabels: others };
    if (changed.length === 0) return onClose();
    change.mutate({ kind: 'editTerm', termId: card.id, facts: pick(after), seen: pick(seen) }, { onSuccess: onClose });
  };
  return (
    <form
      aria-label={`Edit ${card.label}`}
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
      onKeyDown={(event) => {
        if (event.key === 'Escape') onClose();
        if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) save();
      }}
    >
      <Text label="Label" value={facts.label} max={200} autoFocus onChange={(label) => set({ label })} />
      {bytes > IIM_KEYWORD_BYTES && (
        <p className="text-[12px] text-amber">
          {bytes} bytes: IIM keeps {IIM_KEYWORD_BYTES} of a keyword, the rest stands in XMP only.
        </p>
      )}
      <fieldset>
        <legend className="mb-1 text-[12px] text-ink-2">Other labels</legend>
        <ul className="space-y-1">
          {facts.otherLabels.map((other, i) => {
            const put = (part: Partial<typeof other>) =>
              set({ otherLabels: facts.otherLabels.map((one, at) => (at === i ? { ...one, ...part } : one)) });
            return (
              <li key={i} className="flex gap-1">
                <input
                  aria-label={`Other label ${i + 1}`}
                  maxLength={200}
                  className="h-7 min-w-0 flex-1 rounded border border-line bg-card px-1.5"
                  value={other.label}
                  onChange={(event) => put({ label: event.target.value })}
                />
                <input
                  aria-label={`Language of label ${i + 1}`}
                  placeholder="lang."
                  maxLength={35}
                  className="h-7 w-12 rounded border border-line bg-card px-1.5 text-[12px]"
                  value={other.language}
                  onChange={(event) => put({ language: event.target.value.trim() })}
                />
                <Select
                  label={`Kind of label ${i + 1}`}
                  className="h-7 w-27 text-[12px]"
                  value={other.kind}
                  onChange={(value) => put({ kind: LABEL_KINDS.find((kind) => kind === value) ?? 'alternative' })}
                  options={LABEL_KINDS.map((kind) => ({ value: kind, label: KIND_NAMES[kind] }))}
                />
                <button
                  type="button"
                  aria-label={`Remove label ${i + 1}`}
                  className="px-1 text-ink-3 hover:text-red"
                  onClick={() => set({ otherLabels: facts.otherLabels.filter((_, at) => at !== i) })}
                >
                  <X size={13} />
                </button>
              </li>
            );
          })}
        </ul>
        <button
          type="button"
          className="mt-1 inline-flex items-center gap-1 text-[12px] text-slate hover:underline"
          onClick={() => set({ otherLabels: [...facts.otherLabels, { kind: 'alternative', language: '', label: '' }] })}
        >
          <Plus size={12} /> Add a label
        </button>
      </fieldset>
      <Text
        label="Scope note"
        value={facts.scopeNote}
        max={5000}
        rows={3}
        onChange={(scopeNote) => set({ scopeNote })}
      />
      <Text
        label="Definition"
        value={facts.definition}
        max={5000}
        rows={2}
        onChange={(definition) => set({ definition })}
      />
      <Text label="Notation" value={facts.notation} max={200} onChange={(notation) => set({ notation })} />
      <fieldset>
        <legend className="mb-1 text-[12px] text-ink-2">Colour</legend>
        <div className="flex gap-1.5">
          {(['', ...TERM_COLOURS] as const).map((colour) => (
            <button
              key={colour}
              type="button"
              aria-label={colour || 'no colour'}
              aria-pressed={facts.colour === colour}
              className={`flex size-6 items-center justify-center rounded-full border-2 ${facts.colour === colour ? 'border-ink' : 'border-transparent'}`}
              onClick={() => set({ colour })}
            >
              <span className="size-3.5 rounded-full border border-line" style={{ background: COLOUR_DOTS[colour] }} />
            </button>
          ))}
        </div>
      </fieldset>
      <fieldset className="space-y-1">
        <legend className="mb-1 text-[12px] text-ink-2">Written into files</legend>
        <Check label="the term itself" checked={facts.writeSelf} onChange={(writeSelf) => set({ writeSelf })} />
        <Check
          label="its broader terms along with it"
          checked={facts.writeBroader}
          onChange={(writeBroader) => set({ writeBroader })}
        />
        <div className="flex items-center gap-2">
          <Select
            label="Other labels written"
            className="h-7 text-[12px]"
            value={facts.writeOthers}
            onChange={(value) => set({ writeOthers: WRITTEN_OTHERS.find((one) => one === value) ?? 'none' })}
            options={WRITTEN_OTHERS.map((one) => ({ value: one, label: OTHERS_NAMES[one] }))}
          />
          <label className="flex items-center gap-1.5 text-[12px] text-ink-2">
            in
            <input
              aria-label="Language written"
              placeholder={card.vocabulary.language}
              maxLength={35}
              className="h-7 w-16 rounded border border-line bg-card px-1.5 text-ink"
              value={facts.writeLanguage}
              onChange={(event) => set({ writeLanguage: event.target.value.trim() })}
            />
          </label>
        </div>
      </fieldset>
      <Text label="Identifier" value={facts.uri} max={2000} mono onChange={(uri) => set({ uri })} />
      <div className="flex gap-2">
        <Button type="submit" look="primary" disabled={change.isPending || facts.label.trim() === ''}>
          Save
        </Button>
        <Button look="quiet" onClick={onClose}>
          Cancel
        </Button>
      </div>
    </form>
  );
}

interface TextProps {
  label: string;
  value: string;
  max: number;
  rows?: number;
  mono?: boolean;
  autoFocus?: boolean;
  onChange: (value: string) => void;
}

function Text({ label, value, max, rows, mono, autoFocus, onChange }: TextProps) {
  const id = useId();
  const look = `mt-1 block w-full rounded border border-line bg-card px-2 text-ink ${mono ? 'font-mono text-[11px]' : 'text-base'}`;
  return (
    <div>
      <label htmlFor={id} className="text-[12px] text-ink-2">
        {label}
      </label>
      {rows ? (
        <textarea
          id={id}
          rows={rows}
          maxLength={max}
          className={`${look} py-1.5`}
          value={value}
          onChange={(event) => onChange(event.target.value)}
        />
      ) : (
        <input
          id={id}
          autoFocus={autoFocus}
          maxLength={max}
          className={`${look} h-8`}
          value={value}
          onChange={(event) => onChange(event.target.value)}
        />
      )}
    </div>
  );
}

function Check({
  label,
  checked,
  onChange,
}: {
  label: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
}) {
  return (
    <Checkbox checked={checked} onChange={() => onChange(!checked)}>
      {label}
    </Checkbox>
  );
}
