// Proposing a term while describing: the chosen photos get it at once; a keeper accepts, renames, maps or refuses it.

import { useState } from 'react';
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
}

export function ProposeTerm({ label: typed, selection, onClose }: Props) {
  const [label, setLabel] = useState(typed);
  const [parent, setParent] = useState<{ id: number; label: string } | null>(null);
  const [scopeNote, setScopeNote] = useState('');
  const isKeeper = useMay('keeper');
  const change = useChange();
  return (
    <Dialog open onOpenChange={onClose} title="Propose a term">
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate(
            {
              kind: 'proposeTerm',
              label,
              scopeNote,
              parentId: parent?.id ?? null,
              ...(selection ? { selection } : {}),
            },
            { onSuccess: onClose },
          );
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
            Below {parent ? <b className="text-ink">{parent.label}</b> : 'the top, until a keeper places it'}
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
          The chosen photos get it now. It is written into files once a keeper has accepted it.
          {isKeeper && ' As a keeper you can also add it in Vocabulary straight away.'}
        </p>
        <FormActions onCancel={onClose} action="Propose" disabled={label.trim() === '' || change.isPending} />
      </form>
    </Dialog>
  );
}
