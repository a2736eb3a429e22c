// A picture in its frame: whole or zoomed, moved by pointer and wheel. Sharper pictures are asked for as they are needed.

import { useEffect, useRef, useState, type PointerEvent, type ReactNode } from 'react';
import type { Photo } from '@stellin/contract/photos';
import { pictureUrl, previewUrl } from '../foundation/api';
import { DecodedPicture } from './DecodedPicture';
import { decodedNow } from './decoded';
import { Loupe } from './Loupe';
import { Measurements } from './Measurements';
import type { Aids } from './aids';
import { fitScale, panned, placeOf, toggled, zoomedAt, type Size, type Zoom } from './zoom';

/** Pixels of the screen for one of the picture from which single ones are looked at. */
const PIXELS_FROM = 2;
/** Pixels of the longer side that the large picture has; beyond it the full one is shown. */
const LARGE_PIXELS = 2048;
const WHEEL_FACTOR = 1.0015;

interface Props {
  photo: Photo;
  zoom: Zoom;
  onZoom: (change: (before: Zoom) => Zoom) => void;
  /** Told at which scale the whole picture fits, and how large its frame is. */
  onFit?: (scale: number, frame: Size) => void;
  /** What lies over the picture, given where that stands in the frame. */
  over?: (place: ReturnType<typeof placeOf>) => ReactNode;
  /** Of several pages the one that is shown, from 1. */
  page?: number;
  /** How large the picture counts as being; else as its file says. */
  size?: Size | undefined;
  /** What helps to see: nothing, where it is not there. */
  aids?: Aids | undefined;
  /** Of several photos side by side, the one that keys act on. */
  marked?: boolean;
}

export function Stage({ photo, zoom, onZoom, onFit, over, page = 1, size, aids, marked = false }: Props) {
  const element = useRef<HTMLDivElement>(null);
  const frame = useSize(element);
  const picture = size ?? sizeOf(photo);
  const place = frame && placeOf(zoom, frame, picture);
  const fit = frame && fitScale(frame, picture);
  useEffect(() => {
    if (fit !== null && frame) onFit?.(fit, frame);
  });
  const drag = useRef<{ x: number; y: number } | null>(null);
  // React's own wheel listeners can't keep the page from scrolling.
  useEffect(() => {
    const target = element.current;
    if (!target || !frame) return;
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      const box = target.getBoundingClientRect();
      const point = { x: event.clientX - box.left, y: event.clientY - box.top };
      onZoom((before) => zoomedAt(before, WHEEL_FACTOR ** -event.deltaY, point, frame, picture));
    };
    target.addEventListener('wheel', onWheel, { passive: false });
    return () => target.removeEventListener('wheel', onWheel);
  });
  const onPointerMove = (event: PointerEvent) => {
    if (!drag.current || !frame) return;
    const [dx, dy] = [event.clientX - drag.current.x, event.clientY - drag.current.y];
    drag.current = { x: event.clientX, y: event.clientY };
    onZoom((before) => panned(before, dx, dy, frame, picture));
  };
  return (
    <div
      ref={element}
      className={`relative min-h-0 min-w-0 flex-1 touch-none overflow-hidden bg-ground select-none ${zoom.scale === null ? 'cursor-zoom-in' : 'cursor-grab active:cursor-grabbing'}`}
      onPointerDown={(event) => {
        drag.current = { x: event.clientX, y: event.clientY };
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={onPointerMove}
      onPointerUp={() => (drag.current = null)}
      onPointerCancel={() => (drag.current = null)}
      onDoubleClick={(event) => {
        if (!frame) return;
        const box = event.currentTarget.getBoundingClientRect();
        const point = { x: event.clientX - box.left, y: event.clientY - box.top };
        onZoom((before) => toggled(before, point, frame, picture));
      }}
    >
      {place && <Layers key={`${photo.id} ${page}`} photo={photo} place={place} page={page} aids={aids} />}
      {place && aids?.loupe && canBeLarge(photo) && (
        <Loupe
          frame={element}
          address={pictureUrl(photo.id, photo.previewVersion, 'full', page)}
          picture={picture}
          place={place}
        />
      )}
      {place && over && (
        <div data-not-printed className="contents">
          {over(place)}
        </div>
      )}
      {marked && <span className="pointer-events-none absolute inset-0 border-3 border-spruce" />}
    </div>
  );
}

/** How large a photo is as seen; of those that do not say, some size. */
export const sizeOf = ({ width, height }: Photo): Size => ({ width: width ?? 1500, height: height ?? 1000 });

/** Whether more than the kept preview is to be had. */
export const canBeLarge = ({ away, missing, previewVersion }: Photo): boolean =>
  !away && !missing && previewVersion > 0;

/** The kept preview at once, and above it the sharpest picture that the size on the screen asks for. */
function Layers({
  photo,
  place,
  page,
  aids,
}: {
  photo: Photo;
  place: ReturnType<typeof placeOf>;
  page: number;
  aids: Aids | undefined;
}) {
  const longest = Math.max(place.width, place.height) * window.devicePixelRatio;
  const wanted = longest > LARGE_PIXELS ? 'full' : 'large';
  const [failed, setFailed] = useState(false);
  const isLarger = canBeLarge(photo) && !failed;
  const address = pictureUrl(photo.id, photo.previewVersion, wanted, page);
  const isDecoded = isLarger && wanted === 'large' && decodedNow(address, place) !== undefined;
  const style = {
    left: place.left,
    top: place.top,
    width: place.width,
    height: place.height,
    // So near that pixels are looked at, they are shown as they are.
    imageRendering: place.scale >= PIXELS_FROM ? ('pixelated' as const) : ('auto' as const),
  };
  const cannot = photo.away
    ? 'The drive is away: this is the kept preview. Plug the drive in to see more.'
    : photo.missing
      ? 'The file is missing: this is the kept preview.'
      : failed
        ? 'The file can’t be shown larger than its preview.'
        : null;
  return (
    <>
      {page > 1 || isDecoded ? null : photo.previewVersion > 0 ? (
        <img
          src={previewUrl(photo.id, photo.previewVersion)}
          alt={photo.name}
          draggable={false}
          // One of the two is printed.
          {...(isLarger ? { 'data-not-printed': true } : { 'data-picture': true })}
          className="absolute max-w-none object-contain"
          style={style}
        />
      ) : (
        <p className="absolute inset-0 flex items-center justify-center text-ink-2">There is no picture to show.</p>
      )}
      {isDecoded && <DecodedPicture address={address} label={photo.name} style={style} />}
      {isLarger && !isDecoded && (
        <img
          key={wanted}
          src={address}
          alt=""
          draggable={false}
          data-picture
          className="absolute max-w-none object-contain"
          style={style}
          onError={() => setFailed(true)}
        />
      )}
      {isLarger && aids && (aids.clipping || aids.edges || aids.histogram) && (
        <Measurements address={pictureUrl(photo.id, photo.previewVersion, 'large', page)} wanted={aids} style={style} />
      )}
      {cannot && (
        <p className="absolute bottom-3 left-1/2 -translate-x-1/2 rounded bg-amber-pale px-3 py-1 text-amber">
          {cannot}
        </p>
      )}
    </>
  );
}

function useSize(element: React.RefObject<HTMLElement | null>): Size | null {
  const [size, setSize] = useState<Size | null>(null);
  useEffect(() => {
    const target = element.current;
    if (!target) return;
    const observer = new ResizeObserver(() => setSize({ width: target.clientWidth, height: target.clientHeight }));
    observer.observe(target);
    return () => observer.disconnect();
  }, [element]);
  return size;
}
