// A plan with its pins: moved and zoomed by pointer, touch and keys; pins are buttons that stand on it.

import 'ol/ol.css';
import { useEffect, useEffectEvent, useImperativeHandle, useRef, useState, type ReactNode, type Ref } from 'react';
import { createPortal } from 'react-dom';
import { isOnPlan, type PlanSize, type Spot } from '@stellin/core/plans/pins';
import { coordinateOf, openPlan, spotOf, type OpenPlan } from './openPlan';

export interface PlanHandle {
  zoom: (by: number) => void;
  /** Moves a spot into sight, where it is not. */
  show: (spot: Spot) => void;
  whole: () => void;
  /** The spot at a place of the window, and how many pixels of the picture a pixel of the screen is; undefined beside the plan. */
  at: (client: { x: number; y: number }) => { spot: Spot; scale: number } | undefined;
}

interface Props {
  ref: Ref<PlanHandle>;
  plan: PlanSize & { id: number; pictureId: number; name: string };
  /** A spot was clicked, or chosen by Enter in the middle of what is seen. */
  onSpot: (spot: Spot) => void;
  /** Whether spots are being picked: a cross shows which one Enter takes. */
  picking: boolean;
  /** What stands on the plan. It is placed by parts of the plan: see `placed`. */
  children: ReactNode;
}

const MOVE_MS = 200;
const MARGIN = [12, 12, 12, 12];
/** What stands so near the edge is hardly in sight. */
const EDGE = 60;

/** Where something at a spot stands on the plan as it is shown now. */
export function placed({ x, y }: Spot): { left: string; top: string } {
  return {
    left: `calc(var(--plan-left) + ${x} * var(--plan-width))`,
    top: `calc(var(--plan-top) + ${y} * var(--plan-height))`,
  };
}

/** What covers the plan exactly. */
export const COVERING = {
  left: 'var(--plan-left)',
  top: 'var(--plan-top)',
  width: 'var(--plan-width)',
  height: 'var(--plan-height)',
} as const;

export function PlanMap({ ref, plan, onSpot, picking, children }: Props) {
  const element = useRef<HTMLDivElement>(null);
  const opened = useRef<OpenPlan | null>(null);
  /** Where the package lets things stand over the picture, so that wheel and touch go on moving it. */
  const [over, setOver] = useState<HTMLElement | null>(null);
  const clicked = useEffectEvent((spot: Spot) => onSpot(spot));
  const { id, pictureId, width, height } = plan;

  useEffect(() => {
    const target = element.current;
    if (!target) return undefined;
    const open = openPlan(
      target,
      { id, pictureId, width, height },
      {
        clicked: (spot) => clicked(spot),
        // Told to the style alone: nothing is drawn anew while the plan moves.
        moved: (place) => {
          for (const [name, pixels] of Object.entries(place)) target.style.setProperty(`--plan-${name}`, `${pixels}px`);
        },
      },
    );
    opened.current = open;
    setOver(open.map.getOverlayContainer() ?? null);
    return () => {
      open.close();
      opened.current = null;
      setOver(null);
    };
  }, [id, pictureId, width, height]);

  useImperativeHandle(ref, () => handleOf(opened, element, { width, height }), [width, height]);

  return (
    <div className="relative size-full">
      <div
        ref={element}
        tabIndex={0}
        role="application"
        aria-label={`Site plan ${plan.name}. Arrows move it, + and − zoom${picking ? ', Enter picks the spot in the middle' : ''}.`}
        className={`size-full bg-ground ${picking ? 'cursor-crosshair' : ''}`}
        onKeyDown={(event) => {
          const map = opened.current?.map;
          const centre = map?.getView().getCenter();
          if (event.key !== 'Enter' || event.target !== event.currentTarget || !picking || !centre) return;
          event.preventDefault();
          onSpot(spotOf(centre, plan));
        }}
      />
      {over && createPortal(children, over)}
      {picking && (
        <span
          aria-hidden="true"
          className="pointer-events-none absolute top-1/2 left-1/2 size-6 -translate-x-1/2 -translate-y-1/2 before:absolute before:top-1/2 before:h-px before:w-full before:bg-ink after:absolute after:left-1/2 after:h-full after:w-px after:bg-ink"
        />
      )}
    </div>
  );
}

function handleOf(
  opened: React.RefObject<OpenPlan | null>,
  element: React.RefObject<HTMLDivElement | null>,
  size: PlanSize,
): PlanHandle {
  const view = () => opened.current?.map.getView();
  return {
    zoom: (by) => view()?.animate({ zoom: (view()?.getZoom() ?? 0) + by, duration: MOVE_MS }),
    show: (spot) => {
      const coordinate = coordinateOf(spot, size);
      const [x = 0, y = 0] = opened.current?.map.getPixelFromCoordinate(coordinate) ?? [];
      const { clientWidth = 0, clientHeight = 0 } = element.current ?? {};
      const isSeen = x > EDGE && y > EDGE && x < clientWidth - EDGE && y < clientHeight - EDGE;
      if (!isSeen) view()?.animate({ center: coordinate, duration: MOVE_MS });
    },
    whole: () => view()?.fit([0, 0, size.width, size.height], { padding: MARGIN, duration: MOVE_MS }),
    at: ({ x, y }) => {
      const box = element.current?.getBoundingClientRect();
      const coordinate = box && opened.current?.map.getCoordinateFromPixel([x - box.left, y - box.top]);
      const spot = coordinate && spotOf(coordinate, size);
      return spot && isOnPlan(spot) ? { spot, scale: view()?.getResolution() ?? 1 } : undefined;
    },
  };
}
