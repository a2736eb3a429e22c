// A face: its small picture, with what is said under it.

import { HoverCard } from 'radix-ui';
import { useId, type ReactNode } from 'react';
import type { Face } from '@stellin/contract/people';
import { countText } from '@stellin/contract/wording';
import { useDragging } from '../parts/dragging/dragging';
import { faceUrl, previewUrl } from '../foundation/api';

interface Props {
  face: Pick<Face, 'id' | 'photoId' | 'photoName' | 'previewVersion' | 'box' | 'takenAt'>;
  /** In pixels. */
  size?: number;
  chosen?: boolean;
  /** Left out of what is about to be done. */
  out?: boolean;
  label?: string;
  /** The faces that go along when this one is dragged. */
  dragged?: readonly number[];
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
  dragged = [],
  onClick,
  onDoubleClick,
  children,
}: Props) {
  const { ref, props } = useDragging(`face ${face.id} ${useId()}`, {
    grasped:
      dragged.length > 0
        ? {
            what: 'faces',
            ids: [...dragged],
            text: dragged.length === 1 ? (label ?? 'This face') : countText(dragged.length, 'face'),
          }
        : undefined,
  });
  const frame = chosen ? 'ring-2 ring-spruce' : out ? 'ring-2 ring-red' : 'hover:ring-1 hover:ring-ink-3';
  return (
    <figure className="m-0" style={{ width: size }}>
      <Larger face={face}>
        <button
          type="button"
          ref={ref}
          {...props}
          aria-label={label ?? `Face in ${face.photoName}`}
          aria-pressed={chosen}
          className={`block overflow-hidden rounded-sm bg-ground ${frame}`}
          style={{ width: size, height: size }}
          onClick={onClick}
          onDoubleClick={onDoubleClick}
        >
          <img
            src={faceUrl(face.id, face.previewVersion)}
            alt=""
            loading="lazy"
            draggable={false}
            className={`h-full w-full object-cover ${out ? 'opacity-30' : ''}`}
          />
        </button>
      </Larger>
      {children !== undefined && (
        <figcaption className={`figures mt-0.5 truncate text-[11px] ${out ? 'text-red' : 'text-ink-2'}`}>
          {out ? 'left out' : children}
        </figcaption>
      )}
    </figure>
  );
}

/** The face larger, and the photo it is in, while the pointer rests on it. */
function Larger({ face, children }: Pick<Props, 'face'> & { children: ReactNode }) {
  const { box, photoId, photoName, previewVersion, takenAt } = face;
  const percent = (part: number) => `${part * 100}%`;
  return (
    <HoverCard.Root openDelay={350} closeDelay={60}>
      <HoverCard.Trigger asChild>{children}</HoverCard.Trigger>
      <HoverCard.Portal>
        <HoverCard.Content
          side="right"
          sideOffset={8}
          collisionPadding={12}
          className="pointer-events-none z-50 flex items-start gap-2 rounded-md border border-line bg-card p-2 shadow-lg"
        >
          <img
            src={faceUrl(face.id, face.previewVersion)}
            alt=""
            className="size-44 rounded-sm bg-ground object-cover"
          />
          {previewVersion > 0 && (
            <figure className="m-0">
              <span className="relative block">
                <img src={previewUrl(photoId, previewVersion)} alt="" className="max-h-44 max-w-72" />
                <span
                  className="absolute rounded-xs border-2 border-here"
                  style={{
                    left: percent(box.left),
                    top: percent(box.top),
                    width: percent(box.width),
                    height: percent(box.height),
                  }}
                />
              </span>
              <figcaption className="mt-1 max-w-72 truncate font-mono text-[11px] text-ink-2">
                {photoName}
                {takenAt && `, ${takenAt.slice(0, 10)}`}
              </figcaption>
            </figure>
          )}
        </HoverCard.Content>
      </HoverCard.Portal>
    </HoverCard.Root>
  );
}
