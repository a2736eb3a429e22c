// The pins on a plan: outlines of areas, and for each pin a button that can be chosen, moved and be given photos.

import { useRef, useState, type KeyboardEvent, type PointerEvent, type RefObject } from 'react';
import type { Spot } from '@stellin/core/plans/pins';
import type { PlanPin } from '@stellin/contract/plans';
import { countText } from '@stellin/contract/wording';
import { COLOURS } from '../parts/colours';
import { COVERING, placed, type PlanHandle } from './PlanMap';
import { PinSign } from './PinSign';

interface Props {
  map: RefObject<PlanHandle | null>;
  pins: readonly PlanPin[];
  chosenId: number | null;
  onChoose: (pin: PlanPin) => void;
  /** A pin was moved; undefined for who may not. An area moves with its outline. */
  onMoved?: ((pin: PlanPin, by: Spot) => void) | undefined;
  /** Clicks are meant for the plan below. */
  passing: boolean;
  /** Corners of an area that is being drawn. */
  drawn: readonly Spot[];
}

export function Pins({ map, pins, chosenId, onChoose, onMoved, passing, drawn }: Props) {
  return (
    <>
      <svg viewBox="0 0 1 1" preserveAspectRatio="none" aria-hidden="true" className="absolute" style={COVERING}>
        {pins.map(
          ({ id, corners, colour }) =>
            corners && (
              <polygon
                key={id}
                points={corners.map(({ x, y }) => `${x},${y}`).join(' ')}
                fill={COLOURS[colour]}
                fillOpacity={id === chosenId ? 0.3 : 0.14}
                stroke={COLOURS[colour]}
                strokeWidth={id === chosenId ? 3 : 1.5}
                vectorEffect="non-scaling-stroke"
              />
            ),
        )}
        {drawn.length > 1 && (
          <polyline
            points={drawn.map(({ x, y }) => `${x},${y}`).join(' ')}
            fill="none"
            className="stroke-ink"
            strokeWidth={2}
            strokeDasharray="6 4"
            vectorEffect="non-scaling-stroke"
          />
        )}
      </svg>
      {drawn.map((corner) => (
        <span
          key={`${corner.x} ${corner.y}`}
          aria-hidden="true"
          className="absolute size-2.5 -translate-x-1/2 -translate-y-1/2 rounded-full border border-card bg-ink"
          style={placed(corner)}
        />
      ))}
      {pins.map((pin) => (
        <Pin
          key={pin.id}
          map={map}
          pin={pin}
          isChosen={pin.id === chosenId}
          passing={passing}
          onChoose={() => onChoose(pin)}
          onMoved={onMoved && ((by) => onMoved(pin, by))}
        />
      ))}
    </>
  );
}

interface PinProps {
  map: RefObject<PlanHandle | null>;
  pin: PlanPin;
  isChosen: boolean;
  passing: boolean;
  onChoose: () => void;
  onMoved: ((by: Spot) => void) | undefined;
}

/** How far a key moves a pin: a part of the plan. */
const STEP = 0.005;
const STEPS: Readonly<Record<string, Spot>> = {
  ArrowLeft: { x: -STEP, y: 0 },
  ArrowRight: { x: STEP, y: 0 },
  ArrowUp: { x: 0, y: -STEP },
  ArrowDown: { x: 0, y: STEP },
};
const NOWHERE: Spot = { x: 0, y: 0 };
/** A click that trembles is still a click. */
const TREMBLE_PIXELS = 4;

function Pin({ map, pin, isChosen, passing, onChoose, onMoved }: PinProps) {
  /** How far it is moved while it is held, and not kept yet. */
  const [away, setAway] = useState(NOWHERE);
  const begun = useRef<{ spot: Spot; client: { x: number; y: number } } | null>(null);
  const at = { x: clamped(pin.x + away.x), y: clamped(pin.y + away.y) };
  const settle = () => {
    begun.current = null;
    if (away.x !== 0 || away.y !== 0) onMoved?.({ x: at.x - pin.x, y: at.y - pin.y });
    setAway(NOWHERE);
  };
  const hold = (event: PointerEvent<HTMLButtonElement>) => {
    // The plan below stays where it is.
    event.stopPropagation();
    const found = map.current?.at({ x: event.clientX, y: event.clientY });
    if (!onMoved || !found || event.button !== 0) return;
    begun.current = { spot: found.spot, client: { x: event.clientX, y: event.clientY } };
    event.currentTarget.setPointerCapture(event.pointerId);
  };
  const drag = (event: PointerEvent<HTMLButtonElement>) => {
    if (!begun.current) return;
    event.stopPropagation();
    const { spot, client } = begun.current;
    const far = Math.hypot(event.clientX - client.x, event.clientY - client.y);
    const found = map.current?.at({ x: event.clientX, y: event.clientY });
    if (found && (far > TREMBLE_PIXELS || away !== NOWHERE))
      setAway({ x: found.spot.x - spot.x, y: found.spot.y - spot.y });
  };
  const step = (event: KeyboardEvent<HTMLButtonElement>) => {
    const by = event.altKey ? STEPS[event.key] : undefined;
    if (!by || !onMoved) return;
    event.preventDefault();
    event.stopPropagation();
    setAway((before) => ({ x: before.x + by.x, y: before.y + by.y }));
  };
  const { name, photos, cover } = pin;
  return (
    <button
      type="button"
      data-pin={pin.id}
      aria-pressed={isChosen}
      aria-label={`Pin ${name}, ${countText(photos, 'photo')}`}
      title={`${name} · ${countText(photos, 'photo')}${onMoved ? ' · drag it, or Alt and arrows, to move it' : ''}`}
      className={`${passing ? 'pointer-events-none' : 'pointer-events-auto'} absolute flex -translate-x-1/2 -translate-y-1/2 touch-none flex-col items-center rounded-full ${isChosen ? 'z-10' : ''}`}
      style={placed(at)}
      onClick={onChoose}
      onPointerDown={hold}
      onPointerMove={drag}
      onPointerUp={settle}
      onPointerCancel={() => {
        begun.current = null;
        setAway(NOWHERE);
      }}
      onKeyDown={step}
      onKeyUp={(event) => event.key === 'Alt' && settle()}
      onBlur={settle}
    >
      <PinSign pin={pin} chosen={isChosen} />
      {cover && photos > 0 && (
        <span
          aria-hidden="true"
          className="figures pointer-events-none absolute top-full -mt-1 rounded-sm bg-card/90 px-1 text-[10px] leading-[14px] text-ink"
        >
          {photos}
        </span>
      )}
    </button>
  );
}

function clamped(part: number): number {
  return Math.max(0, Math.min(1, part));
}
