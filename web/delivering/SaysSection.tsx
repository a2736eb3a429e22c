// What copies say.

import { METADATA_MODES, TERM_MODES } from '@stellin/core/delivering/metadata';
import { DESCRIBED_FIELDS } from '@stellin/core/describing/targets';

import type { FieldId } from '@stellin/core/metadata/fields';
import { formatFacts } from '@stellin/core/delivering/formats';
import type { CopySettings } from '@stellin/contract/delivering';
import { usePrepared } from '../describing/queries';
import { Checkbox } from '../parts/Checkbox';
import type { SetSettings } from './draft';
import { Choice } from './Labelled';
import { LanguageChoice } from './LanguageChoice';
import { Section } from './Section';

export function SaysSection({ settings, set }: { settings: CopySettings; set: SetSettings }) {
  const { metadata, sidecars, format } = settings;
  const say = (part: Partial<CopySettings['metadata']>) => set({ metadata: { ...metadata, ...part } });
  const isEmbedded = formatFacts(format).embeds;
  return (
    <Section title="What it says" summary={METADATA_MODES[metadata.what]}>
      <Choice
        label="Of the description"
        value={metadata.what}
        labels={METADATA_MODES}
        onChange={(what) => say({ what })}
      />
      {metadata.what === 'fields' && <FieldsChoice chosen={metadata.fields} onChange={(fields) => say({ fields })} />}
      {metadata.what !== 'none' && (
        <>
          <div className="grid grid-cols-2 gap-3">
            <Choice label="Terms" value={metadata.terms} labels={TERM_MODES} onChange={(terms) => say({ terms })} />
            <LanguageChoice value={metadata.language} none="All of them" onChange={(language) => say({ language })} />
          </div>
          <Checkbox checked={metadata.people} onChange={(people) => say({ people })}>
            Who is shown, by name and face
          </Checkbox>
          <Checkbox checked={metadata.position} onChange={(position) => say({ position })}>
            GPS positions
          </Checkbox>
        </>
      )}
      <Checkbox checked={sidecars} onChange={(on) => set({ sidecars: on })}>
        A sidecar beside each
      </Checkbox>
      {!isEmbedded && !sidecars && format !== 'original' && metadata.what !== 'none' && (
        <p className="text-[12px] text-amber">Nothing can be written into this format: only a sidecar says it.</p>
      )}
      <p className="text-[12px] text-ink-2">Private photos stay, and private persons are named nowhere.</p>
    </Section>
  );
}

/** Fields one by one, or those of a field set together. */
function FieldsChoice({ chosen, onChange }: { chosen: readonly FieldId[]; onChange: (fields: FieldId[]) => void }) {
  const { data } = usePrepared();
  const known = new Set<string>(DESCRIBED_FIELDS.map(({ id }) => id));
  const set = new Set<string>(chosen);
  const toggle = (ids: readonly string[], on: boolean) => {
    const next = new Set(set);
    for (const id of ids)
      if (on) next.add(id);
      else next.delete(id);
    onChange([...next].filter((id) => known.has(id)) as FieldId[]);
  };
  return (
    <div className="rounded border border-line">
      <div className="flex flex-wrap gap-1 border-b border-line p-2">
        {(data?.fieldSets ?? []).map(({ id, name, entries }) => {
          const ids = entries.map(({ target }) => target).filter((target) => known.has(target));
          const isOn = ids.length > 0 && ids.every((each) => set.has(each));
          return (
            <button
              key={id}
              type="button"
              aria-pressed={isOn}
              className={`rounded border px-2 py-0.5 text-[12px] ${isOn ? 'border-spruce bg-spruce-pale' : 'border-line bg-sheet hover:border-ink-3'}`}
              onClick={() => toggle(ids, !isOn)}
            >
              {name}
            </button>
          );
        })}
      </div>
      <div className="grid max-h-44 grid-cols-2 gap-x-3 overflow-y-auto p-2 text-[12px]">
        {DESCRIBED_FIELDS.map(({ id, label }) => (
          <Checkbox key={id} checked={set.has(id)} onChange={(on) => toggle([id], on)}>
            {label}
          </Checkbox>
        ))}
      </div>
    </div>
  );
}
