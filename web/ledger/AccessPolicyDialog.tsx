// What of access is recorded, and how long it is kept.

import { useState } from 'react';
import {
  ACCESS_KINDS,
  ACCESS_KIND_IDS,
  ALWAYS_RECORDED,
  type AccessKind,
  type AccessPolicy,
} from '@stellin/contract/access';
import { Checkbox } from '../parts/Checkbox';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { Field } from '../parts/Field';
import { Queried } from '../parts/Queried';
import { Select } from '../parts/Select';
import { useAccessPolicy, useSetAccessPolicy } from './queries';

const KEPT: readonly { value: number; label: string }[] = [
  { value: 0, label: 'for good' },
  { value: 3650, label: 'ten years' },
  { value: 730, label: 'two years' },
  { value: 365, label: 'a year' },
  { value: 90, label: 'three months' },
  { value: 30, label: 'thirty days' },
];

export function AccessPolicyDialog({ onClose }: { onClose: () => void }) {
  const policy = useAccessPolicy();
  return (
    <Dialog open onOpenChange={onClose} title="What of access is recorded">
      <Queried query={policy}>{(known) => <Form policy={known} onClose={onClose} />}</Queried>
    </Dialog>
  );
}

function Form({ policy, onClose }: { policy: AccessPolicy; onClose: () => void }) {
  const [leftOut, setLeftOut] = useState<ReadonlySet<AccessKind>>(new Set(policy.leftOut));
  const [keepDays, setKeepDays] = useState(policy.keepDays ?? 0);
  const set = useSetAccessPolicy();
  const choices = KEPT.some(({ value }) => value === keepDays)
    ? KEPT
    : [...KEPT, { value: keepDays, label: `${keepDays} days` }];
  return (
    <form
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault();
        set.mutate({ leftOut: [...leftOut], keepDays: keepDays === 0 ? null : keepDays }, { onSuccess: onClose });
      }}
    >
      <p className="text-ink-2">Signing in and out, and what concerns this record itself, is always recorded.</p>
      <ul className="space-y-1">
        {ACCESS_KIND_IDS.filter((kind) => !ALWAYS_RECORDED.has(kind)).map((kind) => (
          <li key={kind}>
            <Checkbox
              checked={!leftOut.has(kind)}
              onChange={(isRecorded) => {
                const after = new Set(leftOut);
                if (isRecorded) after.delete(kind);
                else after.add(kind);
                setLeftOut(after);
              }}
            >
              {ACCESS_KINDS[kind]}
            </Checkbox>
          </li>
        ))}
      </ul>
      <Field
        label="It is kept"
        help="Older records go for good, and that they went is recorded. What was changed is kept for good."
      >
        {(tied) => <Select {...tied} className="w-48" value={keepDays} onChange={setKeepDays} options={choices} />}
      </Field>
      <FormActions onCancel={onClose} action="Keep this" disabled={set.isPending} />
    </form>
  );
}
