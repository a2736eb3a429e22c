// Pinning an old map: a spot of the picture is picked, then the same spot on the map.

import { X } from 'lucide-react';
import { useState, type MouseEvent } from 'react';
import { metresOff, placementOf, type MapPin } from '@stellin/core/timeplace/pinning';
import type { Point } from '@stellin/core/timeplace/areas';
import type { OldMapRow } from '@stellin/contract/oldMaps';
import { Button } from '../parts/Button';
import { TextField } from '../parts/Field';
import { distanceText, pointText } from './placeText';
import { oldMapUrl } from './oldMapUrl';
import { useChangeOldMap } from './queries';

export interface Pinning {
  map: OldMapRow;
  pins: readonly MapPin[];
  /** The spot of the picture whose point of the map is to be picked. */
  spot: { x: number; y: number } | null;
}

/** A point of the map was picked while an old map is pinned. */
export function withPoint(pinning: Pinning, point: Point): Pinning {
  const { spot, pins } = pinning;
  return spot ? { ...pinning, pins: [...pins, { ...spot, ...point }], spot: null } : pinning;
}

interface Props {
  pinning: Pinning;
  onPinning: (pinning: Pinning | null) => void;
}

export function PinPanel({ pinning, onPinning }: Props) {
  const { map, pins, spot } = pinning;
  const [name, setName] = useState(map.name);
  const save = useChangeOldMap();
  const pick = (event: MouseEvent<HTMLImageElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const x = Math.round(((event.clientX - box.left) / box.width) * map.width);
    const y = Math.round(((event.clientY - box.top) / box.height) * map.height);
    onPinning({ ...pinning, spot: { x, y } });
  };
  return (
    <section aria-labelledby="pinning" className="flex w-[26rem] shrink-0 flex-col border-l border-line bg-card">
      <div className="min-h-0 flex-1 overflow-y-auto px-3 pt-2">
        <h2 id="pinning" className="font-title text-[16px] font-semibold">
          Pin an old map
        </h2>
        <TextField
          label="Name"
          className="mt-1"
          value={name}
          maxLength={200}
          onChange={(event) => setName(event.target.value)}
        />
        <p role="status" className="my-2 text-[12px] text-ink-2">
          {spot
            ? 'Now pick the same spot on the map.'
            : pins.length < 2
              ? 'Pick a spot of the picture, then the same spot on the map. Two lay it over the map.'
              : 'Three and more pins also stretch it. Pick a further spot, or keep it so.'}
        </p>
        <div className="relative">
          <img src={oldMapUrl(map.id)} alt={map.name} className="w-full cursor-crosshair" onClick={pick} />
          {[...pins, ...(spot ? [spot] : [])].map(({ x, y }, i) => (
            <span
              key={`${x} ${y}`}
              className={`absolute -mt-2 -ml-2 flex size-4 items-center justify-center rounded-full text-[10px] text-card ${i < pins.length ? 'bg-spruce' : 'bg-amber'}`}
              style={{ left: `${(100 * x) / map.width}%`, top: `${(100 * y) / map.height}%` }}
              aria-hidden="true"
            >
              {i + 1}
            </span>
          ))}
        </div>
        <Pins pins={pins} onPins={(left) => onPinning({ ...pinning, pins: left })} />
      </div>
      <div className="flex gap-2 border-t border-line px-3 py-2">
        <Button
          look="primary"
          disabled={save.isPending || name.trim() === ''}
          onClick={() =>
            save.mutate(
              { id: map.id, name: name.trim(), note: map.note, pins: [...pins] },
              { onSuccess: () => onPinning(null) },
            )
          }
        >
          Keep it so
        </Button>
        <Button onClick={() => onPinning(null)}>Cancel</Button>
      </div>
    </section>
  );
}

/** The pins with how far each is off, once that can be told. */
function Pins({ pins, onPins }: { pins: readonly MapPin[]; onPins: (pins: MapPin[]) => void }) {
  const placement = placementOf(pins);
  return (
    <ol className="mt-2">
      {pins.map((pin, i) => (
        <li key={`${pin.x} ${pin.y}`} className="flex items-center gap-2 text-[12px]">
          <b>{i + 1}</b>
          <span className="font-mono">{pointText(pin)}</span>
          {placement && pins.length > 2 && (
            <span className="text-ink-2">off by {distanceText(metresOff(placement, pin))}</span>
          )}
          <Button
            aria-label={`Remove pin ${i + 1}`}
            className="ml-auto"
            onClick={() => onPins(pins.filter((each) => each !== pin))}
          >
            <X size={12} />
          </Button>
        </li>
      ))}
    </ol>
  );
}
