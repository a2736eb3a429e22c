// One picture of the strip over a film: that of a part of its length.

import { STRIP_FRAMES, stripFrame } from '@stellin/core/media/strip';
import { stripUrl } from './queries';

interface Props {
  photoId: number;
  version: number;
  /** From 0 to 1. */
  part: number;
  className?: string;
}

export function StripPicture({ photoId, version, part, className = '' }: Props) {
  const at = (stripFrame(part) / (STRIP_FRAMES - 1)) * 100;
  return (
    <span
      aria-hidden
      className={`block bg-ground bg-no-repeat ${className}`}
      style={{
        backgroundImage: `url(${stripUrl(photoId, version)})`,
        backgroundSize: `${STRIP_FRAMES * 100}% 100%`,
        backgroundPosition: `${at}% 0`,
      }}
    />
  );
}
