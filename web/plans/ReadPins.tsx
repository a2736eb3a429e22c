// Taking in pins: from a file, or from the image regions of the plan's photo. What would come is shown before.

import { useState } from 'react';
import type { PinForm, Plan } from '@stellin/contract/plans';
import { countText } from '@stellin/contract/wording';
import { showError } from '../foundation/changes';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { useFilePicker } from '../parts/useFilePicker';
import { PinSign } from './PinSign';
import { useReadPins, useReadRegions } from './queries';
import type { PlanWork } from './usePlanWork';

interface Read {
  pins: PinForm[];
  leftOut: number;
}

export function ReadPins({ work, plan, onClose }: { work: PlanWork; plan: Plan; onClose: () => void }) {
  const [found, setFound] = useState<Read | null>(null);
  const read = useReadPins();
  const regions = useReadRegions();
  const [field, openFiles] = useFilePicker({
    label: 'File with pins',
    accept: '.geojson,.json,.xmp,.xml',
    onFiles: ([file]) => {
      if (!file) return;
      file
        .text()
        .then((text) => read.mutate({ id: plan.id, text }, { onSuccess: setFound }))
        .catch(showError);
    },
  });
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={`Take in pins for ${plan.name}`}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          work.save(found?.pins.map((pin) => ({ pinId: null, pin })) ?? [], onClose);
        }}
      >
        <div className="flex flex-wrap gap-2">
          <Button disabled={read.isPending} onClick={openFiles}>
            From a file: GeoJSON or XMP …
          </Button>
          {plan.photoId !== null && (
            <Button disabled={regions.isPending} onClick={() => regions.mutate(plan.id, { onSuccess: setFound })}>
              From the image regions of its photo
            </Button>
          )}
          {field}
        </div>
        {found && (
          <div>
            <p role="status">
              {countText(found.pins.length, 'pin')}
              {found.leftOut > 0 && `; ${found.leftOut} more have no spot on this plan`}
            </p>
            <ul className="mt-1 max-h-60 overflow-y-auto">
              {found.pins.map((pin) => (
                <li key={pin.number} className="flex items-center gap-2 py-0.5">
                  <PinSign pin={pin} plain />
                  <span className="min-w-0 flex-1 truncate">{pin.label}</span>
                  <span className="text-[12px] text-ink-2">{pin.layer}</span>
                </li>
              ))}
            </ul>
          </div>
        )}
        <FormActions
          action="Put them on the plan"
          disabled={!found || found.pins.length === 0 || work.change.isPending}
          onCancel={onClose}
        />
      </form>
    </Dialog>
  );
}
