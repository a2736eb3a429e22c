// What can be done with a pin.

import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { PlanPin } from '@stellin/contract/plans';
import { deskLink } from '../parts/deskLink';
import { Dialog } from '../parts/Dialog';
import { Field } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { Menu, MenuItem } from '../parts/Menu';
import { Select } from '../parts/Select';
import type { PlanWork } from './usePlanWork';

export function PinMenu({ work, pin }: { work: PlanWork; pin: PlanPin }) {
  const navigate = useNavigate();
  const [merging, setMerging] = useState(false);
  const { mayPin, mayGive, selection, change, planId, pins, give } = work;
  if (planId === undefined) return null;
  return (
    <>
      <Menu label={`What to do with the pin ${pin.name}`}>
        <MenuItem label="Show its photos on the Desk" onSelect={() => void navigate(deskLink(pin.query))} />
        {mayGive && (
          <MenuItem
            label="Put the chosen photos here"
            disabled={selection === null}
            onSelect={() => give(pin, selection)}
          />
        )}
        {mayPin && (
          <>
            <MenuItem label="Merge into another …" disabled={pins.length < 2} onSelect={() => setMerging(true)} />
            <MenuItem label="Remove" onSelect={() => change.mutate({ kind: 'removePins', planId, pinIds: [pin.id] })} />
          </>
        )}
      </Menu>
      {merging && <MergePins work={work} pin={pin} onClose={() => setMerging(false)} />}
    </>
  );
}

function MergePins({ work, pin, onClose }: { work: PlanWork; pin: PlanPin; onClose: () => void }) {
  const others = work.pins.filter(({ id }) => id !== pin.id);
  const [intoId, setIntoId] = useState(others[0]?.id ?? 0);
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={`Merge the pin ${pin.name} into another`}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          work.change.mutate({ kind: 'mergePins', pinId: pin.id, intoId }, { onSuccess: onClose });
        }}
      >
        <Field label="Its photos come to">
          {(tied) => (
            <Select
              {...tied}
              className="w-full"
              value={intoId}
              onChange={setIntoId}
              options={others.map(({ id, number, name, label }) => ({
                value: id,
                label: label === '' ? name : `${number} · ${label}`,
              }))}
            />
          )}
        </Field>
        <FormActions action="Merge" disabled={work.change.isPending} onCancel={onClose} />
      </form>
    </Dialog>
  );
}
