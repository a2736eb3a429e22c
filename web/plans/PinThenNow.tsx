// Two photos of one pin over one another: then and now.

import { useState } from 'react';
import type { Photo } from '@stellin/contract/photos';
import type { PlanPin } from '@stellin/contract/plans';
import { Dialog } from '../parts/Dialog';
import { ThenNow } from '../viewer/ThenNow';
import { FIT, type Zoom } from '../viewer/zoom';

interface Props {
  /** The earlier one. */
  below: Photo;
  above: Photo;
  pin: PlanPin;
  onClose: () => void;
}

export function PinThenNow({ below, above, pin, onClose }: Props) {
  const [zoom, setZoom] = useState<Zoom>(FIT);
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={`Then and now at ${pin.name}`} wide>
      <div className="flex h-[60vh] min-h-72">
        <ThenNow below={below} above={above} zoom={zoom} onZoom={setZoom} onFit={() => undefined} />
      </div>
    </Dialog>
  );
}
