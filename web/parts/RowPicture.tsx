// The small picture of a photo in a row of a table or list.

import { previewUrl } from '../foundation/api';

interface Props {
  photoId: number;
  /** 0: there is none yet. */
  previewVersion: number;
  className?: string;
}

export function RowPicture({ photoId, previewVersion, className = '' }: Props) {
  return (
    <span
      className={`inline-flex h-9 w-13 shrink-0 items-center justify-center overflow-hidden bg-ground align-middle ${className}`}
    >
      {previewVersion > 0 && (
        <img src={previewUrl(photoId, previewVersion)} alt="" loading="lazy" className="max-h-full max-w-full" />
      )}
    </span>
  );
}
