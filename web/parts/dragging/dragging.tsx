// Dragging with the pointer or by keys: terms, photos, dossiers and faces, and the places that take them. Every drag has a key
// or a menu that does the same.

import {
  DndContext,
  DragOverlay,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type Announcements,
  type CollisionDetection,
  type DragEndEvent,
  type DragMoveEvent,
  type DroppableContainer,
  type Modifier,
} from '@dnd-kit/core';
import { useCombinedRefs } from '@dnd-kit/utilities';
import { createContext, useCallback, useContext, useRef, useState, type HTMLAttributes, type ReactNode } from 'react';
import { GraspSensor, takesIt, type Point } from './GraspSensor';

/** What can be dragged. `text` says what it is. */
export type Grasped =
  | { what: 'terms'; ids: number[]; text: string }
  /** The photo that was grasped; whether all chosen ones go along is for the place to say. */
  | { what: 'photo'; id: number; text: string }
  | { what: 'dossier'; id: number; text: string }
  | { what: 'folder'; id: number; text: string }
  | { what: 'faces'; ids: number[]; text: string };

/** Where on a place something is dropped: on it, or on its upper edge, before it. */
export type DropZone = 'on' | 'before';

/** What a place does with each kind of thing it takes. */
type Takes = {
  [What in Grasped['what']]?:
    | ((grasped: Extract<Grasped, { what: What }>, zone: DropZone, at: DropPoint) => void)
    | undefined;
};

/** Where in the window something was let go: by the pointer, or by keys in the middle of what takes it. */
export type DropPoint = Point;

const HeldContext = createContext<{ held: Grasped | null; over: string | null; zone: DropZone }>({
  held: null,
  over: null,
  zone: 'on',
});

/** Lets what it holds be dragged from anywhere to anywhere. */
export function DragProvider({ children }: { children: ReactNode }) {
  const [held, setHeld] = useState<Grasped | null>(null);
  const [over, setOver] = useState<{ over: string | null; zone: DropZone }>({ over: null, zone: 'on' });
  const at = useRef<Point | null>(null);
  // What takes it at the point reached last: what the package tells comes a moment later, after a quick key already.
  const place = useRef<DroppableContainer | undefined>(undefined);
  const sensors = useSensors(
    // A click that trembles is still a click.
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(GraspSensor, { at }),
  );
  // What is seen at the point decides: an element that has scrolled out of its area takes nothing.
  const collisionDetection = useCallback<CollisionDetection>(({ active, pointerCoordinates, droppableContainers }) => {
    const point = pointerCoordinates ?? at.current;
    const seen = point && document.elementFromPoint(point.x, point.y)?.closest<HTMLElement>('[data-place]');
    place.current = droppableContainers.find(
      ({ id, data }) => id === seen?.dataset['place'] && takesIt(data.current, active.data.current),
    );
    return place.current ? [{ id: place.current.id }] : [];
  }, []);
  const look = (event: DragMoveEvent) => {
    const next = {
      over: event.over ? String(event.over.id) : null,
      zone: zoneOf({ ...event, over: event.over?.rect ?? null }),
    };
    setOver((before) => (before.over === next.over && before.zone === next.zone ? before : next));
  };
  const letGo = () => {
    place.current = undefined;
    setHeld(null);
    setOver({ over: null, zone: 'on' });
  };
  const drop = (event: DragEndEvent) => {
    const takes = place.current?.data.current?.['takes'] as Takes | undefined;
    const grasped = graspedIn(event);
    const zone = zoneOf({ ...event, over: place.current?.rect.current ?? null });
    const at = pointOf(event, place.current?.rect.current ?? null);
    letGo();
    // The kind of what is held is that of what takes it.
    const take =
      grasped && (takes?.[grasped.what] as ((given: Grasped, zone: DropZone, at: DropPoint) => void) | undefined);
    if (grasped) take?.(grasped, zone, at);
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={collisionDetection}
      accessibility={{ announcements: ANNOUNCEMENTS, screenReaderInstructions: INSTRUCTIONS }}
      onDragStart={(event) => setHeld(graspedIn(event) ?? null)}
      onDragMove={look}
      onDragOver={look}
      onDragEnd={drop}
      onDragCancel={letGo}
    >
      <HeldContext value={{ held, ...over }}>{children}</HeldContext>
      <DragOverlay dropAnimation={null} modifiers={[besidePointer]} style={{ pointerEvents: 'none' }}>
        {held && (
          <span className="inline-block max-w-64 truncate rounded border border-spruce bg-card px-2 py-0.5 text-ink shadow-lg">
            {held.text}
          </span>
        )}
      </DragOverlay>
    </DndContext>
  );
}

interface Dragging {
  ref: (element: HTMLElement | null) => void;
  props: Pick<HTMLAttributes<HTMLElement>, 'onPointerDown' | 'onKeyDown'> & {
    'data-place'?: string;
    'data-over'?: DropZone | undefined;
  };
  /** Where on the element something is held that it takes. */
  over: DropZone | undefined;
}

/**
 * Makes an element one that can be grasped, one on which things are dropped, or both.
 * `id` is unique on the page; without `grasped` it stays where it is, without `takes` nothing is dropped on it.
 */
export function useDragging(
  id: string,
  { grasped, takes }: { grasped?: Grasped | undefined; takes?: Takes },
): Dragging {
  const { held, over, zone } = useContext(HeldContext);
  const mayTake = held !== null && takes?.[held.what] !== undefined;
  const drag = useDraggable({ id, data: { grasped }, disabled: grasped === undefined });
  const drop = useDroppable({ id, data: { takes }, disabled: takes === undefined });
  const heldOver = mayTake && over === id ? zone : undefined;
  return {
    ref: useCombinedRefs(drag.setNodeRef, drop.setNodeRef),
    props: { ...drag.listeners, ...(takes ? { 'data-place': id, 'data-over': heldOver } : {}) },
    over: heldOver,
  };
}

function graspedIn({ active }: Pick<DragMoveEvent, 'active'>): Grasped | undefined {
  return active.data.current?.['grasped'] as Grasped | undefined;
}

interface Where extends Pick<DragMoveEvent, 'activatorEvent' | 'delta'> {
  /** The place's rectangle in the window. */
  over: Pick<DOMRect, 'top' | 'height'> | null;
}

/** The upper part of a place stands for what comes before it; keys always mean the place itself. */
function zoneOf({ activatorEvent, delta, over }: Where): DropZone {
  if (!over || !(activatorEvent instanceof PointerEvent)) return 'on';
  return activatorEvent.clientY + delta.y - over.top < over.height * 0.3 ? 'before' : 'on';
}

/** Where the pointer is; with keys the middle of the place. */
function pointOf(
  { activatorEvent, delta }: Pick<DragMoveEvent, 'activatorEvent' | 'delta'>,
  over: Pick<DOMRect, 'left' | 'top' | 'width' | 'height'> | null,
): DropPoint {
  if (activatorEvent instanceof PointerEvent)
    return { x: activatorEvent.clientX + delta.x, y: activatorEvent.clientY + delta.y };
  return { x: (over?.left ?? 0) + (over?.width ?? 0) / 2, y: (over?.top ?? 0) + (over?.height ?? 0) / 2 };
}

/** What is shown while dragging stands beside the pointer, wherever the element was grasped. */
const besidePointer: Modifier = ({ activatorEvent, draggingNodeRect, transform }) =>
  activatorEvent instanceof PointerEvent && draggingNodeRect
    ? {
        ...transform,
        x: transform.x + activatorEvent.clientX - draggingNodeRect.left + 12,
        y: transform.y + activatorEvent.clientY - draggingNodeRect.top + 12,
      }
    : transform;

const INSTRUCTIONS = {
  draggable: 'Ctrl Space grasps this. Then arrows go to where it can be dropped, Enter drops it, Escape lets it go.',
};

const nameOf = (event: Pick<DragMoveEvent, 'active'>) => graspedIn(event)?.text ?? 'It';

const ANNOUNCEMENTS: Announcements = {
  onDragStart: (event) => `${nameOf(event)} is held.`,
  onDragOver: ({ over, ...event }) => {
    const place = over && document.querySelector(`[data-place="${CSS.escape(String(over.id))}"]`);
    return place ? `${nameOf(event)} is over ${place.getAttribute('aria-label') ?? place.textContent}.` : undefined;
  },
  onDragEnd: ({ over, ...event }) => (over ? `${nameOf(event)} was dropped.` : `${nameOf(event)} was let go.`),
  onDragCancel: (event) => `${nameOf(event)} was let go.`,
};
