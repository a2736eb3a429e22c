// Tidying texts of fields: white space, quotation marks, capitals, full stops.

import { useState } from 'react';
import { TIDY_RULES, type TidyRule } from '@stellin/core/describing/replacing';
import type { Target } from '@stellin/core/describing/targets';
import type { Selection } from '@stellin/contract/photos';
import { DescribeDialog } from './DescribeDialog';
import { FieldChoice } from './FieldChoice';
import { useTextFields } from './textFields';
import { Checkbox } from '../parts/Checkbox';

const RULES = Object.keys(TIDY_RULES) as TidyRule[];
/** Rules of which only one can hold. */
const AGAINST: Partial<Record<TidyRule, TidyRule>> = { fullStop: 'noFullStop', noFullStop: 'fullStop' };

export function TidyDialog({ selection, onClose }: { selection: Selection; onClose: () => void }) {
  const fields = useTextFields(selection);
  const [chosen, setChosen] = useState<ReadonlySet<Target> | null>(null);
  const [rules, setRules] = useState<readonly TidyRule[]>(['space']);
  const targets = [...(chosen ?? new Set(fields))];
  const set = (rule: TidyRule, wanted: boolean) =>
    setRules(
      RULES.filter((each) => (each === rule ? wanted : rules.includes(each) && !(wanted && AGAINST[rule] === each))),
    );
  return (
    <DescribeDialog
      title="Tidy texts"
      verb="Tidy"
      selection={selection}
      description={
        rules.length > 0 && targets.length > 0 ? { kind: 'tidyText', targets, rules: [...rules] } : undefined
      }
      onClose={onClose}
    >
      <div className="grid grid-cols-2 gap-x-6 gap-y-1">
        {RULES.map((rule, i) => (
          <Checkbox
            key={rule}
            autoFocus={i === 0}
            checked={rules.includes(rule)}
            onChange={(checked) => set(rule, checked)}
          >
            <span>
              {TIDY_RULES[rule].label}
              <span className="block text-[12px] text-ink-2">{TIDY_RULES[rule].help}</span>
            </span>
          </Checkbox>
        ))}
      </div>
      <FieldChoice label="In the fields" targets={fields} chosen={new Set(targets)} onChoose={setChosen} />
    </DescribeDialog>
  );
}
