// One field of the form: what the chosen photos say of it, what is typed, how it is put in, and what is to be said of that.

import { Languages } from 'lucide-react';
import { use, useId, useState } from 'react';
import { EDIT_MODES } from '@stellin/core/describing/editing';
import { editOf, languagesOf, typedText, type Draft } from '@stellin/core/describing/drafts';
import type { OwnField, OwnFieldKind } from '@stellin/core/describing/ownFields';
import { customName, shapeOf, type Target } from '@stellin/core/describing/targets';
import { fieldText } from '@stellin/core/metadata/fieldText';
import type { FieldValue } from '@stellin/core/metadata/fields';
import { suitingLanguage } from '@stellin/core/metadata/languages';
import { DEFAULT_LANGUAGE } from '@stellin/core/metadata/values';
import type { FieldSet } from '@stellin/contract/describing';
import { numberText } from '@stellin/contract/wording';
import type { Suggestion } from '@stellin/contract/search';
import { keyOf } from '../foundation/keys';
import { PersonContext } from '../foundation/session';
import { Combobox } from '../parts/Combobox';
import { useSuggestions } from '../search/queries';
import { MODE_LABELS } from './modes';
import type { AgreementOf } from './queries';
import { StructDialog } from './StructDialog';
import { languageText } from '../parts/languageText';
import { Select } from '../parts/Select';
import { TextField } from '../parts/Field';

interface Props {
  target: Target;
  entry: FieldSet['entries'][number] | undefined;
  agreement: AgreementOf | undefined;
  /** How many photos are chosen. */
  photos: number;
  draft: Draft | undefined;
  onDraft: (draft: Draft | undefined) => void;
  readOnly: boolean;
  /** Others have changed what the photos say of it since it was begun to be typed. */
  changedMeanwhile?: boolean;
  /** What was typed is to take the place of what they say now. */
  onDecided?: () => void;
  /** What the photo that one was at before says; undefined where that says nothing. */
  before?: FieldValue | undefined;
}

const LONG = new Set<string>(['description', 'extendedDescription', 'altText', 'usageTerms', 'instructions']);

export function FieldRow(props: Props) {
  const { target, entry, agreement, photos, draft, onDraft, readOnly, changedMeanwhile, onDecided, before } = props;
  const id = useId();
  const shape = shapeOf(target);
  const [editing, setEditing] = useState(false);
  const [chosenLanguage, setLanguage] = useState<string | null>(null);
  const preferred = use(PersonContext)?.language ?? '';
  const says = stateOf(agreement, photos);
  const common = says === 'same' ? agreement?.values[0]?.value : undefined;
  const language = chosenLanguage ?? suitingLanguage(preferred, languagesOf(common)) ?? DEFAULT_LANGUAGE;
  const structured = shape.type === 'struct';
  const mode = draft?.mode ?? 'replace';
  const typed = draft && typeof draft.typed === 'string' ? draft.typed : undefined;
  const text = typed ?? (draft ? '' : typedText(target, common, language));
  const own = ownFieldOf(entry);
  const made = draft && editOf(target, draft, own);
  const set = (value: string) =>
    value === typedText(target, common, language) && mode === 'replace'
      ? onDraft(undefined)
      : onDraft({ mode, typed: value, ...(language === DEFAULT_LANGUAGE ? {} : { language }) });
  const asBefore = () => {
    if (before === undefined || readOnly) return;
    if (structured) onDraft({ mode, typed: { value: before } });
    else set(typedText(target, before, language) || typedText(target, before, DEFAULT_LANGUAGE));
  };
  const missing = entry?.required && !draft && says !== 'same';
  return (
    <div
      onKeyDown={(event) => {
        if (event.key !== keyOf('sameAsBefore')) return;
        event.preventDefault();
        asBefore();
      }}
      className={`relative break-inside-avoid border-l-2 py-1 pl-2 ${draft ? 'border-spruce' : missing ? 'border-amber' : 'border-transparent'}`}
    >
      <div className="flex min-h-6 flex-wrap items-center gap-x-2 text-[12px]">
        <RowLabel id={id} label={shape.label} entry={entry} />
        <span className="ml-auto flex shrink-0 items-center gap-2 whitespace-nowrap">
          <HowPutIn {...{ says, draft, agreement, photos, onDraft }} label={shape.label} />
          {shape.type === 'langAlt' && !(readOnly && languagesOf(common).length < 2) && (
            <LanguageChooser
              label={shape.label}
              languages={languagesOf(common)}
              language={draft?.language ?? language}
              readOnly={readOnly}
              onChoose={(chosen) => {
                setLanguage(chosen);
                onDraft(undefined);
              }}
            />
          )}
        </span>
      </div>
      {structured || (draft && typeof draft.typed !== 'string' && draft.typed.value !== null && typed === undefined) ? (
        <Whole
          id={id}
          label={shape.label}
          value={draft && typeof draft.typed !== 'string' ? (draft.typed.value ?? 'nothing') : common}
          says={says}
          onEdit={!readOnly && structured ? () => setEditing(true) : undefined}
        />
      ) : (
        <TypedValue
          {...{ id, target, text, readOnly, own }}
          choices={own?.kind === 'yesNo' ? ['yes', 'no'] : (entry?.offered ?? [])}
          onText={set}
          several={says === 'several'}
          placeholder={placeholderOf(says, agreement)}
        />
      )}
      {draft && changedMeanwhile && (
        <ChangedMeanwhile now={saidNow(agreement, says)} onKeep={() => onDraft(undefined)} onPut={onDecided} />
      )}
      {draft && <Remarks made={made} help={entry?.help} />}
      {editing && (
        <StructDialog
          shape={shape}
          value={(draft && typeof draft.typed !== 'string' ? draft.typed.value : common) ?? null}
          onClose={() => setEditing(false)}
          onSet={(value) => {
            setEditing(false);
            onDraft({ mode, typed: { value } });
          }}
        />
      )}
    </div>
  );
}

function RowLabel({ id, label, entry }: { id: string; label: string; entry: Props['entry'] }) {
  return (
    <label id={`${id}-label`} htmlFor={id} className="text-ink-2" title={entry?.help || undefined}>
      {label}
      {entry?.required && <span className="text-amber"> · required</span>}
    </label>
  );
}

interface HowProps extends Pick<Props, 'draft' | 'agreement' | 'photos' | 'onDraft'> {
  label: string;
  says: Says;
}

/** The different values, or how what is typed is put in. */
function HowPutIn({ label, says, draft, agreement, photos, onDraft }: HowProps) {
  const mode = draft?.mode ?? 'replace';
  return (
    <>
      {says === 'several' && !draft && agreement && (
        <Values agreement={agreement} photos={photos} onUse={(value) => onDraft({ mode, typed: { value } })} />
      )}
      {says === 'empty' && !draft && <span className="text-ink-3">empty</span>}
      {draft && photos > 1 && (
        <Select
          label={`How ${label} is put in`}
          className="h-5 text-[11px]"
          value={mode}
          onChange={(value) => onDraft({ ...draft, mode: value })}
          options={EDIT_MODES.map((each) => ({ value: each, label: MODE_LABELS[each] }))}
        />
      )}
      {draft && (
        <button type="button" className="text-slate hover:underline" onClick={() => onDraft(undefined)}>
          Reset
        </button>
      )}
    </>
  );
}

interface TypedProps {
  id: string;
  target: Target;
  own: OwnField | undefined;
  /** The values to choose from; none where it is typed freely. */
  choices: readonly string[];
  text: string;
  onText: (text: string) => void;
  readOnly: boolean;
  /** The photos say different values. */
  several: boolean;
  placeholder: string;
}

/** A value that is typed or chosen, after what the field takes. */
function TypedValue({ id, target, own, choices, text, onText, readOnly, several, placeholder }: TypedProps) {
  const shape = shapeOf(target);
  if (own?.kind === 'several' && choices.length > 0)
    return <SeveralChoices labelId={`${id}-label`} choices={choices} text={text} onText={onText} readOnly={readOnly} />;
  if (shape.type === 'boolean' || choices.length > 0)
    return (
      <Select
        id={id}
        data-value
        disabled={readOnly}
        className="h-7 w-full"
        value={text}
        onChange={onText}
        options={[
          { value: '', label: several ? 'different' : '–' },
          ...(choices.length > 0 ? withPresent(choices, text) : ['yes', 'no']).map((choice) => ({
            value: choice,
            label: choice,
          })),
        ]}
      />
    );
  if (LONG.has(target))
    return (
      <textarea
        id={id}
        data-value
        rows={3}
        readOnly={readOnly}
        spellCheck
        placeholder={placeholder}
        className="block w-full resize-y rounded border border-line bg-card px-2 py-1 leading-snug"
        value={text}
        onChange={(event) => onText(event.target.value)}
      />
    );
  return (
    <ValueInUse
      id={id}
      target={target}
      readOnly={readOnly}
      placeholder={placeholder || (own ? EXPECTED[own.kind] : '')}
      className={`h-7 w-full rounded border border-line bg-card px-2 ${shape.type === 'uri' ? 'font-mono text-[12px]' : ''}`}
      text={text}
      onText={onText}
    />
  );
}

interface MeanwhileProps {
  /** What photos say now, as part of a sentence. */
  now: string;
  onKeep: () => void;
  onPut: (() => void) | undefined;
}

function ChangedMeanwhile({ now, onKeep, onPut }: MeanwhileProps) {
  return (
    <p role="alert" className="mt-0.5 rounded bg-amber-pale px-1.5 py-0.5 text-[11px] text-amber">
      Changed meanwhile: now {now}.{' '}
      <button type="button" className="font-semibold underline" onClick={onKeep}>
        Keep that
      </button>{' '}
      ·{' '}
      <button type="button" className="font-semibold underline" onClick={onPut}>
        Put mine in
      </button>
    </p>
  );
}

/** What a field of a project takes; undefined for other fields. */
export function ownFieldOf(entry: Props['entry']): OwnField | undefined {
  const name = entry && customName(entry.target);
  return entry && name !== undefined ? { name, kind: entry.kind, choices: entry.offered } : undefined;
}

/** How a value is written, where it is not free. */
const EXPECTED: Readonly<Record<OwnFieldKind, string>> = {
  text: '',
  number: '12.5',
  date: '1952, 1952-06 or 1952-06-14',
  choice: '',
  several: '',
  yesNo: '',
};

interface SeveralProps {
  /** Of what names the field. */
  labelId: string;
  choices: readonly string[];
  /** Those that are chosen, with `; ` between. */
  text: string;
  onText: (text: string) => void;
  readOnly: boolean;
}

/** Choices of which several can be taken. */
function SeveralChoices({ labelId, choices, text, onText, readOnly }: SeveralProps) {
  const chosen = text.split(/;\s*/).filter(Boolean);
  return (
    <div role="group" aria-labelledby={labelId} className="flex flex-wrap gap-1 py-0.5">
      {[...choices, ...chosen.filter((each) => !choices.includes(each))].map((choice, i) => {
        const isChosen = chosen.includes(choice);
        return (
          <button
            key={choice}
            {...(i === 0 ? { 'data-value': true } : {})}
            type="button"
            aria-pressed={isChosen}
            disabled={readOnly}
            className={`h-6 rounded border px-2 text-[12px] ${isChosen ? 'border-spruce bg-spruce-pale font-semibold' : 'border-line bg-card hover:border-ink-3'}`}
            onClick={() =>
              onText((isChosen ? chosen.filter((each) => each !== choice) : [...chosen, choice]).join('; '))
            }
          >
            {choice}
          </button>
        );
      })}
    </div>
  );
}

interface WholeProps {
  id: string;
  label: string;
  value: FieldValue | undefined;
  says: Says;
  /** Undefined where it can’t be edited here. */
  onEdit: (() => void) | undefined;
}

/** A value that is not typed: one with members, or one that was taken as it is. */
function Whole({ id, label, value, says, onEdit }: WholeProps) {
  return (
    <div className="flex items-center gap-2">
      <output
        aria-labelledby={`${id}-label`}
        className="min-w-0 flex-1 truncate rounded border border-line bg-sheet px-2 py-0.5"
      >
        {value === undefined ? (says === 'several' ? 'different' : '–') : fieldText(value)}
      </output>
      {onEdit && (
        <button
          id={id}
          data-value
          type="button"
          aria-label={`Edit ${label}`}
          className="h-6 rounded border border-line bg-card px-2 hover:border-ink-3"
          onClick={onEdit}
        >
          Edit …
        </button>
      )}
    </div>
  );
}

/** What is wrong with what was typed, or what will become of it. */
function Remarks({ made, help }: { made: ReturnType<typeof editOf> | undefined; help: string | undefined }) {
  return (
    <>
      {help && <p className="text-[11px] text-ink-2">{help}</p>}
      {made && !made.ok && (
        <p role="alert" className="text-[11px] text-red">
          {made.problem.charAt(0).toUpperCase() + made.problem.slice(1)}
        </p>
      )}
      {made?.ok &&
        made.remarks.map((remark) => (
          <p key={remark.text} className="text-[11px] text-amber">
            {remark.text}
          </p>
        ))}
    </>
  );
}

/** What photos say now, as part of a sentence. */
function saidNow(agreement: AgreementOf | undefined, says: Says): string {
  if (says === 'empty' || !agreement) return 'it is empty';
  return says === 'same'
    ? `“${fieldText(agreement.values[0]?.value ?? '')}”`
    : `${numberText(agreement.distinct)} different values`;
}

export type Says = 'same' | 'several' | 'empty';

function stateOf(agreement: AgreementOf | undefined, photos: number): Says {
  if (!agreement || agreement.photos === 0) return 'empty';
  return agreement.distinct === 1 && agreement.photos === photos ? 'same' : 'several';
}

function placeholderOf(says: Says, agreement: AgreementOf | undefined): string {
  return says === 'several' && agreement
    ? agreement.distinct === 1
      ? `on ${numberText(agreement.photos)}: ${fieldText(agreement.values[0]?.value ?? '')}`
      : `${numberText(agreement.distinct)} different values`
    : '';
}

function withPresent(choices: readonly string[], text: string): string[] {
  return text === '' || choices.includes(text) ? [...choices] : [text, ...choices];
}

/** The different values with how many have each; choosing one puts it in. */
function Values({
  agreement,
  photos,
  onUse,
}: {
  agreement: AgreementOf;
  photos: number;
  onUse: (value: FieldValue) => void;
}) {
  const empty = photos - agreement.photos;
  return (
    <details className="relative">
      <summary className="figures cursor-pointer list-none text-amber">
        {agreement.distinct === 1
          ? `on ${numberText(agreement.photos)} of ${numberText(photos)}`
          : `${numberText(agreement.distinct)} values`}
      </summary>
      <ul className="absolute right-0 z-20 max-h-56 w-72 overflow-y-auto rounded border border-line bg-card p-1 text-[12px] shadow-lg">
        {agreement.values.map(({ value, photos: having }) => (
          <li key={JSON.stringify(value)}>
            <button
              type="button"
              className="flex w-full gap-2 rounded px-1.5 py-0.5 text-left hover:bg-spruce-pale"
              title="Put this in"
              onClick={() => onUse(value)}
            >
              <span className="min-w-0 flex-1 truncate">{fieldText(value)}</span>
              <span className="figures text-ink-2">{numberText(having)}</span>
            </button>
          </li>
        ))}
        {agreement.distinct > agreement.values.length && (
          <li className="px-1.5 py-0.5 text-ink-2">
            and {numberText(agreement.distinct - agreement.values.length)} more
          </li>
        )}
        {empty > 0 && (
          <li className="flex px-1.5 py-0.5 text-ink-2">
            empty <span className="figures ml-auto">{numberText(empty)}</span>
          </li>
        )}
      </ul>
    </details>
  );
}

interface ValueInUseProps {
  id: string;
  target: Target;
  readOnly: boolean;
  placeholder: string;
  className: string;
  text: string;
  onText: (text: string) => void;
}

/** A text field that offers the values which photos of the catalogue have. Of several values the last is completed. */
function ValueInUse({ target, text, onText, readOnly, ...input }: ValueInUseProps) {
  const [hasFocus, setHasFocus] = useState(false);
  const name = target.startsWith('custom:') ? 'custom' : target;
  const last = text.split(/;\s*/).at(-1) ?? '';
  const before = text.slice(0, text.length - last.length);
  const { data = [] } = useSuggestions(hasFocus && !readOnly && last.trim() !== '' ? `${name}:${last}` : '', '');
  const values = data.filter(({ kind, label }) => VALUES.has(kind) && label !== last);
  return (
    <Combobox
      {...input}
      data-value
      readOnly={readOnly}
      listLabel="Values in use"
      text={text}
      onText={onText}
      options={values.map(({ label, photos }) => ({
        key: label,
        content: (
          <>
            <span className="min-w-0 truncate">{label}</span>
            {photos !== null && <span className="figures ml-auto text-[11px] text-ink-2">{numberText(photos)}</span>}
          </>
        ),
        onPick: () => onText(before + label),
      }))}
      onFocus={() => setHasFocus(true)}
      onBlur={() => setHasFocus(false)}
    />
  );
}

const VALUES: ReadonlySet<Suggestion['kind']> = new Set(['value', 'person', 'place']);

/** Of a text in several languages the one that holds where no other fits is the first of all. */
function languageName(tag: string): string {
  return tag === DEFAULT_LANGUAGE ? 'All languages' : languageText(tag);
}

interface LanguageProps {
  label: string;
  languages: readonly string[];
  language: string;
  readOnly: boolean;
  onChoose: (language: string) => void;
}

/** Which language of a text is shown and typed. While there is but one, only a sign that there can be others. */
function LanguageChooser({ label, languages, language, readOnly, onChoose }: LanguageProps) {
  const [adding, setAdding] = useState(false);
  if (adding)
    return (
      <TextField
        label={`Language of ${label}`}
        hideLabel
        autoFocus
        placeholder="de, en-GB …"
        className="w-20"
        boxClass="h-5 !px-1 text-[11px]"
        onBlur={() => setAdding(false)}
        onKeyDown={(event) => {
          if (event.key === 'Escape') setAdding(false);
          if (event.key !== 'Enter') return;
          event.preventDefault();
          event.stopPropagation();
          if (/^[A-Za-z]{1,8}(-[A-Za-z0-9]{1,8})*$/.test(event.currentTarget.value))
            onChoose(event.currentTarget.value);
          setAdding(false);
        }}
      />
    );
  const all = languages.includes(language) ? languages : [...languages, language];
  if (all.length < 2)
    return (
      <button
        type="button"
        aria-label={`Add a language to ${label}`}
        title="Add a language"
        className="rounded p-0.5 text-ink-3 hover:bg-ground hover:text-ink"
        onClick={() => setAdding(true)}
      >
        <Languages size={13} />
      </button>
    );
  return (
    <Select
      label={`Language of ${label}`}
      className="h-5 max-w-28 text-[11px] text-ink-2"
      value={language}
      onChange={(value) => (value === '+' ? setAdding(true) : onChoose(value))}
      options={[
        ...all.map((each) => ({ value: each, label: languageName(each) })),
        ...(!readOnly ? [{ value: '+', label: 'another …' }] : []),
      ]}
    />
  );
}
