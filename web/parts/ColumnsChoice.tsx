// Columns of a table, or what stands below a picture: some of all that can be said of a photo, in an order.

import { ArrowDown, ArrowUp, X } from 'lucide-react';
import { COLUMN_IDS, columnFacts, type ColumnId } from '@stellin/core/delivering/columns';
import { Field } from './Field';
import { Select } from './Select';

interface Props {
  label: string;
  /** Those that there are to choose from. */
  ids?: readonly ColumnId[];
  chosen: readonly ColumnId[];
  onChange: (chosen: ColumnId[]) => void;
}

export function ColumnsChoice({ label, ids = COLUMN_IDS, chosen, onChange }: Props) {
  const move = (from: number, to: number) => {
    const next = [...chosen];
    const [moved] = next.splice(from, 1);
    if (moved) next.splice(to, 0, moved);
    onChange(next);
  };
  const left = ids.filter((id) => !chosen.includes(id));
  return (
    <div className="space-y-1.5">
      <Field label={label}>
        {(tied) => (
          <Select
            {...tied}
            className="w-full"
            value={'' as ColumnId | ''}
            onChange={(id) => id !== '' && onChange([...chosen, id])}
            options={[
              { value: '', label: 'Add …' },
              ...left.map((id) => ({ value: id, label: columnFacts(id).label, group: columnFacts(id).group })),
            ]}
          />
        )}
      </Field>
      <ol className="divide-y divide-line rounded border border-line empty:hidden" aria-label={`${label}, chosen`}>
        {chosen.map((id, i) => {
          const { label: name } = columnFacts(id);
          return (
            <li key={id} className="flex items-center gap-1 px-2 py-0.5">
              <span className="min-w-0 flex-1 truncate">{name}</span>
              <Step label={`${name}: earlier`} disabled={i === 0} onClick={() => move(i, i - 1)}>
                <ArrowUp size={13} />
              </Step>
              <Step label={`${name}: later`} disabled={i === chosen.length - 1} onClick={() => move(i, i + 1)}>
                <ArrowDown size={13} />
              </Step>
              <Step label={`Without ${name}`} onClick={() => onChange(chosen.filter((each) => each !== id))}>
                <X size={13} />
              </Step>
            </li>
          );
        })}
      </ol>
    </div>
  );
}

interface StepProps {
  label: string;
  disabled?: boolean;
  onClick: () => void;
  children: React.ReactNode;
}

function Step({ label, disabled = false, onClick, children }: StepProps) {
  return (
    <button
      type="button"
      aria-label={label}
      disabled={disabled}
      className="flex size-6 items-center justify-center text-ink-2 hover:text-ink disabled:opacity-30"
      onClick={onClick}
    >
      {children}
    </button>
  );
}
