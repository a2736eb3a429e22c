// Boxes of faces over a picture: who they show, naming them, drawing, moving and sizing them.

import { useEffect, useEffectEvent, useRef, useState, type PointerEvent } from 'react';
import { overlap, type Box } from '@stellin/core/people/boxes';
import { useChange } from '../foundation/changes';
import { useMayChange } from '../foundation/session';
import { Button } from '../parts/Button';
import { PersonPicker } from './PersonPicker';
import { useFacesOf } from './queries';

interface Props {
  photoId: number;
  /** Where the picture stands in its frame, in pixels of the screen. */
  place: { left: number; top: number; width: number; height: number };
  chosen: number | null;
  onChoose: (faceId: number | null) => void;
  drawing: boolean;
  onDrawn: () => void;
  /** Raised to bring the focus to the name of the chosen face. */
  focusKey: number;
}

const percent = (part: number) => `${part * 100}%`;
const styleOf = ({ left, top, width, height }: Box) => ({
  left: percent(left),
  top: percent(top),
  width: percent(width),
  height: percent(height),
});

export function FaceBoxes({ photoId, place, chosen, onChoose, drawing, onDrawn, focusKey }: Props) {
  const { data } = useFacesOf(photoId);
  const mayChange = useMayChange('nameFaces');
  const change = useChange();
  /** A box that is being moved or sized, until it is there. */
  const [moved, setMoved] = useState<{ id: number; box: Box } | null>(null);
  /** A box that was drawn and is on its way: once it is there, it is the chosen one. */
  const [drawn, setDrawn] = useState<Box | null>(null);
  const arrived = drawn && data?.faces.find((face) => face.drawn && overlap(face.box, drawn) > 0.95);
  const choose = useEffectEvent((id: number) => {
    setDrawn(null);
    onChoose(id);
  });
  useEffect(() => {
    if (arrived) choose(arrived.id);
  }, [arrived]);
  const faces = data?.faces.filter(({ state, id }) => state !== 'none' || id === chosen) ?? [];
  const own = faces.find(({ id }) => id === chosen);
  return (
    <div
      className={`absolute ${drawing ? 'cursor-crosshair' : 'pointer-events-none'}`}
      style={{ left: place.left, top: place.top, width: place.width, height: place.height }}
    >
      <ul aria-label="Faces">
        {faces.map((face) => (
          <FaceBox
            key={face.id}
            face={face}
            box={moved?.id === face.id ? moved.box : face.box}
            place={place}
            chosen={face.id === chosen}
            mayChange={mayChange && !drawing}
            onChoose={() => onChoose(face.id)}
            onMove={(box) => setMoved({ id: face.id, box })}
            onMoved={(box) =>
              change.mutate({ kind: 'moveFace', faceId: face.id, box }, { onSettled: () => setMoved(null) })
            }
          />
        ))}
      </ul>
      {drawing && (
        <DrawingArea
          place={place}
          onDrawn={(box) => {
            onDrawn();
            setDrawn(box);
            change.mutate({ kind: 'drawFace', photoId, box, who: null });
          }}
        />
      )}
      {own && mayChange && !drawing && (
        <FacePanel key={own.id} face={own} place={place} focusKey={focusKey} onClose={() => onChoose(null)} />
      )}
    </div>
  );
}

type ShownFace = NonNullable<ReturnType<typeof useFacesOf>['data']>['faces'][number];

function nameOf({ state, person, guess }: ShownFace): string {
  if (person) return person.name;
  if (state === 'unnamed') return 'not to be named';
  if (state === 'none') return 'no face';
  return guess ? `${guess.name}?` : 'not named';
}

interface BoxProps {
  face: ShownFace;
  box: Box;
  place: Props['place'];
  chosen: boolean;
  mayChange: boolean;
  onChoose: () => void;
  onMove: (box: Box) => void;
  onMoved: (box: Box) => void;
}

function FaceBox({ face, box, place, chosen, mayChange, onChoose, onMove, onMoved }: BoxProps) {
  const drag = useRef<{ x: number; y: number; box: Box; corner: boolean; now: Box } | null>(null);
  const start = (corner: boolean) => (event: PointerEvent) => {
    event.stopPropagation();
    onChoose();
    if (!mayChange || !chosen) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    drag.current = { x: event.clientX, y: event.clientY, box, corner, now: box };
  };
  const move = (event: PointerEvent) => {
    const from = drag.current;
    if (!from) return;
    event.stopPropagation();
    const [dx, dy] = [(event.clientX - from.x) / place.width, (event.clientY - from.y) / place.height];
    from.now = from.corner
      ? { ...from.box, width: Math.max(0.005, from.box.width + dx), height: Math.max(0.005, from.box.height + dy) }
      : { ...from.box, left: from.box.left + dx, top: from.box.top + dy };
    onMove(from.now);
  };
  const end = () => {
    const from = drag.current;
    drag.current = null;
    if (from && from.now !== from.box) onMoved(clamped(from.now));
  };
  const frame = chosen ? 'border-here' : face.person ? 'border-white' : 'border-dashed border-white';
  return (
    <li
      className={`pointer-events-auto absolute border-2 ${frame} shadow-[0_0_0_1px_rgba(0,0,0,0.55)] ${chosen && mayChange ? 'cursor-move' : 'cursor-pointer'}`}
      style={styleOf(box)}
      onPointerDown={start(false)}
      onPointerMove={move}
      onPointerUp={end}
      onDoubleClick={(event) => event.stopPropagation()}
    >
      <span className="pointer-events-none absolute top-full left-1/2 mt-1 -translate-x-1/2 rounded bg-black/75 px-1.5 text-[11px] whitespace-nowrap text-white">
        {nameOf(face)}
      </span>
      {chosen && mayChange && (
        <span
          className="absolute -right-1.5 -bottom-1.5 h-3 w-3 cursor-nwse-resize border border-black/60 bg-here"
          onPointerDown={start(true)}
          onPointerMove={move}
          onPointerUp={end}
        />
      )}
    </li>
  );
}

function clamped({ left, top, width, height }: Box): Box {
  const part = (value: number) => Math.max(0, Math.min(1, value));
  const [l, t] = [part(left), part(top)];
  return { left: l, top: t, width: part(left + width) - l, height: part(top + height) - t };
}

/** What can be done with the chosen face. Its keys mean nothing to the picture behind. */
function FacePanel({
  face,
  place,
  focusKey,
  onClose,
}: {
  face: ShownFace;
  place: Props['place'];
  focusKey: number;
  onClose: () => void;
}) {
  const change = useChange();
  const { left, top, width, height } = face.box;
  const faceIds = [face.id];
  const guess = face.state === 'open' ? face.guess : null;
  const small = '!h-7 !px-2 text-[12px]';
  // Beside the face, on the side where there is more room.
  const atRight = left + width / 2 < 0.5;
  const style = {
    top: Math.max(0, Math.min(place.height - 130, (top + height / 2) * place.height - 50)),
    ...(atRight ? { left: (left + width) * place.width + 10 } : { right: (1 - left) * place.width + 10 }),
  };
  return (
    <div
      role="group"
      aria-label="The chosen face"
      className="pointer-events-auto absolute z-10 w-64 space-y-1.5 rounded-md border border-line bg-card p-2.5 text-ink shadow-lg"
      style={style}
      onPointerDown={(event) => event.stopPropagation()}
      onDoubleClick={(event) => event.stopPropagation()}
    >
      {guess && (
        <p className="flex items-center gap-1.5">
          <span className="min-w-0 flex-1 truncate">
            Is this <b>{guess.name}</b>?
          </span>
          <Button
            look="primary"
            className={small}
            onClick={() => change.mutate({ kind: 'nameFaces', faceIds, who: { personId: guess.personId } })}
          >
            Yes
          </Button>
          <Button
            className={small}
            onClick={() => change.mutate({ kind: 'refuseFaces', faceIds, personId: guess.personId })}
          >
            No
          </Button>
        </p>
      )}
      <PersonPicker
        label="Who this face shows"
        placeholder={face.person ? `${face.person.name}, or someone else …` : 'Who is this? …'}
        focusKey={focusKey}
        onPick={(who) => change.mutate({ kind: 'nameFaces', faceIds, who })}
        onEscape={onClose}
      />
      <div className="flex flex-wrap gap-1">
        {face.state === 'named' ? (
          <Button
            look="quiet"
            className={small}
            onClick={() => change.mutate({ kind: 'setFaces', faceIds, state: 'open' })}
          >
            Take the name off
          </Button>
        ) : (
          <Button
            look="quiet"
            className={small}
            onClick={() => change.mutate({ kind: 'setFaces', faceIds, state: 'unnamed' })}
          >
            Not to be named
          </Button>
        )}
        <Button
          look="quiet"
          className={small}
          onClick={() => {
            change.mutate({ kind: 'setFaces', faceIds, state: face.drawn ? 'removed' : 'none' });
            onClose();
          }}
        >
          {face.drawn ? 'Remove' : 'Not a face'}
        </Button>
      </div>
    </div>
  );
}

/** Where a box is drawn by dragging. */
function DrawingArea({ place, onDrawn }: { place: Props['place']; onDrawn: (box: Box) => void }) {
  const area = useRef<HTMLDivElement>(null);
  const [from, setFrom] = useState<{ x: number; y: number } | null>(null);
  const [box, setBox] = useState<Box | null>(null);
  const at = (event: PointerEvent) => {
    const rect = area.current?.getBoundingClientRect();
    return {
      x: (event.clientX - (rect?.left ?? 0)) / place.width,
      y: (event.clientY - (rect?.top ?? 0)) / place.height,
    };
  };
  return (
    <div
      ref={area}
      role="application"
      aria-label="Draw the box of a face"
      className="pointer-events-auto absolute inset-0"
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        setFrom(at(event));
      }}
      onPointerMove={(event) => {
        if (!from) return;
        const to = at(event);
        setBox(
          clamped({
            left: Math.min(from.x, to.x),
            top: Math.min(from.y, to.y),
            width: Math.abs(to.x - from.x),
            height: Math.abs(to.y - from.y),
          }),
        );
      }}
      onPointerUp={() => {
        if (box && box.width > 0.004 && box.height > 0.004) onDrawn(box);
        setFrom(null);
        setBox(null);
      }}
    >
      <p className="absolute top-2 left-1/2 -translate-x-1/2 rounded bg-black/75 px-2 py-0.5 text-[12px] text-white">
        Drag a box around a face
      </p>
      {box && <span className="absolute border-2 border-here" style={styleOf(box)} />}
    </div>
  );
}
