// Two rows of pictures over one axis of time. The upper one is dragged to look elsewhere, the lower one to move it against the upper.

import { useLayoutEffect, useRef, useState } from 'react';
import {
  axisMarks,
  firstView,
  inSight,
  LEAST_PER_PIXEL,
  MOST_PER_PIXEL,
  type Moment,
  type RowView,
} from '@stellin/core/timeplace/liningUp';
import type { TimedPhoto } from '@stellin/contract/tracks';
import { previewUrl } from '../foundation/api';
import { Slider } from '../parts/Slider';
import { usePanning } from './usePanning';

interface Row {
  camera: string;
  photos: readonly TimedPhoto[];
  /** Sorted by time. */
  moments: readonly Moment[];
}

interface Props {
  upper: Row;
  lower: Row;
  /** What is added to the times of the lower row, in milliseconds. */
  shift: number;
  onShift: (shift: number) => void;
}

/** Before it is known how wide there is room, in pixels. */
const USUAL_WIDTH = 960;
const PICTURE_WIDTH = 96;
const MARKS_APART = 110;
const SECOND = 1000;
/** How far keys move the lower row. */
const KEY_STEPS: Readonly<Record<string, number>> = { ArrowLeft: -1, ArrowRight: 1, PageUp: -3600, PageDown: 3600 };
const SHIFT_TIMES = 60;
/** The upper row is moved by so much of its width. */
const LOOK_PART = 0.1;

export function LineUpRows({ upper, lower, shift, onShift }: Props) {
  const { box, width } = useWidth();
  const [seen, setSeen] = useState<Omit<RowView, 'width'> | null>(null);
  const view: RowView = seen ? { ...seen, width } : firstView(upper.moments, lower.moments, shift, width);
  const [held, setHeld] = useState<{ upper?: number; lower?: number }>({});
  const look = (pixels: number) => setSeen({ ...view, from: view.from - pixels * view.perPixel });
  const zoom = (perPixel: number) => setSeen({ from: view.from + (width / 2) * (view.perPixel - perPixel), perPixel });
  const hold = (next: typeof held) => {
    setHeld(next);
    const [a, b] = [
      upper.moments.find(({ photoId }) => photoId === next.upper),
      lower.moments.find(({ photoId }) => photoId === next.lower),
    ];
    if (a && b) onShift(a.at - b.at);
  };
  const moveByKey = (step: number, isMore: boolean) => onShift(shift + step * (isMore ? SHIFT_TIMES : 1) * SECOND);
  const lookByKey = (step: number) => look(-Math.sign(step) * width * LOOK_PART);
  return (
    <div ref={box} className="border border-line bg-ground">
      <PictureRow
        row={upper}
        {...{ view }}
        heldId={held.upper}
        label={`Photos of ${upper.camera}. Arrow keys look earlier and later.`}
        onHold={(photoId) => hold({ ...held, upper: photoId })}
        onPan={look}
        onKey={lookByKey}
      />
      <Axis view={view} />
      <PictureRow
        row={lower}
        view={{ ...view, from: view.from - shift }}
        heldId={held.lower}
        label={`Photos of ${lower.camera}. Arrow keys move them by a second, with Shift by a minute; Page Up and Page Down by an hour.`}
        onHold={(photoId) => hold({ ...held, lower: photoId })}
        onPan={(pixels) => onShift(Math.round((shift + pixels * view.perPixel) / SECOND) * SECOND)}
        onKey={moveByKey}
      />
      <div className="flex items-center gap-2 border-t border-line px-3 py-1.5 text-[12px] text-ink-2">
        <span>Closer</span>
        <Slider
          label="How much time is seen"
          value={Math.log(view.perPixel)}
          lowest={Math.log(LEAST_PER_PIXEL)}
          highest={Math.log(MOST_PER_PIXEL)}
          step={0.05}
          onChange={(value) => zoom(Math.exp(value))}
        />
        <span>farther</span>
      </div>
    </div>
  );
}

interface RowProps {
  row: Row;
  view: RowView;
  heldId: number | undefined;
  label: string;
  onHold: (photoId: number) => void;
  /** It was dragged so many pixels to the right. */
  onPan: (pixels: number) => void;
  /** One of the keys that move it was pressed, by so many seconds, with Shift or without. */
  onKey: (step: number, isMore: boolean) => void;
}

function PictureRow({ row, view, heldId, label, onHold, onPan, onKey }: RowProps) {
  const panning = usePanning(onPan);
  const photos = new Map(row.photos.map((photo) => [photo.photoId, photo]));
  const shown = inSight(row.moments, view, PICTURE_WIDTH);
  return (
    <div
      {...panning}
      role="group"
      tabIndex={0}
      aria-label={label}
      className="relative h-24 cursor-grab touch-none overflow-hidden select-none active:cursor-grabbing"
      onKeyDown={(event) => {
        const step = KEY_STEPS[event.key];
        if (step === undefined) return;
        event.preventDefault();
        onKey(step, event.shiftKey);
      }}
    >
      {shown.length === 0 && (
        <p className="p-3 text-[12px] text-ink-2">No photo of {row.camera} at this time: look farther, or drag.</p>
      )}
      {shown.map(({ photoId, left }) => {
        const photo = photos.get(photoId);
        return (
          photo && (
            <button
              key={photoId}
              type="button"
              tabIndex={-1}
              aria-pressed={photoId === heldId}
              title={`${photo.name} · ${photo.clock.replace('T', ' ')}`}
              aria-label={photo.name}
              style={{ left, width: PICTURE_WIDTH }}
              className={`absolute inset-y-1 overflow-hidden border-l-2 bg-card hover:z-10 ${photoId === heldId ? 'z-10 border-amber ring-2 ring-amber' : 'border-spruce'}`}
              onClick={() => onHold(photoId)}
            >
              {photo.previewVersion > 0 ? (
                <img
                  src={previewUrl(photoId, photo.previewVersion)}
                  alt=""
                  draggable={false}
                  className="size-full object-cover"
                />
              ) : (
                <span className="font-mono text-[11px] text-ink-2">{photo.name}</span>
              )}
            </button>
          )
        );
      })}
    </div>
  );
}

function Axis({ view }: { view: RowView }) {
  return (
    <div className="figures relative h-5 overflow-hidden border-y border-line bg-card text-[11px] text-ink-2">
      {axisMarks(view, MARKS_APART).map(({ at, left }) => (
        <span key={at} className="absolute inset-y-0 border-l border-line pl-1 whitespace-nowrap" style={{ left }}>
          {axisText(at)}
        </span>
      ))}
    </div>
  );
}

/** The time of a mark: its day where it begins one, to the second where it needs it. */
function axisText(at: number): string {
  const [day = '', time = ''] = new Date(at).toISOString().slice(0, 19).split('T');
  return time === '00:00:00' ? day : `${day} ${time.replace(/:00$/, '')}`;
}

/** How wide a box is, in pixels. */
function useWidth() {
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(USUAL_WIDTH);
  useLayoutEffect(() => {
    if (!box.current) return undefined;
    const observer = new ResizeObserver(([entry]) => entry && setWidth(entry.contentRect.width || USUAL_WIDTH));
    observer.observe(box.current);
    return () => observer.disconnect();
  }, []);
  return { box, width };
}
