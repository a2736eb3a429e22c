// The stretches of a film or sound beside it: gone to, named, described, rated, and had as lists and files of their own.

import { Download, Trash2 } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { clockText } from '@stellin/core/media/moments';
import type { Stretch } from '@stellin/core/media/stretches';
import { clipPath, STRETCH_LISTS, stretchListPath } from '@stellin/contract/media';
import { deliveringRoutes } from '@stellin/contract/delivering';
import { numberText } from '@stellin/contract/wording';
import { useMayCall } from '../foundation/session';
import { Button } from '../parts/Button';
import { TextField } from '../parts/Field';
import { Kbd } from '../parts/Kbd';
import { shownKey } from '../foundation/keys';

interface Props {
  photoId: number;
  stretches: readonly Stretch[];
  /** The one that was made just now takes the focus. */
  fresh: string | null;
  mayChange: boolean;
  onSeek: (seconds: number) => void;
  /** Resolves to whether they are kept. */
  onChange: (stretches: readonly Stretch[]) => Promise<boolean>;
}

export function StretchList({ photoId, stretches, fresh, mayChange, onSeek, onChange }: Props) {
  const mayTake = useMayCall(deliveringRoutes.deliver);
  const put = (key: string | null, part: Partial<Stretch>) =>
    onChange(stretches.map((stretch) => (stretch.key === key ? { ...stretch, ...part } : stretch)));
  return (
    <aside aria-label="Stretches" className="flex w-80 shrink-0 flex-col border-l border-line bg-sheet">
      <header className="flex items-center gap-2 border-b border-line px-3 py-2">
        <h3 className="font-semibold">
          Stretches <span className="figures font-normal text-ink-2">{numberText(stretches.length)}</span>
        </h3>
        {mayTake &&
          stretches.length > 0 &&
          STRETCH_LISTS.map((format) => (
            <a
              key={format}
              href={`${stretchListPath(photoId)}?format=${format}`}
              download
              className="text-[12px] text-slate first-of-type:ml-auto hover:underline"
            >
              {format.toUpperCase()}
            </a>
          ))}
      </header>
      {stretches.length === 0 && (
        <p className="px-3 py-2 text-[12px] text-ink-2">
          {mayChange ? (
            <>
              <Kbd>{shownKey('zoomOut')}</Kbd> begins a stretch where it is played, <Kbd>{shownKey('zoomIn')}</Kbd> ends
              it.
            </>
          ) : (
            'Nobody has marked any.'
          )}
        </p>
      )}
      <ul className="min-h-0 flex-1 overflow-y-auto">
        {stretches.map((stretch) => (
          <Item
            key={stretch.key}
            photoId={photoId}
            stretch={stretch}
            isFresh={stretch.key === fresh}
            mayChange={mayChange}
            mayTake={mayTake}
            onSeek={onSeek}
            onPut={(part) => put(stretch.key, part)}
            onRemove={() => void onChange(stretches.filter(({ key }) => key !== stretch.key))}
          />
        ))}
      </ul>
    </aside>
  );
}

interface ItemProps {
  photoId: number;
  stretch: Stretch;
  isFresh: boolean;
  mayChange: boolean;
  mayTake: boolean;
  onSeek: (seconds: number) => void;
  onPut: (part: Partial<Stretch>) => Promise<boolean>;
  onRemove: () => void;
}

function Item({ photoId, stretch, isFresh, mayChange, mayTake, onSeek, onPut, onRemove }: ItemProps) {
  const { from, to, name, note, rating, terms, people } = stretch;
  const called = name || clockText(from);
  const element = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (isFresh) element.current?.querySelector('input')?.focus();
  }, [isFresh]);
  return (
    <li ref={element} className="border-b border-line px-3 py-2" aria-label={`Stretch ${called}`}>
      <div className="flex items-center gap-2">
        <button
          type="button"
          className="figures text-[12px] text-slate hover:underline"
          aria-label={`Go to ${called}`}
          onClick={() => onSeek(from)}
        >
          {clockText(from)} – {clockText(to)}
        </button>
        <span className="ml-auto flex gap-1">
          {mayTake && to > from && (
            <a
              href={`${clipPath(photoId)}?from=${from}&to=${to}`}
              download
              aria-label={`Download ${called} as a file`}
              className="p-1 text-ink-3 hover:text-ink"
            >
              <Download size={14} />
            </a>
          )}
          {mayChange && (
            <Button look="quiet" className="!h-6 !px-1" aria-label={`Remove ${called}`} onClick={onRemove}>
              <Trash2 size={14} />
            </Button>
          )}
        </span>
      </div>
      {mayChange ? (
        <>
          <Kept label="Name" value={name} onKeep={(text) => onPut({ name: text })} />
          <Kept label="Note" value={note} onKeep={(text) => onPut({ note: text })} />
          <div className="flex gap-2">
            <Kept
              label="Terms"
              value={terms.join('; ')}
              onKeep={(text) => onPut({ terms: parted(text) })}
              className="flex-1"
            />
            <Kept
              label="People"
              value={people.join('; ')}
              onKeep={(text) => onPut({ people: parted(text) })}
              className="flex-1"
            />
          </div>
          <div role="group" aria-label={`Rating of ${called}`} className="mt-1 flex">
            {[1, 2, 3, 4, 5].map((stars) => (
              <button
                key={stars}
                type="button"
                aria-pressed={rating >= stars}
                aria-label={`Rate ${stars}`}
                className={`px-0.5 ${rating >= stars ? 'text-amber' : 'text-ink-3'}`}
                onClick={() => void onPut({ rating: rating === stars ? 0 : stars })}
              >
                ✦
              </button>
            ))}
          </div>
        </>
      ) : (
        <p className="text-[12px]">{[name, note, ...terms, ...people].filter(Boolean).join(' · ')}</p>
      )}
    </li>
  );
}

/** Texts with semicolons between them. */
const parted = (text: string) =>
  text
    .split(';')
    .map((part) => part.trim())
    .filter((part) => part !== '');

interface KeptProps {
  label: string;
  value: string;
  onKeep: (text: string) => Promise<boolean>;
  className?: string;
}

/** A text that is kept once one leaves it, or presses Enter. */
function Kept({ label, value, onKeep, className = '' }: KeptProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const keep = () => {
    if (typed === null) return;
    if (typed.trim() === value) setTyped(null);
    // What could not be kept stays as it was typed.
    else void onKeep(typed.trim()).then((isKept) => isKept && setTyped(null));
  };
  return (
    <TextField
      label={label}
      className={`mt-1 ${className}`}
      boxClass="h-7 text-[13px]"
      value={typed ?? value}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={keep}
      onKeyDown={(event) => {
        if (event.key === 'Enter') keep();
      }}
    />
  );
}
