// Pasting fields that were copied from a photo onto others: which, and how.

import { useState } from 'react';
import { EDIT_MODES, type EditMode } from '@stellin/core/describing/editing';
import type { Target } from '@stellin/core/describing/targets';
import { fieldText } from '@stellin/core/metadata/fieldText';
import type { Selection } from '@stellin/contract/photos';
import { DescribeDialog } from './DescribeDialog';
import { FieldChoice } from './FieldChoice';
import { fieldsCopied } from './last';
import { MODE_LABELS } from './modes';
import { Select } from '../parts/Select';

export function PasteDialog({ selection, onClose }: { selection: Selection; onClose: () => void }) {
  const [{ from, edits }] = useState(() => fieldsCopied() ?? { from: '', edits: [] });
  const [chosen, setChosen] = useState<ReadonlySet<Target>>(new Set(edits.map(({ target }) => target)));
  const [mode, setMode] = useState<EditMode>('replace');
  const wanted = edits.filter(({ target }) => chosen.has(target)).map((edit) => ({ ...edit, mode }));
  return (
    <DescribeDialog
      title={`Paste fields of ${from}`}
      verb="Change"
      selection={selection}
      description={wanted.length > 0 ? { kind: 'setFields', edits: wanted, pasted: true } : undefined}
      onClose={onClose}
    >
      <FieldChoice
        label="Fields to paste"
        targets={edits.map(({ target }) => target)}
        chosen={chosen}
        onChoose={setChosen}
        says={(target) => {
          const value = edits.find((edit) => edit.target === target)?.value;
          return value === null || value === undefined ? '' : fieldText(value);
        }}
      />
      <label className="flex items-center gap-2">
        They
        <Select
          autoFocus
          className="h-7"
          value={mode}
          onChange={setMode}
          options={EDIT_MODES.filter((each) => each !== 'remove').map((each) => ({
            value: each,
            label: MODE_LABELS[each],
          }))}
        />
        what the chosen photos say.
      </label>
    </DescribeDialog>
  );
}
