// The marks of the team: which there are, and for a keeper changing them.

import { useState } from 'react';
import { freeLetter, MARK_COLOURS, MARK_LETTERS, type MarkColour } from '@stellin/core/describing/marks';
import type { Mark } from '@stellin/contract/marks';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { useMay } from '../foundation/session';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { Kbd } from '../parts/Kbd';
import { MarkBadge } from './MarkBadge';
import { useMarks } from './queries';
import { Select } from '../parts/Select';

export function MarksDialog({ onClose }: { onClose: () => void }) {
  const { data: marks = [] } = useMarks();
  const mayChange = useMay('keeper');
  const change = useChange();
  const [changed, setChanged] = useState<Mark | null>(null);
  return (
    <Dialog open onOpenChange={onClose} title="Marks of the team">
      <ul className="mb-4 divide-y divide-line">
        {marks.map((mark) => (
          <li key={mark.id} className="flex items-center gap-2.5 py-1.5">
            <MarkBadge name={mark.name} mark={mark} />
            <span className="font-semibold">{mark.name}</span>
            <Kbd>{mark.letter.toUpperCase()}</Kbd>
            <span className="figures ml-auto text-[12px] text-ink-2">{countText(mark.photos, 'photo')}</span>
            {mayChange && (
              <>
                <Button look="quiet" className="!h-7" onClick={() => setChanged(mark)}>
                  Change
                </Button>
                <Button
                  look="quiet"
                  className="!h-7"
                  onClick={() => change.mutate({ kind: 'removeMark', markId: mark.id })}
                >
                  Remove
                </Button>
              </>
            )}
          </li>
        ))}
        {marks.length === 0 && <li className="py-1.5 text-ink-2">There are no marks yet.</li>}
      </ul>
      {mayChange && (
        <MarkForm key={changed?.id ?? 'new'} marks={marks} mark={changed} onDone={() => setChanged(null)} />
      )}
    </Dialog>
  );
}

/** Defines a mark, or changes one. */
function MarkForm({ marks, mark, onDone }: { marks: readonly Mark[]; mark: Mark | null; onDone: () => void }) {
  const change = useChange();
  const [name, setName] = useState(mark?.name ?? '');
  const [letter, setLetter] = useState(mark?.letter ?? '');
  const [colour, setColour] = useState<MarkColour>(mark?.colour ?? 'green');
  const taken = new Set(marks.filter(({ id }) => id !== mark?.id).map((other) => other.letter));
  const used = letter || freeLetter(name, taken) || '';
  return (
    <form
      className="flex flex-wrap items-end gap-2 border-t border-line pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        change.mutate(
          { kind: 'defineMark', markId: mark?.id ?? null, name: name.trim(), letter: used, colour },
          {
            onSuccess: () => {
              setName('');
              setLetter('');
              onDone();
            },
          },
        );
      }}
    >
      <label className="min-w-0 flex-1 text-[12px] text-ink-2">
        {mark ? `Another name for “${mark.name}”` : 'A new mark'}
        <input
          maxLength={64}
          className="mt-1 block h-8 w-full rounded border border-line bg-card px-2 text-base text-ink"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <label className="text-[12px] text-ink-2">
        Key
        <Select
          className="mt-1 text-base"
          value={used}
          onChange={setLetter}
          options={MARK_LETTERS.filter((one) => !taken.has(one)).map((one) => ({
            value: one,
            label: one.toUpperCase(),
          }))}
        />
      </label>
      <label className="text-[12px] text-ink-2">
        Colour
        <Select
          className="mt-1 text-base"
          value={colour}
          onChange={setColour}
          options={MARK_COLOURS.map((one) => ({ value: one, label: one }))}
        />
      </label>
      <Button type="submit" look="primary" disabled={name.trim() === '' || used === '' || change.isPending}>
        {mark ? 'Keep' : 'Define'}
      </Button>
      {mark && (
        <Button look="quiet" onClick={onDone}>
          Cancel
        </Button>
      )}
    </form>
  );
}
