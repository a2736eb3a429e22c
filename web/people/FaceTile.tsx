// A face: its small picture, with what is said under it.

import type { ReactNode } from 'react';
import type { Face } from '@stellin/contract/people';
import { faceUrl } from '../api';

interface Props {
  face: Pick<Face, 'id' | 'photoName'>;
  /** In pixels. */
  size?: number;
  chosen?: boolean;
  /** Left out of what is about to be done. */
  out?: boolean;
  label?: string;
  onClick?: (event: React.MouseEvent) => void;
  onDoubleClick?: () => void;
  children?: ReactNode;
}

export function FaceTile({
  face,
  size = 76,
  chosen = false,
  out = false,
  label,
  onClick,
  onDoubleClick,
  children,
}: Props) {
  const frame = chosen ? 'ring-2 ring-spruce' : out ? 'ring-2 ring-red' : 'hover:ring-1 hover:ring-ink-3';
  return (
    <figure className="m-0" style={{ width: size }}>
      <button
        type="button"
        aria-label={label ?? `Face in ${face.photoName}`}
        aria-pressed={chosen}
        title={face.photoName}
        className={`block overflow-hidden rounded-sm bg-ground ${frame}`}
        style={{ width: size, height: size }}
        onClick={onClick}
        onDoubleClick={onDoubleClick}
      >
        <img
          src={faceUrl(face.id)}
          alt=""
          loading="lazy"
          draggable={false}
          className={`h-full w-full object-cover ${out ? 'opacity-30' : ''}`}
        />
      </button>
      {children !== undefined && (
        <figcaption className={`figures mt-0.5 truncate text-[11px] ${out ? 'text-red' : 'text-ink-2'}`}>
          {out ? 'left out' : children}
        </figcaption>
      )}
    </figure>
  );
}
