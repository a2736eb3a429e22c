// What is to be done about places, each as a list that the map and the strip show.

import { numberText } from '@stellin/contract/wording';
import { useCounts } from '../dossiers/queries';

/** Each with the query that finds its photos. */
const WORK_LISTS: readonly { label: string; query: string }[] = [
  { label: 'No place at all', query: 'missing:location' },
  { label: 'A position, but no names', query: 'has:position missing:place' },
  { label: 'Names, but no position', query: 'has:place missing:position' },
];

interface Props {
  query: string;
  onShow: (query: string) => void;
}

export function WorkLists({ query, onShow }: Props) {
  const counts = useCounts(WORK_LISTS.map((list) => list.query));
  return (
    <section aria-labelledby="place-work">
      <h2 id="place-work" className="mb-1 text-[12px] font-semibold text-ink-2">
        To be done
      </h2>
      <ul>
        {[{ label: 'All photos', query: '' }, ...WORK_LISTS].map((list, i) => (
          <li key={list.label}>
            <button
              type="button"
              aria-pressed={query === list.query}
              className={`flex w-full justify-between gap-2 rounded px-2 py-0.5 text-left ${query === list.query ? 'bg-spruce-pale font-semibold' : 'hover:bg-ground'}`}
              onClick={() => onShow(list.query)}
            >
              {list.label}
              <span className="figures text-ink-2">{i === 0 ? '' : numberText(counts.data?.[i - 1] ?? 0)}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
