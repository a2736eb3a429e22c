// Two pictures of one place, one over the other: a line between them is moved, or one is faded in.

import { useState } from 'react';
import type { Photo } from '@stellin/contract/photos';
import { FilterButton } from '../parts/FilterButton';
import { Slider } from '../parts/Slider';
import { sizeOf, Stage } from './Stage';
import type { Size, Zoom } from './zoom';

interface Props {
  below: Photo;
  above: Photo;
  zoom: Zoom;
  onZoom: (change: (before: Zoom) => Zoom) => void;
  onFit: (scale: number, frame: Size) => void;
}

const WAYS = { line: 'A line between them', fade: 'One through the other' } as const;

export function ThenNow({ below, above, zoom, onZoom, onFit }: Props) {
  const [way, setWay] = useState<keyof typeof WAYS>('line');
  const [part, setPart] = useState(50);
  const style = way === 'line' ? { clipPath: `inset(0 0 0 ${part}%)` } : { opacity: part / 100 };
  const date = ({ takenAt }: Photo) => takenAt?.slice(0, 10) ?? 'without a date';
  return (
    <div className="flex min-h-0 flex-1 flex-col bg-ground">
      <div className="relative flex min-h-0 flex-1">
        <Stage photo={below} zoom={zoom} onZoom={onZoom} onFit={onFit} />
        {/* As large as the one below, so that both lie over one another. */}
        <div className="absolute inset-0 flex" style={style}>
          <Stage photo={above} zoom={zoom} onZoom={onZoom} size={sizeOf(below)} />
        </div>
        {way === 'line' && (
          <span
            className="pointer-events-none absolute inset-y-0 w-0.5 bg-card shadow"
            style={{ left: `calc(${part}% - 1px)` }}
          />
        )}
      </div>
      <div data-not-printed className="flex h-9 shrink-0 items-center gap-4 bg-sheet px-3 text-[12px]">
        <span className="truncate font-mono text-[11px]" title={below.name}>
          {below.name} · {date(below)}
        </span>
        <span className="ml-auto flex gap-3">
          {(Object.keys(WAYS) as (keyof typeof WAYS)[]).map((one) => (
            <FilterButton key={one} isOn={way === one} onClick={() => setWay(one)}>
              {WAYS[one]}
            </FilterButton>
          ))}
        </span>
        <Slider label="Share of the two pictures" value={part} lowest={0} highest={100} step={1} onChange={setPart} />
        <span className="ml-auto truncate font-mono text-[11px]" title={above.name}>
          {above.name} · {date(above)}
        </span>
      </div>
    </div>
  );
}
