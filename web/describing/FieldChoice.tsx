// Choosing fields from a list with check marks.

import { shapeOf, type Target } from '@stellin/core/describing/targets';
import type { ReactNode } from 'react';
import { Checkbox } from '../parts/Checkbox';

interface Props {
  label: string;
  targets: readonly Target[];
  chosen: ReadonlySet<Target>;
  onChoose: (chosen: ReadonlySet<Target>) => void;
  /** Said of a field beside its name. */
  says?: (target: Target) => ReactNode;
}

export function FieldChoice({ label, targets, chosen, onChoose, says }: Props) {
  const set = (target: Target, wanted: boolean) => {
    const next = new Set(chosen);
    if (wanted) next.add(target);
    else next.delete(target);
    onChoose(next);
  };
  const all = targets.every((target) => chosen.has(target));
  return (
    <fieldset className="min-w-0">
      <legend className="mb-1 flex w-full items-baseline gap-3 text-[12px] text-ink-2">
        {label}
        <button
          type="button"
          className="text-slate hover:underline"
          onClick={() => onChoose(all ? new Set() : new Set(targets))}
        >
          {all ? 'None' : 'All'}
        </button>
      </legend>
      <div className="max-h-52 overflow-y-auto rounded border border-line bg-sheet p-2" tabIndex={0}>
        <div className="columns-2 gap-4 md:columns-3">
          {targets.map((target) => (
            <Checkbox
              key={target}
              checked={chosen.has(target)}
              onChange={(checked) => set(target, checked)}
              className="min-w-0 py-0.5"
            >
              <span className="truncate">{shapeOf(target).label}</span>
              {says && <span className="min-w-0 flex-1 truncate text-[12px] text-ink-2">{says(target)}</span>}
            </Checkbox>
          ))}
        </div>
      </div>
    </fieldset>
  );
}
