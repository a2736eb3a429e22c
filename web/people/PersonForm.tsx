// What is known of a person.

import { useState } from 'react';
import type { Person } from '@stellin/contract/people';
import { useChange } from '../app/changes';
import { Button } from '../parts/Button';
import { FormActions } from '../parts/FormActions';
import { TermPicker } from '../parts/terms/TermPicker';

export function PersonForm({ person, onClose }: { person: Person; onClose: () => void }) {
  const change = useChange();
  const [draft, setDraft] = useState({
    name: person.name,
    otherNames: person.otherNames.join('\n'),
    note: person.note,
    born: person.born,
    died: person.died,
    private: person.private,
    detailed: person.detailed,
    term: person.termId === null ? null : { id: person.termId, label: person.termLabel ?? '' },
  });
  const put = (part: Partial<typeof draft>) => setDraft({ ...draft, ...part });
  const save = () =>
    change.mutate(
      {
        kind: 'savePerson',
        personId: person.id,
        name: draft.name,
        note: draft.note,
        born: draft.born,
        died: draft.died,
        private: draft.private,
        detailed: draft.detailed,
        otherNames: draft.otherNames
          .split('\n')
          .map((line) => line.trim())
          .filter(Boolean),
        termId: draft.term?.id ?? null,
      },
      { onSuccess: onClose },
    );
  const field = 'mt-0.5 w-full rounded border border-line bg-card px-2.5 py-1';
  const renamed = draft.name.trim() !== person.name && draft.name.trim() !== '';
  return (
    <form
      aria-label={`Edit ${person.name}`}
      className="mt-3 grid max-w-190 grid-cols-2 gap-x-4 gap-y-2 rounded-md border border-line bg-card p-3"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <label>
        Name
        <input autoFocus className={field} value={draft.name} onChange={(event) => put({ name: event.target.value })} />
      </label>
      <label className="row-span-2">
        Other names, one a line
        <textarea
          rows={4}
          className={field}
          value={draft.otherNames}
          onChange={(event) => put({ otherNames: event.target.value })}
        />
      </label>
      <div className="grid grid-cols-2 gap-3">
        <label>
          Born
          <input
            className={field}
            placeholder="1932~"
            value={draft.born}
            onChange={(event) => put({ born: event.target.value })}
          />
        </label>
        <label>
          Died
          <input className={field} value={draft.died} onChange={(event) => put({ died: event.target.value })} />
        </label>
      </div>
      <div className="col-span-2 flex items-center gap-2">
        <span>Term that stands for this person:</span>
        {draft.term ? (
          <>
            <b>{draft.term.label}</b>
            <Button look="quiet" className="!h-7" onClick={() => put({ term: null })}>
              None
            </Button>
          </>
        ) : (
          <TermPicker
            label="Term that stands for this person"
            placeholder="none; find one …"
            className="w-56"
            onPick={({ id, label }) => put({ term: { id, label } })}
          />
        )}
      </div>
      <label className="col-span-2">
        Note
        <textarea
          rows={2}
          className={field}
          value={draft.note}
          onChange={(event) => put({ note: event.target.value })}
        />
      </label>
      <label className="col-span-2 flex items-center gap-2">
        <input
          type="checkbox"
          className="accent-spruce"
          checked={draft.private}
          onChange={(event) => put({ private: event.target.checked })}
        />
        Private: the name is never written into files
      </label>
      <label className="col-span-2 flex items-center gap-2">
        <input
          type="checkbox"
          className="accent-spruce"
          disabled={draft.private}
          checked={draft.detailed && !draft.private}
          onChange={(event) => put({ detailed: event.target.checked })}
        />
        Files also say who this is: the note and the term go along with the name
      </label>
      {(renamed || draft.private !== person.private) && person.photos > 0 && (
        <p className="col-span-2 rounded bg-amber-pale px-2.5 py-1 text-amber">
          {renamed
            ? `What ${person.photos} photos say of the people in them changes to “${draft.name.trim()}”, and so do saved searches.`
            : draft.private
              ? `The name goes out of what ${person.photos} photos say, and out of their files with the next write.`
              : `The name comes back into what ${person.photos} photos say.`}
        </p>
      )}
      <div className="col-span-2">
        <FormActions action="Save" disabled={draft.name.trim() === '' || change.isPending} onCancel={onClose} />
      </div>
    </form>
  );
}
