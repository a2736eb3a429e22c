// Dragging by keys: Ctrl Space grasps what has the focus, arrows go from one place that takes it to the next, Enter or Space
// drops it there, Esc lets go. While something is held, keys mean nothing else.

import type { SensorInstance, SensorProps } from '@dnd-kit/core';
import type { RefObject } from 'react';

export interface Point {
  x: number;
  y: number;
}

interface Options {
  /** Where the keys have brought what is held, as coordinates of the window. */
  at: RefObject<Point | null>;
}

const STEPS: Record<string, Point> = {
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
  ArrowUp: { x: 0, y: -1 },
  ArrowDown: { x: 0, y: 1 },
};

export class GraspSensor implements SensorInstance {
  readonly autoScrollEnabled = false;
  private readonly start: Point;
  private here: Point;

  constructor(private readonly props: SensorProps<Options>) {
    const node = props.activeNode.node.current;
    this.start = this.here = node ? middleOf(node.getBoundingClientRect()) : { x: 0, y: 0 };
    props.options.at.current = this.here;
    props.onStart({ x: 0, y: 0 });
    window.addEventListener('keydown', this.onKeyDown, { capture: true });
    window.addEventListener('resize', this.letGo);
  }

  static activators = [
    {
      eventName: 'onKeyDown' as const,
      handler: ({ nativeEvent, currentTarget, target }: React.KeyboardEvent): boolean => {
        if (nativeEvent.code !== 'Space' || !nativeEvent.ctrlKey || target !== currentTarget) return false;
        nativeEvent.preventDefault();
        return true;
      },
    },
  ];

  private readonly onKeyDown = (event: KeyboardEvent): void => {
    event.preventDefault();
    event.stopPropagation();
    const step = STEPS[event.key];
    if (step) this.go(step);
    else if (event.key === 'Escape') this.letGo();
    else if (event.key === 'Enter' || event.key === ' ') this.end(this.props.onEnd);
  };

  private readonly letGo = (): void => this.end(this.props.onCancel);

  private end(how: () => void): void {
    window.removeEventListener('keydown', this.onKeyDown, { capture: true });
    window.removeEventListener('resize', this.letGo);
    how();
    this.props.options.at.current = null;
  }

  private go(step: Point): void {
    const next = nearest(this.here, step, droppable(this.props));
    if (!next) return;
    this.here = next;
    this.props.options.at.current = next;
    this.props.onMove({ x: next.x - this.start.x, y: next.y - this.start.y });
  }
}

/** The middles of all places that take what is held and can be seen. */
function droppable({ context, activeNode }: SensorProps<Options>): Point[] {
  return context.current.droppableContainers.getEnabled().flatMap(({ node: { current: node }, data }) => {
    if (!node || node === activeNode.node.current || !takesIt(data.current, activeNode.data.current)) return [];
    const middle = middleOf(node.getBoundingClientRect());
    const seen = document.elementFromPoint(middle.x, middle.y);
    return seen && (node.contains(seen) || seen.contains(node)) ? [middle] : [];
  });
}

/** Whether a place takes what is held, by what both say of themselves. */
export function takesIt(
  place: Record<string, unknown> | undefined,
  held: Record<string, unknown> | undefined,
): boolean {
  const takes = place?.['takes'] as Record<string, unknown> | undefined;
  const grasped = held?.['grasped'] as { what: string } | undefined;
  return grasped !== undefined && takes?.[grasped.what] !== undefined;
}

/** Of some points the next in a direction; what lies off the straight way counts as twice as far. */
export function nearest(from: Point, { x, y }: Point, points: readonly Point[]): Point | undefined {
  const reach = (point: Point) => {
    const [dx, dy] = [point.x - from.x, point.y - from.y];
    const along = dx * x + dy * y;
    const aside = Math.abs(dx * y) + Math.abs(dy * x);
    return along < 1 ? Infinity : along + 2 * aside;
  };
  const [next] = points.toSorted((a, b) => reach(a) - reach(b));
  return next && reach(next) < Infinity ? next : undefined;
}

function middleOf({ left, top, width, height }: DOMRect): Point {
  return { x: left + width / 2, y: top + height / 2 };
}
