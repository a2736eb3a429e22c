// The point that is picked on the map: where photos are meant to be placed, how they look, and the other end of a line.

import { useState } from 'react';
import type { Point } from '@stellin/core/timeplace/areas';

export interface Pin {
  point: Point | null;
  /** Where what is placed looks, in degrees; null: it is not said. */
  looks: number | null;
  /** The other end of a line; null: it is to be picked; undefined: none is meant. */
  end: Point | null | undefined;
  /** A point of the map is picked: as the other end where one is waited for. */
  pick: (point: Point) => void;
  put: (point: Point) => void;
  turn: (degrees: number | null) => void;
  setEnd: (end: Point | null | undefined) => void;
  drop: () => void;
}

export function usePin(): Pin {
  const [point, put] = useState<Point | null>(null);
  const [looks, turn] = useState<number | null>(null);
  const [end, setEnd] = useState<Point | null | undefined>(undefined);
  return {
    ...{ point, looks, end, put, turn, setEnd },
    pick: (picked) => (point && end !== undefined ? setEnd(picked) : put(picked)),
    drop: () => {
      put(null);
      turn(null);
      setEnd(undefined);
    },
  };
}
