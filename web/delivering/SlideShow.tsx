// A slide show: the whole screen for one photo after the other, by itself or by keys. Private photos are not in it: others look on.

import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import type { Photo } from '@stellin/contract/photos';
import { numberText } from '@stellin/contract/wording';
import { pictureUrl, previewUrl } from '../foundation/api';
import { useStored, writeStored } from '../foundation/useStored';
import { useKeyCover, useKeys } from '../foundation/useKeys';
import { Button } from '../parts/Button';
import { Checkbox } from '../parts/Checkbox';
import { Kbd } from '../parts/Kbd';
import { Queried } from '../parts/Queried';
import { Slider } from '../parts/Slider';
import { photosOfSelection, usePhoto } from '../photos/queries';
import { captionOf } from './caption';
import { leavingSchema, type Leaving } from './draft';

/** Where the window of a slide show is. */
export const SLIDE_WINDOW_PATH = '/deliver/slides';
const MAX_SLIDES = 1000;
const [LEAST_SECONDS, MOST_SECONDS] = [2, 30];
const USUAL_SECONDS = 5;
/** The bar goes when nobody moves the pointer for so long. */
const BAR_MS = 2500;

interface Props {
  leaving: Leaving;
  onClose: () => void;
}

/** A slide show in a window of its own, which can be on another screen while this one goes on. */
export function SlideWindow() {
  const [leaving] = useStored('slides', leavingSchema.nullable(), null);
  return leaving ? (
    <SlideShow leaving={leaving} onClose={() => window.close()} />
  ) : (
    <p className="p-6 text-ink-2">There is nothing to show. Choose photos, and begin the slide show anew.</p>
  );
}

/** Opens it. */
export function openSlideWindow(leaving: Leaving): void {
  writeStored('slides', leaving);
  window.open(SLIDE_WINDOW_PATH, 'stellin-slides', 'popup,width=1280,height=800');
}

export function SlideShow({ leaving, onClose }: Props) {
  const { selection, sort } = leaving;
  const photos = useQuery({
    queryKey: ['photos', 'slides', selection, sort],
    queryFn: async () => (await photosOfSelection(selection, sort, MAX_SLIDES)).filter((photo) => !photo.private),
  });
  const frame = useRef<HTMLElement>(null);
  useEffect(() => {
    // Keys go to the show, not to the button that opened it.
    frame.current?.focus();
    fill(frame.current);
    return () => {
      if (document.fullscreenElement) void document.exitFullscreen();
    };
  }, []);
  return (
    <section
      ref={frame}
      tabIndex={-1}
      aria-label="Slide show"
      className="fixed inset-0 z-30 bg-black text-white outline-none"
    >
      <Queried query={photos}>
        {(all) => <Slides photos={all} onClose={onClose} onFill={() => fill(frame.current)} />}
      </Queried>
    </section>
  );
}

/** Fills the screen; where the browser refuses that, the show fills the window. */
function fill(frame: HTMLElement | null): void {
  void frame?.requestFullscreen?.().catch(() => undefined);
}

interface SlidesProps {
  photos: readonly Photo[];
  onClose: () => void;
  onFill: () => void;
}

function Slides({ photos, onClose, onFill }: SlidesProps) {
  const [at, setAt] = useState(0);
  const [goes, setGoes] = useState(true);
  const [seconds, setSeconds] = useState(USUAL_SECONDS);
  const [captions, setCaptions] = useState(true);
  const [bar, showBar] = useBar();
  const step = (by: number) => setAt((before) => (before + by + photos.length) % Math.max(1, photos.length));
  useEffect(() => {
    if (!goes || photos.length < 2) return;
    const timer = setTimeout(() => setAt((before) => (before + 1) % photos.length), seconds * 1000);
    return () => clearTimeout(timer);
  }, [goes, seconds, at, photos.length]);
  useKeyCover();
  useKeys(
    {
      right: () => step(1),
      left: () => step(-1),
      first: () => setAt(0),
      last: () => setAt(Math.max(0, photos.length - 1)),
      toggle: () => setGoes((before) => !before),
      chooseNone: onClose,
    },
    'cover',
  );
  const photo = photos[at];
  const next = photos[at + 1];
  return (
    <div className="flex h-full flex-col" onPointerMove={showBar} onFocus={showBar}>
      {photo ? (
        <Slide key={photo.id} photo={photo} captions={captions} />
      ) : (
        <p className="m-auto">There is nothing to show.</p>
      )}
      {next && !next.away && <link rel="prefetch" href={pictureUrl(next.id, next.previewVersion, 'large')} />}
      <footer
        className={`absolute inset-x-0 bottom-0 flex items-center gap-4 bg-card px-4 py-2 text-ink transition-opacity motion-reduce:transition-none ${bar || !goes ? '' : 'opacity-0 focus-within:opacity-100'}`}
      >
        <span className="figures whitespace-nowrap" aria-live="off">
          {numberText(Math.min(photos.length, at + 1))} of {numberText(photos.length)}
        </span>
        <Button onClick={() => step(-1)}>
          Before <Kbd>←</Kbd>
        </Button>
        <Button onClick={() => step(1)}>
          Next <Kbd>→</Kbd>
        </Button>
        <Button onClick={() => setGoes(!goes)}>
          {goes ? 'Pause' : 'Go on'} <Kbd>Space</Kbd>
        </Button>
        <span className="figures w-20 whitespace-nowrap">{seconds} seconds</span>
        {/* No list that opens: it would open outside of what fills the screen. */}
        <Slider
          label="Seconds for each"
          className="w-28"
          value={seconds}
          lowest={LEAST_SECONDS}
          highest={MOST_SECONDS}
          step={1}
          onChange={setSeconds}
        />
        <Checkbox checked={captions} onChange={setCaptions}>
          Captions
        </Checkbox>
        <Button look="quiet" className="ml-auto" onClick={onFill}>
          Full screen
        </Button>
        <Button look="quiet" onClick={onClose}>
          End <Kbd>Esc</Kbd>
        </Button>
      </footer>
    </div>
  );
}

function Slide({ photo, captions }: { photo: Photo; captions: boolean }) {
  const { data } = usePhoto(captions ? photo.id : undefined);
  const caption = data?.id === photo.id ? captionOf(data.fields) : '';
  const source = photo.away
    ? previewUrl(photo.id, photo.previewVersion)
    : pictureUrl(photo.id, photo.previewVersion, 'large');
  return (
    <figure className="slide flex min-h-0 flex-1 flex-col">
      <img src={source} alt={caption || photo.name} className="m-auto min-h-0 max-w-full flex-1 object-contain" />
      {captions && caption !== '' && (
        <figcaption className="mx-auto max-w-[70ch] px-6 pt-2 pb-14 text-center text-[15px]">{caption}</figcaption>
      )}
    </figure>
  );
}

/** Whether the bar is shown, and showing it for a while. */
function useBar(): [boolean, () => void] {
  const [moved, setMoved] = useState(0);
  const [bar, setBar] = useState(true);
  useEffect(() => {
    const timer = setTimeout(() => setBar(false), BAR_MS);
    return () => clearTimeout(timer);
  }, [moved]);
  return [
    bar,
    () => {
      setBar(true);
      setMoved((before) => before + 1);
    },
  ];
}
