// Above the sheet of a result that asks for stretches: each as a result of its own, which opens its film at the moment.

import { AudioLines } from 'lucide-react';
import { clockText } from '@stellin/core/media/moments';
import { parseQuery } from '@stellin/core/search/language';
import { asksForStretches } from '@stellin/core/search/stretches';
import type { FoundStretch } from '@stellin/contract/media';
import { countText } from '@stellin/contract/wording';
import type { Result } from '../photos/queries';
import { useFoundStretches } from './queries';
import { StripPicture } from './StripPicture';

interface Props {
  result: Result;
  onOpen: (stretch: FoundStretch) => void;
}

export function FoundStretches({ result, onOpen }: Props) {
  return asksForStretches(parseQuery(result.query).query) ? <Found result={result} onOpen={onOpen} /> : null;
}

function Found({ result, onOpen }: Props) {
  const { data } = useFoundStretches(result);
  if (!data || data.stretches.length === 0) return null;
  const { stretches, more } = data;
  return (
    <section aria-label="Stretches found" className="shrink-0 border-b border-line bg-sheet px-3 pt-2 pb-1">
      <h2 className="figures text-[12px] text-ink-2">
        {more
          ? `The first ${countText(stretches.length, 'stretch', 'stretches')}`
          : countText(stretches.length, 'stretch', 'stretches')}
      </h2>
      <ul className="flex gap-2 overflow-x-auto py-1">
        {stretches.map((stretch) => (
          <li key={`${stretch.photoId} ${stretch.from} ${stretch.to} ${stretch.name}`} className="shrink-0">
            <FoundOne stretch={stretch} onOpen={() => onOpen(stretch)} />
          </li>
        ))}
      </ul>
    </section>
  );
}

function FoundOne({ stretch, onOpen }: { stretch: FoundStretch; onOpen: () => void }) {
  const { photoId, version, duration, isFilm, from, to, name, note, film, rating, terms, people } = stretch;
  const said = [note, ...terms, ...people].filter((text) => text !== '').join(' · ');
  return (
    <button
      type="button"
      className="flex w-64 gap-2 rounded border border-line bg-card p-1 text-left hover:border-spruce"
      aria-label={`${name || clockText(from)}, ${clockText(from)} in ${film}`}
      title={said}
      onClick={onOpen}
    >
      {isFilm && duration ? (
        <StripPicture
          photoId={photoId}
          version={version}
          part={from / duration}
          className="h-12 w-20 shrink-0 rounded"
        />
      ) : (
        <span className="flex h-12 w-20 shrink-0 items-center justify-center rounded bg-ground text-ink-2">
          <AudioLines size={18} />
        </span>
      )}
      <span className="min-w-0 text-[12px] leading-4">
        <b className="block truncate">{name || 'Unnamed'}</b>
        <span className="figures block truncate text-ink-2">
          {clockText(from)}
          {to > from && ` – ${clockText(to)}`}
          {rating > 0 && <span className="ml-1 text-amber">{'✦'.repeat(rating)}</span>}
        </span>
        <span className="block truncate text-ink-2">{film}</span>
      </span>
    </button>
  );
}
