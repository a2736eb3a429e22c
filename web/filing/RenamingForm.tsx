// New names for files: by a pattern with numbers, or by search and replace in the name so far, with all names before and after.

import { FIND_MODES, type FindMode } from '@stellin/core/describing/replacing';
import { OFFERED_PLACEHOLDERS, RENAME_PLACEHOLDERS } from '@stellin/core/filing/renamePlaceholders';
import { RESTARTS, type FilingPlan, type Renaming } from '@stellin/contract/filing';
import { z } from 'zod';
import { useStored } from '../foundation/useStored';
import { Select } from '../parts/Select';
import { TextField } from '../parts/Field';

export interface RenamingDraft {
  pattern: string;
  start: number;
  step: number;
  restart: Renaming['restart'];
  find: string;
  replace: string;
  how: FindMode;
}

export const NEW_NAMES: RenamingDraft = {
  pattern: '{name}',
  start: 1,
  step: 1,
  restart: 'never',
  find: '',
  replace: '',
  how: 'text',
};

/** The draft as the contract has it. */
export function renamingOf({ find, replace, how, ...numbers }: RenamingDraft) {
  return { ...numbers, ...(find === '' ? {} : { replacing: { find, replace, how, matchCase: true } }) };
}

/** Stands where the pattern is none that was used before: no pattern is empty. */
const NEW = '';
const MOST_PATTERNS = 12;

/** The patterns that were used on this machine, the latest first, and how one is remembered. */
export function usePatterns(): [string[], (pattern: string) => void] {
  const [patterns, setPatterns] = useStored('namePatterns', z.array(z.string()), []);
  const remember = (pattern: string) =>
    setPatterns([pattern, ...patterns.filter((each) => each !== pattern)].slice(0, MOST_PATTERNS));
  return [patterns, remember];
}

const RESTART_LABELS: Record<Renaming['restart'], string> = {
  never: 'numbers go on',
  folder: 'begin anew in each folder',
  day: 'begin anew each day',
};
const FIND_LABELS: Record<FindMode, string> = { text: 'anywhere', words: 'whole words', pattern: 'regular expression' };

interface Props {
  draft: RenamingDraft;
  onChange: (draft: RenamingDraft) => void;
  plan: FilingPlan | undefined;
}

export function RenamingForm({ draft, onChange, plan }: Props) {
  const [used] = usePatterns();
  const set = (part: Partial<RenamingDraft>) => onChange({ ...draft, ...part });
  const whole = (value: number, least: number) => Math.max(least, Math.floor(value || 0));
  return (
    <>
      <div className="grid grid-cols-[2fr_1fr_1fr_1.4fr] gap-3 text-[12px] text-ink-2">
        <TextField
          label="New name, without its extension"
          boxClass="h-8 font-mono"
          autoFocus
          spellCheck={false}
          value={draft.pattern}
          onChange={(event) => set({ pattern: event.target.value })}
        />
        <TextField
          label="First number"
          boxClass="figures h-8"
          type="number"
          min={0}
          value={draft.start}
          onChange={(event) => set({ start: whole(event.target.valueAsNumber, 0) })}
        />
        <TextField
          label="Step"
          boxClass="figures h-8"
          type="number"
          min={1}
          value={draft.step}
          onChange={(event) => set({ step: whole(event.target.valueAsNumber, 1) })}
        />
        <label>
          Numbers
          <Select
            className="mt-1 block h-8 w-full"
            value={draft.restart}
            onChange={(value) => set({ restart: value as Renaming['restart'] })}
            options={RESTARTS.map((restart) => ({ value: restart, label: RESTART_LABELS[restart] }))}
          />
        </label>
      </div>
      {used.length > 0 && (
        <Select
          label="Patterns used before"
          className="w-full font-mono"
          value={used.includes(draft.pattern) ? draft.pattern : NEW}
          onChange={(pattern) => set({ pattern })}
          options={[
            { value: NEW, label: 'Patterns used before', disabled: true },
            ...used.map((pattern) => ({ value: pattern, label: pattern })),
          ]}
        />
      )}
      <div className="flex flex-wrap gap-1">
        {OFFERED_PLACEHOLDERS.map((name) => (
          <button
            key={name}
            type="button"
            title={RENAME_PLACEHOLDERS[name]?.help}
            className="rounded border border-line bg-sheet px-1.5 py-0.5 font-mono text-[11px] text-ink-2 hover:border-ink-3 hover:text-ink"
            onClick={() => set({ pattern: `${draft.pattern}{${name === 'number' ? 'number:3' : name}}` })}
          >
            {`{${name}}`}
          </button>
        ))}
      </div>
      <div className="grid grid-cols-[1fr_1fr_1fr] gap-3 text-[12px] text-ink-2">
        <TextField
          label="Replace in the name so far"
          boxClass="h-8 font-mono"
          spellCheck={false}
          value={draft.find}
          onChange={(event) => set({ find: event.target.value })}
        />
        <TextField
          label="by"
          boxClass="h-8 font-mono"
          spellCheck={false}
          value={draft.replace}
          onChange={(event) => set({ replace: event.target.value })}
        />
        <label>
          found
          <Select
            className="mt-1 block h-8 w-full"
            value={draft.how}
            onChange={(value) => set({ how: value })}
            options={FIND_MODES.map((how) => ({ value: how, label: FIND_LABELS[how] }))}
          />
        </label>
      </div>
      {plan && plan.examples.length > 0 && (
        <div
          className="max-h-60 overflow-y-auto rounded border border-line"
          tabIndex={0}
          role="group"
          aria-label="New names"
        >
          <table className="w-full table-fixed font-mono text-[12px]">
            <tbody>
              {plan.examples.map(({ photoId, before, after, taken }) => (
                <tr key={photoId} className={before === after ? 'text-ink-3' : ''}>
                  <td className="truncate px-2 py-0.5" title={before}>
                    {before}
                  </td>
                  <td aria-hidden="true" className="w-6 text-ink-3">
                    →
                  </td>
                  <td className="truncate py-0.5" title={after}>
                    {after}
                  </td>
                  <td className="w-40 py-0.5 text-[11px] text-amber">{taken && 'taken: gets a number'}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </>
  );
}
