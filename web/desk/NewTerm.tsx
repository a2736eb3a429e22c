// A term that is not there yet, while describing: a keeper creates it on the spot, a cataloguer proposes it to the keepers. The
// chosen photos get it at once.

import { useState } from 'react';
import { z } from 'zod';
import { MAX_LABEL_LENGTH } from '@stellin/core/vocabulary/term';
import type { ChangeInput } from '@stellin/contract/ledger';
import type { Selection } from '@stellin/contract/photos';
import { text } from '@stellin/contract/route';
import { useChange } from '../foundation/changes';
import { useMayChange } from '../foundation/session';
import { Dialog } from '../parts/Dialog';
import { TextArea, TextField } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { useFormOf } from '../parts/useFormOf';
import { TermPicker } from '../parts/terms/TermPicker';

const schema = z.object({ label: text.trim().min(1).max(MAX_LABEL_LENGTH), scopeNote: text.max(5000) });

interface Props {
  label: string;
  selection: Selection | null;
  onClose: () => void;
  /** The term that was created; a proposed one has no place yet. */
  onCreated: (id: number) => void;
}

export function NewTerm({ label: typed, selection, onClose, onCreated }: Props) {
  const { register, handleSubmit, formState } = useFormOf(schema, { label: typed, scopeNote: '' });
  const [parent, setParent] = useState<{ id: number; label: string } | null>(null);
  const creates = useMayChange('addTerms');
  const change = useChange();
  const given = { parentId: parent?.id ?? null, ...(selection ? { selection } : {}) };
  const submit = handleSubmit(({ label, scopeNote }) => {
    const wanted: ChangeInput = creates
      ? { kind: 'addTerms', ...given, terms: [{ label, scopeNote }] }
      : { kind: 'proposeTerm', ...given, label, scopeNote };
    change.mutate(wanted, {
      onSuccess: ({ entry }) => {
        onClose();
        if (creates && entry?.objectId) onCreated(entry.objectId);
      },
    });
  });
  return (
    <Dialog open onOpenChange={onClose} title={creates ? 'Create a term' : 'Propose a term'}>
      <form className="space-y-3" onSubmit={submit}>
        <TextField label="Label" autoFocus error={formState.errors.label?.message} {...register('label')} />
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
        <TextArea
          label="What it is for"
          rows={3}
          error={formState.errors.scopeNote?.message}
          {...register('scopeNote')}
        />
        <p className="text-[12px] text-ink-2">
          {selection && 'The chosen photos get it now. '}
          {!creates && 'It is written into files once a keeper has accepted it.'}
        </p>
        <FormActions onCancel={onClose} action={creates ? 'Create' : 'Propose'} disabled={change.isPending} />
      </form>
    </Dialog>
  );
}
