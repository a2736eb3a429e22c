// A photo on the sheet: whole, with its name, rating, write state and the four pips below it.

import { ImageOff, Layers, Lock } from 'lucide-react';
import { memo, useState, type MouseEvent } from 'react';
import type { Photo } from '@stellin/contract/photos';
import { Scrub } from '../media/Scrub';
import { previewUrl } from '../foundation/api';
import { OnlookerSigns } from '../onlookers/Onlookers';
import { MarkBadge } from '../marks/MarkBadge';
import { useMarks } from '../marks/queries';
import { useDragging } from '../parts/dragging/dragging';
import type { LaidPhoto } from './justify';

export const CAPTION_HEIGHT = 22;

interface Props {
  photo: Photo;
  place: LaidPhoto;
  position: number;
  chosen: boolean;
  focused: boolean;
  onClick: (event: MouseEvent, photo: Photo, position: number) => void;
  /** Terms were dropped on it. */
  onDropTerms: (termIds: number[], photo: Photo) => void;
  /** Photos were dropped on it: they come before it, where the order is made by hand. */
  onDropPhotos: ((grasped: number, before: Photo) => void) | undefined;
}

const PIPS = [
  { part: 'terms', letter: 'T', label: 'terms' },
  { part: 'caption', letter: 'C', label: 'caption' },
  { part: 'people', letter: 'P', label: 'people' },
  { part: 'location', letter: 'L', label: 'location' },
] as const;

/** By whether a photo counts as described by the team's rules. */
const DESCRIBED_TEXTS: Record<string, string> = {
  true: '; described, as the rules say',
  false: '; not described yet, as the rules say',
};

function DescribedPip({ described }: { described: boolean }) {
  return (
    <span
      className={`flex h-3 w-3 items-center justify-center rounded-full text-[8.5px] leading-none font-bold ${described ? 'bg-spruce text-on-spruce' : 'border border-amber text-amber'}`}
    >
      {described ? '✓' : '·'}
    </span>
  );
}

const WRITE_MARKS = {
  waiting: { text: '↥', label: 'a write waits', look: 'text-amber' },
  conflict: { text: '≠', label: 'write in conflict', look: 'text-red' },
  failed: { text: '!', label: 'write failed', look: 'text-red' },
};

const missingParts = (photo: Photo) => PIPS.filter(({ part }) => !photo.parts[part]).map(({ label }) => label);

function bundleText({ photos, leads, closed }: NonNullable<Photo['bundle']>): string {
  if (closed) return `closed bundle of ${photos}`;
  return leads ? `lead of an open bundle of ${photos}` : `in an open bundle of ${photos}`;
}

export const PhotoTile = memo(function PhotoTile(props: Props) {
  const { photo, place, position, chosen, onClick, onDropTerms, onDropPhotos } = props;
  const {
    ref: dragRef,
    props: dragProps,
    over: heldOver,
  } = useDragging(`photo ${photo.id}`, {
    grasped: { what: 'photo', id: photo.id, text: photo.name },
    takes: {
      terms: ({ ids }) => onDropTerms(ids, photo),
      photo: onDropPhotos && (({ id }) => onDropPhotos(id, photo)),
    },
  });
  const missing = missingParts(photo);
  const description = [
    photo.name,
    photo.away && 'drive away',
    photo.missing && 'file missing',
    photo.damaged && 'damaged',
    photo.bundle && bundleText(photo.bundle),
    photo.private && 'private',
    photo.mark && `marked ${photo.mark}`,
    photo.writeState && WRITE_MARKS[photo.writeState].label,
    missing.length ? `missing: ${missing.join(', ')}` : '',
  ]
    .filter(Boolean)
    .join(', ');
  return (
    <div
      role="option"
      aria-selected={chosen}
      aria-label={description}
      data-position={position}
      data-photo={photo.id}
      className="absolute scroll-m-4"
      style={{ left: place.left, top: place.top, width: place.width }}
      onClick={(event) => onClick(event, photo, position)}
      ref={dragRef}
      {...dragProps}
    >
      <div
        className={`relative overflow-hidden bg-cover bg-center ${heldOver ? 'outline-3 outline-offset-[-1px] outline-amber' : chosen ? 'outline-3 outline-offset-[-1px] outline-spruce' : ''}`}
        style={{
          height: place.height,
          backgroundColor: 'var(--line)',
          backgroundImage: photo.placeholder && !photo.away ? `url(${photo.placeholder})` : undefined,
        }}
      >
        <TilePicture photo={photo} />
        <OnlookerSigns photoId={photo.id} />
      </div>
      <TileLine {...props} missing={missing} />
    </div>
  );
});

/** The preview, or why there is none, and what is said of the file in its corners. */
function TilePicture({ photo }: { photo: Photo }) {
  const [failed, setFailed] = useState(0);
  return (
    <>
      {photo.previewVersion > 0 && failed !== photo.previewVersion ? (
        <img
          onError={() => setFailed(photo.previewVersion)}
          src={previewUrl(photo.id, photo.previewVersion)}
          alt=""
          loading="lazy"
          decoding="async"
          draggable={false}
          className={`h-full w-full ${photo.away || photo.missing ? 'opacity-50' : ''}`}
        />
      ) : (
        <span className="flex h-full flex-col items-center justify-center gap-1 text-[11px] text-ink">
          <ImageOff size={18} />
          {photo.damaged ? 'damaged' : 'no preview'}
        </span>
      )}
      {photo.duration !== null && <Scrub photo={photo} duration={photo.duration} />}
      {(photo.away || photo.missing) && (
        <span className="pointer-events-none absolute inset-0 border-2 border-dashed border-ink-2" />
      )}
      {photo.missing && !photo.away && (
        <span className="absolute bottom-1 left-1 rounded bg-red-pale px-1.5 text-[11px] font-semibold text-red">
          missing
        </span>
      )}
      {photo.bundle && (
        <span
          className={`absolute top-1 right-1 flex items-center gap-1 rounded border border-line bg-card/90 px-1.5 text-[11px] ${photo.bundle.leads ? 'font-semibold' : 'text-ink-2'}`}
          title={bundleText(photo.bundle)}
        >
          <Layers size={11} /> {photo.bundle.photos}
        </span>
      )}
      {photo.rating === -1 && (
        <span className="absolute top-1 left-1 rounded bg-red-pale px-1.5 text-[11px] font-semibold text-red">
          rejected
        </span>
      )}
      {photo.damaged && photo.previewVersion > 0 && (
        <span className="absolute right-1 bottom-1 rounded bg-red-pale px-1.5 text-[11px] font-semibold text-red">
          damaged
        </span>
      )}
    </>
  );
}

/** The line below the picture: as much of it as its width has room for. */
function TileLine({ photo, place, chosen, focused, missing }: Props & { missing: readonly string[] }) {
  const { data: marks } = useMarks();
  const mark = photo.writeState && WRITE_MARKS[photo.writeState];
  const narrow = place.width < 130;
  const tiny = place.width < 78;
  return (
    <div className={`flex h-[22px] items-center gap-1.5 text-[11px] ${focused ? 'text-spruce' : ''}`}>
      <span
        className={`truncate font-mono ${chosen ? 'font-semibold text-spruce' : ''} ${focused ? 'underline underline-offset-3' : ''}`}
        title={photo.name}
      >
        {photo.name}
      </span>
      {photo.rating > 0 && !tiny && (
        <span className="figures shrink-0 font-semibold" title={`Rating ${photo.rating}`}>
          ✦{photo.rating}
        </span>
      )}
      {photo.mark !== '' && !tiny && (
        <MarkBadge name={photo.mark} mark={marks?.find(({ name }) => name === photo.mark)} />
      )}
      {photo.private && (
        <span className="shrink-0 text-ink-2" title="Private: it never leaves the archive">
          <Lock size={11} />
        </span>
      )}
      {mark && (
        <span className={`shrink-0 font-bold ${mark.look}`} title={mark.label}>
          {mark.text}
        </span>
      )}
      {!narrow && (
        <span
          className="ml-auto flex shrink-0 gap-0.5"
          title={`${missing.length ? `Missing: ${missing.join(', ')}` : 'Nothing missing'}${DESCRIBED_TEXTS[String(photo.described)] ?? ''}`}
        >
          {PIPS.map(({ part, letter }) => (
            <span
              key={part}
              className={`flex h-3 w-3 items-center justify-center rounded-xs text-[8.5px] leading-none font-bold ${photo.parts[part] ? 'bg-spruce-pale text-spruce' : 'border border-ink-3/50 text-ink-3'}`}
            >
              {letter}
            </span>
          ))}
          {photo.described !== null && <DescribedPip described={photo.described} />}
        </span>
      )}
    </div>
  );
}
