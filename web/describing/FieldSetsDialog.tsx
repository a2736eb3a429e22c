// Arranging field sets: which fields a team fills in, in which order, required or not, with help and choices.

import { ArrowDown, ArrowUp, X } from 'lucide-react';
import { useState } from 'react';
import { DESCRIBED_FIELDS, isTarget, shapeOf, type Target } from '@stellin/core/describing/targets';
import type { FieldSet, FieldSetEntry } from '@stellin/contract/describing';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { TermPicker } from '../parts/terms/TermPicker';
import { usePrepared } from './queries';
import { Select } from '../parts/Select';
import { Checkbox } from '../parts/Checkbox';

type Draft = Omit<FieldSet, 'id' | 'entries'> & { id: number | null; entries: FieldSetEntry[] };

export function FieldSetsDialog({ onClose }: { onClose: () => void }) {
  const { data } = usePrepared();
  const [editing, setEditing] = useState<Draft | null>(null);
  const change = useChange();
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="Field sets" wide>
      {editing ? (
        <Editor draft={editing} onClose={() => setEditing(null)} />
      ) : (
        <>
          <p className="mb-2 text-ink-2">
            A field set is a form of the Fields tab: the fields a team fills in, in its order. Fields of the project are
            kept in the files in Stellin’s own namespace.
          </p>
          <ul className="divide-y divide-line rounded border border-line">
            {(data?.fieldSets ?? []).map((set) => (
              <li key={set.id} className="flex items-center gap-3 px-3 py-1.5">
                <b className="w-44 truncate">{set.name}</b>
                <span className="min-w-0 flex-1 truncate text-ink-2">
                  {set.entries.map(({ target }) => shapeOf(target).label).join(', ')}
                </span>
                <Button className="!h-7" onClick={() => setEditing({ ...set, entries: set.entries })}>
                  Change …
                </Button>
                <Button
                  look="quiet"
                  className="!h-7"
                  disabled={change.isPending}
                  onClick={() => change.mutate({ kind: 'removeFieldSet', fieldSetId: set.id })}
                >
                  Remove
                </Button>
              </li>
            ))}
            {data?.fieldSets.length === 0 && (
              <li className="px-3 py-1.5 text-ink-2">
                None of your own yet: the Fields tab offers Content, Place, Rights, Collection and all fields.
              </li>
            )}
          </ul>
          <div className="mt-3">
            <Button look="primary" onClick={() => setEditing({ id: null, name: '', entries: [] })}>
              New field set …
            </Button>
          </div>
        </>
      )}
    </Dialog>
  );
}

const BLANK = { required: false, help: '', initial: '', kind: 'text', choices: [], branch: null } as const;

function Editor({ draft, onClose }: { draft: Draft; onClose: () => void }) {
  const [name, setName] = useState(draft.name);
  const [entries, setEntries] = useState(draft.entries);
  const [own, setOwn] = useState('');
  const change = useChange();
  const set = (at: number, part: Partial<FieldSetEntry>) =>
    setEntries(entries.map((entry, i) => (i === at ? { ...entry, ...part } : entry)));
  const move = (at: number, by: number) => {
    const moved = [...entries];
    const [entry] = moved.splice(at, 1);
    if (entry) moved.splice(at + by, 0, entry);
    setEntries(moved);
  };
  const add = (target: Target) => {
    if (!entries.some((entry) => entry.target === target)) setEntries([...entries, { ...BLANK, choices: [], target }]);
  };
  const ownTarget = `custom:${own.trim()}`;
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        const plain = entries.map(({ target, required, help, initial, kind, choices, branch }) => ({
          target,
          required,
          help,
          initial,
          kind,
          choices,
          branch,
        }));
        change.mutate({ kind: 'saveFieldSet', fieldSetId: draft.id, name, entries: plain }, { onSuccess: onClose });
      }}
    >
      <label className="text-[12px] text-ink-2">
        Name
        <input
          autoFocus
          required
          maxLength={100}
          className="mt-1 block h-8 w-64 rounded border border-line bg-card px-2 text-base text-ink"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <ul className="divide-y divide-line rounded border border-line" aria-label="Fields of the set">
        {entries.map((entry, i) => {
          const { label } = shapeOf(entry.target);
          return (
            <li key={entry.target} className="flex flex-wrap items-center gap-2 px-2 py-1.5">
              <span className="w-40 truncate font-semibold">{label}</span>
              <Checkbox checked={entry.required} onChange={(checked) => set(i, { required: checked })}>
                required
              </Checkbox>
              <input
                aria-label={`Help for ${label}`}
                placeholder="Help"
                className="h-7 w-48 rounded border border-line bg-card px-2"
                value={entry.help}
                onChange={(event) => set(i, { help: event.target.value })}
              />
              <input
                aria-label={`What ${label} begins with`}
                placeholder="Begins with"
                className="h-7 w-32 rounded border border-line bg-card px-2"
                value={entry.initial}
                onChange={(event) => set(i, { initial: event.target.value })}
              />
              <input
                aria-label={`Choices of ${label}`}
                placeholder="Choices, with ; between"
                className="h-7 min-w-0 flex-1 rounded border border-line bg-card px-2"
                defaultValue={entry.choices.join('; ')}
                onBlur={(event) =>
                  set(i, {
                    choices: event.target.value
                      .split(';')
                      .map((choice) => choice.trim())
                      .filter(Boolean),
                  })
                }
              />
              <TermPicker
                label={`Branch of choices for ${label}`}
                placeholder={entry.branch === null ? 'or a branch …' : 'another branch …'}
                className="w-36"
                onPick={({ id }) => set(i, { branch: id })}
              />
              <button
                type="button"
                aria-label={`${label} up`}
                disabled={i === 0}
                className="text-ink-3 hover:text-ink disabled:opacity-30"
                onClick={() => move(i, -1)}
              >
                <ArrowUp size={14} />
              </button>
              <button
                type="button"
                aria-label={`${label} down`}
                disabled={i === entries.length - 1}
                className="text-ink-3 hover:text-ink disabled:opacity-30"
                onClick={() => move(i, 1)}
              >
                <ArrowDown size={14} />
              </button>
              <button
                type="button"
                aria-label={`Without ${label}`}
                className="text-ink-3 hover:text-red"
                onClick={() => setEntries(entries.filter((_, at) => at !== i))}
              >
                <X size={14} />
              </button>
            </li>
          );
        })}
        {entries.length === 0 && <li className="px-3 py-1.5 text-ink-2">No fields yet.</li>}
      </ul>
      <div className="flex items-center gap-2">
        <Select
          label="Add a field"
          className="w-52"
          value=""
          onChange={(value) => isTarget(value) && add(value)}
          options={[
            { value: '', label: 'Add a field …' },
            ...DESCRIBED_FIELDS.map(({ id, label }) => ({ value: id, label })),
          ]}
        />
        <input
          aria-label="Name of a field of the project"
          placeholder="or one of the project: its name"
          className="h-8 w-60 rounded border border-line bg-card px-2"
          value={own}
          onChange={(event) => setOwn(event.target.value)}
        />
        <Button
          disabled={!isTarget(ownTarget)}
          onClick={() => {
            if (isTarget(ownTarget)) add(ownTarget);
            setOwn('');
          }}
        >
          Add it
        </Button>
      </div>
      <FormActions
        onCancel={onClose}
        action={`Keep the set of ${countText(entries.length, 'field')}`}
        disabled={name.trim() === '' || entries.length === 0 || change.isPending}
      />
    </form>
  );
}
