// Finding and replacing in texts of fields.

import { useDeferredValue, useState } from 'react';
import type { FindMode } from '@stellin/core/describing/replacing';
import type { Target } from '@stellin/core/describing/targets';
import type { Selection } from '@stellin/contract/photos';
import { DescribeDialog } from './DescribeDialog';
import { FieldChoice } from './FieldChoice';
import { useTextFields } from './textFields';
import { Checkbox } from '../parts/Checkbox';
import { Radio, RadioGroup } from '../parts/RadioGroup';
import { TextField } from '../parts/Field';

const FINDS: readonly [FindMode, string][] = [
  ['text', 'anywhere'],
  ['words', 'whole words'],
  ['pattern', 'regular expression'],
];

export function ReplaceDialog({ selection, onClose }: { selection: Selection; onClose: () => void }) {
  const fields = useTextFields(selection);
  const [chosen, setChosen] = useState<ReadonlySet<Target> | null>(null);
  const [find, setFind] = useState('');
  const [replace, setReplace] = useState('');
  const [how, setHow] = useState<FindMode>('text');
  const [matchCase, setMatchCase] = useState(false);
  const targets = [...(chosen ?? new Set(fields))];
  const wanted = useDeferredValue({ find, replace });
  return (
    <DescribeDialog
      title="Find and replace in fields"
      verb="Replace in"
      selection={selection}
      description={
        wanted.find !== '' && targets.length > 0
          ? { kind: 'replaceText', targets, find: wanted.find, replace: wanted.replace, how, matchCase }
          : undefined
      }
      onClose={onClose}
    >
      <div className="grid grid-cols-2 gap-4">
        <TextField
          label="Find"
          autoFocus
          boxClass="h-8 font-mono text-[12px]"
          value={find}
          onChange={(event) => setFind(event.target.value)}
        />
        <TextField
          label="Replace by"
          boxClass="h-8 font-mono text-[12px]"
          help={how === 'pattern' ? '$1 is the first group' : undefined}
          value={replace}
          onChange={(event) => setReplace(event.target.value)}
        />
      </div>
      <div className="flex flex-wrap items-center gap-4">
        <RadioGroup label="What is looked for" value={how} onChange={setHow} className="flex gap-4">
          {FINDS.map(([mode, label]) => (
            <Radio key={mode} value={mode}>
              {label}
            </Radio>
          ))}
        </RadioGroup>
        <Checkbox checked={matchCase} onChange={setMatchCase}>
          capitals matter
        </Checkbox>
      </div>
      <FieldChoice label="In the fields" targets={fields} chosen={new Set(targets)} onChoose={setChosen} />
    </DescribeDialog>
  );
}
