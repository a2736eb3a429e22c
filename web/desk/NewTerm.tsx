// A term that is not there yet, while describing: a keeper creates it on the spot, a cataloguer proposes it to the keepers. The
// chosen photos get it at once.

import { useState } from 'react';
import type { ChangeInput } from '@stellin/contract/ledger';
import type { Selection } from '@stellin/contract/photos';
import { useChange } from '../app/changes';
import { useMay } from '../app/session';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { TermPicker } from '../parts/terms/TermPicker';

interface Props {
  label: string;
  selection: Selection | null;
  onClose: () => void;
  /** The term that was created; a proposed one has no place yet. */
  onCreated: (id: number) => void;
}

export function NewTerm({ label: typed, selection, onClose, onCreated }: Props) {
  const [label, setLabel] = useState(typed);
  const [parent, setParent] = useState<{ id: number; label: string } | null>(null);
  const [scopeNote, setScopeNote] = useState('');
  const creates = useMay('keeper');
  const change = useChange();
  const given = { parentId: parent?.id ?? null, ...(selection ? { selection } : {}) };
  const wanted: ChangeInput = creates
    ? { kind: 'addTerms', ...given, terms: [{ label, scopeNote }] }
    : { kind: 'proposeTerm', ...given, label, scopeNote };
  return (
    <Dialog open onOpenChange={onClose} title={creates ? 'Create a term' : 'Propose a term'}>
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate(wanted, {
            onSuccess: ({ entry }) => {
              onClose();
              if (creates && entry?.objectId) onCreated(entry.objectId);
            },
          });
        }}
      >
        <label className="block text-[12px] text-ink-2">
          Label
          <input
            autoFocus
            maxLength={200}
            className="mt-1 block h-8 w-full rounded border border-line bg-card px-2 text-base text-ink"
            value={label}
            onChange={(event) => setLabel(event.target.value)}
          />
        </label>
        <div>
          <p className="mb-1 text-[12px] text-ink-2">
            Below{' '}
            {parent ? (
              <b className="text-ink">{parent.label}</b>
            ) : creates ? (
              'no other: a top term'
            ) : (
              'the top, until a keeper places it'
            )}
          </p>
          <TermPicker label="Below which term" placeholder="Find a broader term …" onPick={setParent} />
        </div>
        <label className="block text-[12px] text-ink-2">
          What it is for
          <textarea
            rows={3}
            maxLength={5000}
            className="mt-1 block w-full rounded border border-line bg-card p-2 text-base text-ink"
            value={scopeNote}
            onChange={(event) => setScopeNote(event.target.value)}
          />
        </label>
        <p className="text-[12px] text-ink-2">
          {selection && 'The chosen photos get it now. '}
          {!creates && 'It is written into files once a keeper has accepted it.'}
        </p>
        <FormActions
          onCancel={onClose}
          action={creates ? 'Create' : 'Propose'}
          disabled={label.trim() === '' || change.isPending}
        />
      </form>
    </Dialog>
  );
}
