// What is to be done about places, each as a list that the map and the strip show.

import type { PlaceDoubts } from '@stellin/contract/places';
import { numberText } from '@stellin/contract/wording';
import { useCounts } from '../dossiers/queries';
import { DOUBT_LABELS, type DoubtKind } from './doubtText';

/** Each with the query that finds its photos. */
const WORK_LISTS: readonly { label: string; query: string }[] = [
  { label: 'No place at all', query: 'missing:location' },
  { label: 'A position, but no names', query: 'has:position missing:place' },
  { label: 'Names, but no position', query: 'has:place missing:position' },
];

interface Props {
  query: string;
  onShow: (query: string) => void;
  doubts: PlaceDoubts | undefined;
  /** The list of doubts that is open. */
  doubting: DoubtKind | null;
  onDoubt: (kind: DoubtKind) => void;
}

export function WorkLists({ query, onShow, doubts, doubting, onDoubt }: Props) {
  const counts = useCounts(WORK_LISTS.map((list) => list.query));
  return (
    <section aria-labelledby="place-work">
      <h2 id="place-work" className="mb-1 text-[12px] font-semibold text-ink-2">
        To be done
      </h2>
      <ul>
        {[{ label: 'All photos', query: '' }, ...WORK_LISTS].map((list, i) => (
          <Line
            key={list.label}
            label={list.label}
            count={i === 0 ? undefined : counts.data?.[i - 1]}
            isShown={doubting === null && query === list.query}
            onShow={() => onShow(list.query)}
          />
        ))}
        {(Object.keys(DOUBT_LABELS) as DoubtKind[]).map((kind) => (
          <Line
            key={kind}
            label={DOUBT_LABELS[kind]}
            count={doubts?.[kind].found}
            isShown={doubting === kind}
            onShow={() => onDoubt(kind)}
          />
        ))}
      </ul>
    </section>
  );
}

function Line({
  label,
  count,
  isShown,
  onShow,
}: {
  label: string;
  count: number | undefined;
  isShown: boolean;
  onShow: () => void;
}) {
  return (
    <li>
      <button
        type="button"
        aria-pressed={isShown}
        className={`flex w-full justify-between gap-2 rounded px-2 py-0.5 text-left ${isShown ? 'bg-spruce-pale font-semibold' : 'hover:bg-ground'}`}
        onClick={onShow}
      >
        {label}
        <span className="figures text-ink-2">{count === undefined ? '' : numberText(count)}</span>
      </button>
    </li>
  );
}
