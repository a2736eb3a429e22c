// A label edited where it stands.

import { useState } from 'react';
import type { TermRow } from '@stellin/contract/vocabulary';
import { useChange } from '../foundation/changes';
import { TextField } from '../parts/Field';

export function RenameInPlace({ term, onDone }: { term: TermRow; onDone: () => void }) {
  const [label, setLabel] = useState(term.label);
  const change = useChange();
  const save = () => {
    if (label.trim() === '' || label.trim() === term.label) return onDone();
    change.mutate({ kind: 'renameTerm', termId: term.id, label, seen: term.label }, { onSuccess: onDone });
  };
  return (
    <TextField
      label={`New label of ${term.label}`}
      hideLabel
      autoFocus
      maxLength={200}
      className="min-w-0 flex-1"
      boxClass="h-6 !px-1"
      value={label}
      onFocus={(event) => event.target.select()}
      onClick={(event) => event.stopPropagation()}
      onChange={(event) => setLabel(event.target.value)}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Enter') save();
        else if (event.key === 'Escape') onDone();
      }}
      onBlur={onDone}
    />
  );
}
