// A picture that stands for some photos; moving over it, or arrow keys, skims through the first of them.

import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import { Link } from 'react-router';
import type { Sort } from '@stellin/core/search/sorts';
import { numberText } from '@stellin/contract/wording';
import { useQuery } from '@tanstack/react-query';
import { previewUrl } from '../foundation/api';
import { photosOfSelection } from './queries';

/** So many are skimmed at most. */
const SKIMMED = 24;

interface Props {
  /** What finds them, in which order. */
  query: string;
  sort: Sort;
  /** The picture before one skims. */
  cover: { photoId: number; version: number } | null;
  label: string;
  /** Where a click leads. */
  to: string;
}

export function Skim({ query, sort, cover, label, to }: Props) {
  const [at, setAt] = useState<number | null>(null);
  const { data: photos = [] } = useQuery({
    queryKey: ['photos', 'skimmed', query, sort],
    queryFn: () => photosOfSelection({ query, minus: [], plus: [] }, sort, SKIMMED),
    // Only what somebody looks at is read.
    enabled: at !== null,
  });
  const photo = at === null ? undefined : photos[Math.min(at, photos.length - 1)];
  const shown = photo ? { photoId: photo.id, version: photo.previewVersion } : cover;
  const onMove = ({ clientX, currentTarget }: PointerEvent) => {
    const { left, width } = currentTarget.getBoundingClientRect();
    const part = (clientX - left) / Math.max(1, width);
    setAt(Math.max(0, Math.floor(part * Math.max(1, photos.length))));
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    setAt((before) => Math.max(0, Math.min(Math.max(0, photos.length - 1), (before ?? -1) + by)));
  };
  return (
    <Link
      to={to}
      aria-label={label}
      className="relative block aspect-[3/2] overflow-hidden rounded border border-line bg-card"
      onPointerMove={onMove}
      onPointerLeave={() => setAt(null)}
      onKeyDown={onKeyDown}
      onBlur={() => setAt(null)}
    >
      {shown && (
        <img
          src={previewUrl(shown.photoId, shown.version)}
          alt={photo?.name ?? ''}
          loading="lazy"
          className="size-full object-cover"
        />
      )}
      {photo && (
        <span className="figures absolute right-1 bottom-1 rounded bg-black/65 px-1.5 text-[11px] text-white">
          {numberText(photos.indexOf(photo) + 1)} of {numberText(photos.length)}
        </span>
      )}
    </Link>
  );
}
