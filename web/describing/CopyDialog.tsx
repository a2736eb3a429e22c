// Copying fields of a photo: which of them.

import { useState } from 'react';
import type { Target } from '@stellin/core/describing/targets';
import { fieldText } from '@stellin/core/metadata/fieldText';
import { countText } from '@stellin/contract/wording';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { FieldChoice } from './FieldChoice';
import { copyFields, type CopiedFields } from './last';

interface Props {
  copied: CopiedFields;
  onClose: () => void;
  onCopied: (count: number) => void;
}

export function CopyDialog({ copied: { from, edits }, onClose, onCopied }: Props) {
  const [chosen, setChosen] = useState<ReadonlySet<Target>>(new Set(edits.map(({ target }) => target)));
  const submit = () => {
    copyFields({ from, edits: edits.filter(({ target }) => chosen.has(target)) });
    onCopied(chosen.size);
  };
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={`Copy fields of ${from}`} wide>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          submit();
        }}
      >
        <FieldChoice
          label="Fields to copy"
          targets={edits.map(({ target }) => target)}
          chosen={chosen}
          onChoose={setChosen}
          says={(target) => {
            const value = edits.find((edit) => edit.target === target)?.value;
            return value === null || value === undefined ? '' : fieldText(value);
          }}
        />
        <FormActions
          onCancel={onClose}
          action={`Copy ${countText(chosen.size, 'field')}`}
          disabled={chosen.size === 0}
        />
      </form>
    </Dialog>
  );
}
