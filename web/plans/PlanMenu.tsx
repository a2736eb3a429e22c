// What can be done with a plan.

import { useState } from 'react';
import { useNavigate } from 'react-router';
import { NUMBERING_IDS, NUMBERINGS } from '@stellin/core/plans/pins';
import { PIN_FORMATS, type Plan } from '@stellin/contract/plans';
import { useMayChange } from '../foundation/session';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { Menu, MenuItem } from '../parts/Menu';
import { Radio, RadioGroup } from '../parts/RadioGroup';
import { PlanForm } from './PlanForm';
import { exportUrl, FORMATS, printUrl } from './queries';
import { layersOf } from './pinForm';
import { ReadPins } from './ReadPins';
import type { PlanWork } from './usePlanWork';

type Open = 'form' | 'read' | 'number';

export function PlanMenu({ work, plan }: { work: PlanWork; plan: Plan }) {
  const navigate = useNavigate();
  const [open, setOpen] = useState<Open | null>(null);
  const mayRemove = useMayChange('removePlan');
  const { mayPin, mayGive, pins, hidden, change, setPanel, setMode } = work;
  const isTied = plan.ties.length > 1;
  const layers = layersOf(pins).filter((layer) => !hidden.has(layer));
  // The browser keeps what the server sends as a file.
  const take = (address: string) => window.location.assign(address);
  const close = () => setOpen(null);
  return (
    <>
      <Menu label={`What to do with the plan ${plan.name}`}>
        {mayPin && <MenuItem label="Name and note …" onSelect={() => setOpen('form')} />}
        {mayPin && (
          <MenuItem
            label="Tie it to the map …"
            onSelect={() => {
              setMode('tie');
              setPanel('tie');
            }}
          />
        )}
        {mayPin && (
          <MenuItem label="Number the pins anew …" disabled={pins.length < 2} onSelect={() => setOpen('number')} />
        )}
        {mayGive && (
          <MenuItem
            label="Propose pins by positions"
            disabled={!isTied || pins.length === 0}
            onSelect={() => setPanel('proposals')}
          />
        )}
        {mayGive && (
          <MenuItem
            label="Give its photos positions"
            disabled={!isTied || plan.photos === 0}
            onSelect={() => change.mutate({ kind: 'placeByPlan', planId: plan.id })}
          />
        )}
        <MenuItem label="Print, with pictures" onSelect={() => take(printUrl(plan.id, true, layers))} />
        <MenuItem label="Print, words only" onSelect={() => take(printUrl(plan.id, false, layers))} />
        {FORMATS.map((format) => (
          <MenuItem
            key={format}
            label={`Export the pins: ${PIN_FORMATS[format].label}`}
            onSelect={() => take(exportUrl(plan.id, format))}
          />
        ))}
        {mayPin && <MenuItem label="Take in pins …" onSelect={() => setOpen('read')} />}
        {mayGive && plan.photoId !== null && (
          <MenuItem
            label="Write the pins into its picture"
            disabled={pins.length === 0}
            onSelect={() => change.mutate({ kind: 'writePinRegions', planId: plan.id })}
          />
        )}
        {mayRemove && (
          <MenuItem
            label="Remove the plan"
            onSelect={() =>
              change.mutate(
                { kind: 'removePlan', planId: plan.id },
                { onSuccess: () => void navigate('/places/plans') },
              )
            }
          />
        )}
      </Menu>
      {open === 'form' && <PlanForm plan={plan} onClose={close} />}
      {open === 'number' && <NumberPins work={work} plan={plan} onClose={close} />}
      {open === 'read' && <ReadPins work={work} plan={plan} onClose={close} />}
    </>
  );
}

function NumberPins({ work, plan, onClose }: { work: PlanWork; plan: Plan; onClose: () => void }) {
  const [numbering, setNumbering] = useState(NUMBERING_IDS[0]);
  return (
    <Dialog open onOpenChange={(isOpen) => !isOpen && onClose()} title={`Number the pins of ${plan.name} anew`}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          work.change.mutate({ kind: 'numberPins', planId: plan.id, numbering }, { onSuccess: onClose });
        }}
      >
        <RadioGroup label="From 1 on" value={numbering} onChange={setNumbering}>
          {NUMBERING_IDS.map((each) => (
            <Radio key={each} value={each}>
              {NUMBERINGS[each]}
            </Radio>
          ))}
        </RadioGroup>
        <p className="text-[12px] text-ink-2">Pins without a label are called by their number: searches follow.</p>
        <FormActions action="Number them" disabled={work.change.isPending} onCancel={onClose} />
      </form>
    </Dialog>
  );
}
