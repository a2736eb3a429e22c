// Over the tile of a film or sound: how long it is, and on pointing along it the pictures of its whole length.

import { AudioLines, Film } from 'lucide-react';
import { useState } from 'react';
import { clockText } from '@stellin/core/media/moments';
import { kindFacts, type FileKind } from '@stellin/core/metadata/containers/kinds';
import type { Photo } from '@stellin/contract/photos';
import { StripPicture } from './StripPicture';

export function Scrub({ photo, duration }: { photo: Photo; duration: number }) {
  const [pointed, setPointed] = useState<number | null>(null);
  const isFilm = kindFacts(photo.kind as FileKind).media === 'film';
  return (
    <span
      className="absolute inset-0"
      onPointerMove={(event) => {
        if (!isFilm || event.pointerType !== 'mouse') return;
        const box = event.currentTarget.getBoundingClientRect();
        setPointed((event.clientX - box.left) / box.width);
      }}
      onPointerLeave={() => setPointed(null)}
    >
      {pointed !== null && (
        <>
          <StripPicture
            photoId={photo.id}
            version={photo.previewVersion}
            part={pointed}
            className="absolute inset-0 h-full w-full"
          />
          <span className="absolute bottom-0 h-0.5 w-full bg-ink/40">
            <span className="block h-full bg-amber" style={{ width: `${pointed * 100}%` }} />
          </span>
        </>
      )}
      <span className="figures absolute bottom-1 left-1 flex items-center gap-1 rounded bg-ink/80 px-1.5 text-[11px] text-card">
        {isFilm ? <Film size={11} /> : <AudioLines size={11} />}
        {clockText(pointed === null ? duration : pointed * duration).replace(/\.\d$/, '')}
      </span>
    </span>
  );
}
