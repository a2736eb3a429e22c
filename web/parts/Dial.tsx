// A direction in degrees, clockwise from north: turned by a handle, or by the arrow keys.

import type { KeyboardEvent, PointerEvent } from 'react';

interface Props {
  label: string;
  degrees: number;
  onTurn: (degrees: number) => void;
}

const STEPS: Readonly<Record<string, number>> = {
  ...{ ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1, PageUp: 15, PageDown: -15 },
};

export function Dial({ label, degrees, onTurn }: Props) {
  const turn = (to: number) => onTurn((Math.round(to) + 360) % 360);
  const onKeyDown = (event: KeyboardEvent) => {
    const step = event.key === 'Home' ? -degrees : STEPS[event.key];
    if (step === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    turn(degrees + step);
  };
  const towards = ({ currentTarget, clientX, clientY }: PointerEvent) => {
    const { left, top, width, height } = currentTarget.getBoundingClientRect();
    turn((Math.atan2(clientX - left - width / 2, top + height / 2 - clientY) * 180) / Math.PI);
  };
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={359}
      aria-valuenow={degrees}
      aria-valuetext={`${degrees}°`}
      className="relative size-14 shrink-0 touch-none rounded-full border border-line bg-sheet"
      onKeyDown={onKeyDown}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        towards(event);
      }}
      onPointerMove={(event) => event.buttons > 0 && towards(event)}
    >
      <span className="absolute inset-x-0 top-0 text-center text-[10px] text-ink-2" aria-hidden="true">
        N
      </span>
      <span className="absolute inset-0" style={{ transform: `rotate(${degrees}deg)` }} aria-hidden="true">
        <span className="absolute top-1/2 left-1/2 h-1/2 w-0.5 -translate-x-1/2 -translate-y-full bg-spruce" />
        <span className="absolute top-0 left-1/2 size-3 -translate-x-1/2 -translate-y-1 rounded-full border border-card bg-spruce" />
      </span>
    </div>
  );
}
