// The length of a film or sound, with its pictures and how loud it is: pressed or moved along by keys to go somewhere in it; pointed at it
// shows what is there.

import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { clockText } from '@stellin/core/media/moments';
import type { Stretch } from '@stellin/core/media/stretches';
import { waveformPath } from '@stellin/core/media/strip';
import { stripUrl, useWaveform } from './queries';
import { StripPicture } from './StripPicture';

/** Seconds that arrow keys go, and with Shift. */
const [STEP, LONG_STEP] = [1, 10];
const WAVE = { width: 800, height: 60 };
const HOVER_PIXELS = 176;

/** Below it a sound is silence. */
const SILENCE = 0.01;

/** Quiet recordings are drawn as high as loud ones: it is their course that is looked at. */
function asLoudAsCanBe(peaks: readonly number[]): number[] {
  const loudest = Math.max(SILENCE, ...peaks);
  return peaks.map((peak) => peak / loudest);
}

interface Props {
  photoId: number;
  version: number;
  isFilm: boolean;
  /** Seconds. */
  duration: number;
  at: number;
  stretches: readonly Stretch[];
  /** Where a stretch was begun that has no end yet. */
  begun: number | null;
  onSeek: (seconds: number) => void;
}

export function Timeline({ photoId, version, isFilm, duration, at, stretches, begun, onSeek }: Props) {
  const element = useRef<HTMLDivElement>(null);
  const [pointed, setPointed] = useState<number | null>(null);
  const [hasStrip, setHasStrip] = useState(true);
  const { data: waveform } = useWaveform(photoId, version);
  const part = duration > 0 ? Math.max(0, Math.min(1, at / duration)) : 0;

  const partAt = (event: PointerEvent): number => {
    const box = element.current?.getBoundingClientRect();
    return box ? Math.max(0, Math.min(1, (event.clientX - box.left) / box.width)) : 0;
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const step = event.shiftKey ? LONG_STEP : STEP;
    const to = { ArrowLeft: at - step, ArrowRight: at + step, Home: 0, End: duration }[event.key];
    if (to === undefined || event.ctrlKey) return;
    event.preventDefault();
    onSeek(Math.max(0, Math.min(duration, to)));
  };
  return (
    <div
      ref={element}
      role="slider"
      tabIndex={0}
      aria-label="Place in the recording"
      aria-valuemin={0}
      aria-valuemax={Math.round(duration)}
      aria-valuenow={Math.round(at)}
      aria-valuetext={`${clockText(at)} of ${clockText(duration)}`}
      className="relative h-14 cursor-pointer touch-none bg-card select-none"
      onKeyDown={onKeyDown}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        onSeek(partAt(event) * duration);
      }}
      onPointerMove={(event) => {
        setPointed(partAt(event));
        if (event.buttons === 1) onSeek(partAt(event) * duration);
      }}
      onPointerLeave={() => setPointed(null)}
    >
      {isFilm && hasStrip && (
        <img
          src={stripUrl(photoId, version)}
          alt=""
          draggable={false}
          className="absolute inset-0 h-full w-full opacity-80"
          onError={() => setHasStrip(false)}
        />
      )}
      {waveform && (
        <svg
          aria-hidden
          viewBox={`0 0 ${WAVE.width} ${WAVE.height}`}
          preserveAspectRatio="none"
          className={`pointer-events-none absolute inset-x-0 bottom-0 w-full ${isFilm ? 'h-1/3 text-card' : 'h-full text-spruce'}`}
        >
          <path
            d={waveformPath(asLoudAsCanBe(waveform.peaks), WAVE.width, WAVE.height)}
            stroke="currentColor"
            strokeWidth={isFilm ? 1.4 : 0.8}
            fill="none"
          />
        </svg>
      )}
      <Bars duration={duration} stretches={stretches} begun={begun} at={at} />
      <span
        className="pointer-events-none absolute inset-y-0 w-0.5 -translate-x-1/2 bg-amber"
        style={{ left: `${part * 100}%` }}
      />
      {pointed !== null && (
        <Pointed part={pointed} duration={duration} strip={isFilm && hasStrip ? { photoId, version } : null} />
      )}
    </div>
  );
}

/** Where stretches are, and the one that was begun. */
function Bars({ duration, stretches, begun, at }: Pick<Props, 'duration' | 'stretches' | 'begun' | 'at'>) {
  if (duration === 0) return null;
  const open = begun === null ? [] : [{ key: 'begun', from: begun, to: Math.max(begun, at) }];
  return [...stretches, ...open].map(({ key, from, to }) => (
    <span
      key={key}
      data-stretch
      className="pointer-events-none absolute top-0 h-1.5 min-w-1 bg-spruce"
      style={{ left: `${(from / duration) * 100}%`, width: `${((to - from) / duration) * 100}%` }}
    />
  ));
}

interface PointedProps {
  /** Of the length. */
  part: number;
  duration: number;
  strip: { photoId: number; version: number } | null;
}

/** What is there where one points. */
function Pointed({ part, duration, strip }: PointedProps) {
  return (
    <span
      className="pointer-events-none absolute bottom-full z-10 mb-1 overflow-hidden rounded border border-line bg-card shadow"
      style={{
        width: HOVER_PIXELS,
        left: `clamp(0px, calc(${part * 100}% - ${HOVER_PIXELS / 2}px), calc(100% - ${HOVER_PIXELS}px))`,
      }}
    >
      {strip && <StripPicture {...strip} part={part} className="aspect-video w-full" />}
      <span className="figures block px-2 py-0.5 text-center text-[12px]">{clockText(part * duration)}</span>
    </span>
  );
}
