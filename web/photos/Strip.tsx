// The photos of the result in a row, a page at a time: to be chosen, and dragged onto the map.

import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useRef, useState, type ReactNode } from 'react';
import type { Photo } from '@stellin/contract/photos';
import { countText, numberText } from '@stellin/contract/wording';
import { previewUrl } from '../foundation/api';
import { useKeys } from '../foundation/useKeys';
import { Button } from '../parts/Button';
import { Checkbox } from '../parts/Checkbox';
import { useDragging } from '../parts/dragging/dragging';
import { Queried } from '../parts/Queried';
import { BLOCK, useBlock, useCount } from './queries';
import { USUAL_SORT } from './result';

/** Photos that are meant to be placed: some of those seen, or the whole result. */
export type Meant = { kind: 'some'; ids: ReadonlySet<number> } | { kind: 'all' };

interface Props {
  query: string;
  meant: Meant;
  onMeant: (meant: Meant) => void;
  /** The photo that is pointed at elsewhere. */
  hoveredId?: number | null;
  onHover?: (photoId: number | null) => void;
  /** Fills in what can be told of the chosen photos, or of all; undefined for who may not. */
  fill?: { label: string; onFill: () => void } | undefined;
  /** Stands in its line, before what turns the pages. */
  children?: ReactNode;
}

export function Strip({ query, meant, onMeant, hoveredId = null, onHover = ignored, fill, children }: Props) {
  const [page, setPage] = useState(0);
  const list = useRef<HTMLUListElement>(null);
  const photos = useBlock({ query, sort: USUAL_SORT }, page);
  const total = useCount(query).data?.count ?? 0;
  const pages = Math.max(1, Math.ceil(total / BLOCK));
  const isMeant = (id: number) => meant.kind === 'all' || meant.ids.has(id);
  const toggle = (id: number) => {
    const ids = new Set(meant.kind === 'some' ? meant.ids : []);
    if (!ids.delete(id)) ids.add(id);
    onMeant({ kind: 'some', ids });
  };
  const step = (by: number) => {
    const ids = (photos.data ?? []).map(({ id }) => id);
    const last = meant.kind === 'some' ? ids.findLastIndex((id) => meant.ids.has(id)) : -1;
    const next = ids[last < 0 ? (by > 0 ? 0 : ids.length - 1) : last + by];
    if (next === undefined) return;
    onMeant({ kind: 'some', ids: new Set([next]) });
    list.current?.querySelector(`[data-id="${next}"]`)?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  };
  useKeys({ nextOne: () => step(1), oneBefore: () => step(-1) });
  const chosen = meant.kind === 'all' ? total : meant.ids.size;
  return (
    <section aria-label="Photos of the result" className="flex min-w-0 flex-1 flex-col">
      <div className="flex items-center gap-3 px-3 pt-1.5 text-[12px]">
        <span className="figures">
          <b className={chosen > 0 ? 'text-spruce' : ''}>{numberText(chosen)}</b> of {countText(total, 'photo')} chosen
        </span>
        <Checkbox
          checked={meant.kind === 'all'}
          onChange={(all) => onMeant(all ? { kind: 'all' } : { kind: 'some', ids: new Set() })}
        >
          All of them
        </Checkbox>
        {children}
        {fill && <Button onClick={fill.onFill}>{fill.label}</Button>}
        <span className="ml-auto flex items-center gap-1 text-ink-2">
          <Button aria-label="Photos before" disabled={page === 0} onClick={() => setPage(page - 1)}>
            <ChevronLeft size={14} />
          </Button>
          <span className="figures">
            {numberText(Math.min(total, page * BLOCK + 1))} to {numberText(Math.min(total, (page + 1) * BLOCK))}
          </span>
          <Button aria-label="Photos behind" disabled={page + 1 >= pages} onClick={() => setPage(page + 1)}>
            <ChevronRight size={14} />
          </Button>
        </span>
      </div>
      <ul ref={list} className="flex min-h-0 flex-1 items-center gap-2 overflow-x-auto px-3 py-1.5">
        <Queried query={photos}>
          {(shown) =>
            shown.length === 0 ? (
              <li className="text-ink-2">There are no photos here.</li>
            ) : (
              shown.map((photo) => (
                <StripPhoto
                  key={photo.id}
                  photo={photo}
                  chosen={isMeant(photo.id)}
                  isHovered={photo.id === hoveredId}
                  onToggle={() => toggle(photo.id)}
                  onHover={onHover}
                />
              ))
            )
          }
        </Queried>
      </ul>
    </section>
  );
}

function ignored(): void {}

interface StripPhotoProps {
  photo: Photo;
  chosen: boolean;
  isHovered: boolean;
  onToggle: () => void;
  onHover: (photoId: number | null) => void;
}

function StripPhoto({ photo, chosen, isHovered, onToggle, onHover }: StripPhotoProps) {
  const { id, name, previewVersion } = photo;
  const { ref, props } = useDragging(`strip ${id}`, { grasped: { what: 'photo', id, text: name } });
  return (
    <li className="h-full shrink-0" data-id={id}>
      <button
        {...props}
        ref={ref}
        type="button"
        aria-pressed={chosen}
        title={name}
        aria-label={name}
        className={`flex h-full min-w-12 items-center justify-center border-2 bg-ground ${chosen ? 'border-spruce' : isHovered ? 'border-slate' : 'border-transparent'}`}
        onClick={onToggle}
        onPointerEnter={() => onHover(id)}
        onPointerLeave={() => onHover(null)}
        onFocus={() => onHover(id)}
        onBlur={() => onHover(null)}
      >
        {previewVersion > 0 ? (
          <img
            src={previewUrl(id, previewVersion)}
            alt=""
            loading="lazy"
            draggable={false}
            className="max-h-full max-w-40"
          />
        ) : (
          <span className="px-2 font-mono text-[11px] text-ink-2">{name}</span>
        )}
      </button>
    </li>
  );
}
