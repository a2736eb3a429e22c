// How a pin looks: its number on its shape and colour, with an arrow where it looks somewhere.

import { PIN_SHAPE_CORNERS, type PinLook } from '@stellin/core/plans/pins';
import type { MarkColour } from '@stellin/core/describing/marks';
import { COLOURS } from '../parts/colours';

interface Props {
  pin: { number: number; shape: PinLook; colour: MarkColour; direction: number | null };
  chosen?: boolean;
  /** Without the arrow, in lists. */
  plain?: boolean;
}

const RADIUS = 11;

export function PinSign({ pin: { number, shape, colour, direction }, chosen = false, plain = false }: Props) {
  const corners = PIN_SHAPE_CORNERS[shape].map(([x, y]) => `${x * RADIUS},${y * RADIUS}`).join(' ');
  const edge = { stroke: chosen ? 'var(--color-ink)' : 'var(--color-card)', strokeWidth: chosen ? 2.5 : 1.5 };
  const fill = COLOURS[colour];
  return (
    <svg
      viewBox="-15 -15 30 30"
      width={plain ? 24 : 30}
      height={plain ? 24 : 30}
      aria-hidden="true"
      className="shrink-0 overflow-visible"
    >
      {!plain && direction !== null && (
        <polygon points="-6,-10 6,-10 0,-26" transform={`rotate(${direction})`} fill={fill} {...edge} />
      )}
      {corners === '' ? (
        <circle r={RADIUS} fill={fill} {...edge} />
      ) : (
        <polygon points={corners} fill={fill} {...edge} />
      )}
      <text
        y="4"
        textAnchor="middle"
        fontSize={number > 999 ? 8 : number > 99 ? 9.5 : 11.5}
        fontWeight="600"
        fill="#ffffff"
      >
        {number}
      </text>
    </svg>
  );
}
