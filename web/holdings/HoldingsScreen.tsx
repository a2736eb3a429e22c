// Holdings: figures of what there is, how safe the catalogue is, the searches that stand here, and gaps as a list of work. Each figure
// opens the Desk.

import { Link } from 'react-router';
import { within } from '@stellin/core/holdings/figures';
import { countText, numberText } from '@stellin/contract/wording';
import { usePrepared } from '../describing/queries';
import { partLabel } from '../describing/partLabel';
import { BackupCard } from '../backup/BackupCard';
import { FixityCard } from '../fixity/FixityCard';
import { useCounts } from '../dossiers/queries';
import { deskLink } from '../parts/deskLink';
import { useSearches } from '../search/queries';
import { Failed } from '../parts/Queried';
import { useResult } from '../photos/result';
import { FigureGrid } from './FigureGrid';
import { useFigures } from './queries';
import { ScopeLine } from './ScopeLine';
import { TimeCard } from './TimeCard';

const GAPS = [
  { label: 'Without terms', query: 'missing:terms' },
  { label: 'Without a caption', query: 'missing:caption' },
  { label: 'Without people', query: 'missing:people' },
  { label: 'Without a place', query: 'missing:location' },
  { label: 'Without a date', query: 'missing:date' },
  { label: 'Without a rating', query: 'missing:rating' },
  { label: 'Without a copyright notice', query: 'missing:copyrightNotice' },
  { label: 'Can’t be decoded in full', query: 'is:damaged' },
  { label: 'On their side, as faces say', query: 'is:sideways' },
  { label: 'File missing', query: 'is:missing' },
  { label: 'Blocks disagree', query: 'is:disagreeing' },
];

export function HoldingsScreen() {
  const searched = useSearches();
  const searches = searched.data ?? [];
  const pinned = searches.filter((search) => search.pinned);
  const { data: prepared } = usePrepared();
  // What the team’s own rules find lacking stands before the general gaps.
  const gaps = [
    ...(prepared?.rules ?? []).flatMap(({ name, lacking }) =>
      lacking.map(({ part, query }) => ({ label: `${name}: without ${partLabel(part)}`, query })),
    ),
    ...GAPS,
  ];
  const { query: scope, show } = useResult();
  const figures = useFigures(scope);
  const scoped = gaps.map(({ label, query }) => ({ label, query: within(scope, query) }));
  const counted = useCounts(scoped.map(({ query }) => query));
  const counts = counted.data;
  const total = figures.data?.photos;
  const described = figures.data?.described;
  return (
    <div className="h-full overflow-y-auto p-6">
      <h1 className="font-title text-[22px] font-semibold">Holdings</h1>
      <ScopeLine query={scope} onShow={(query) => show({ query })} />
      <p className="mt-2 text-ink-2" role="status">
        {total === undefined
          ? '…'
          : `${countText(total, 'photo')}${scope === '' ? ' in the catalogue' : ''}${described === null || described === undefined || total === 0 ? '' : `, ${Math.floor((100 * described) / total)} % described`}`}
      </p>
      <Failed query={figures} />
      <Failed query={counted} />
      <Failed query={searched} />
      {figures.data && figures.data.time.bars.length > 0 && (
        <div className="mt-3">
          <TimeCard time={figures.data.time} />
        </div>
      )}
      <BackupCard />
      <FixityCard />
      <div className="mt-5 grid grid-cols-[repeat(auto-fit,minmax(380px,1fr))] gap-6">
        <section aria-labelledby="pinned">
          <h2 id="pinned" className="font-title text-[16px] font-semibold">
            Searches kept here
          </h2>
          {searched.isSuccess && pinned.length === 0 && (
            <p className="mt-2 text-ink-2">Put a saved search on Holdings by its menu on the Desk.</p>
          )}
          <ul className="mt-2 rounded border border-line bg-card">
            {pinned.map((search) => (
              <li key={search.id} className="border-b border-line last:border-0">
                <Link
                  to={`${deskLink(search.asks)}&sort=${search.sort}`}
                  className="flex items-baseline gap-3 px-3 py-2 hover:bg-sheet"
                >
                  <span className="min-w-0 flex-1">
                    <span className="font-semibold">{search.name}</span>
                    {search.note && <span className="block truncate text-[12px] text-ink-2">{search.note}</span>}
                  </span>
                  <b className="figures font-title text-[16px]">{numberText(search.count)}</b>
                </Link>
              </li>
            ))}
          </ul>
        </section>
        <section aria-labelledby="gaps">
          <h2 id="gaps" className="font-title text-[16px] font-semibold">
            Gaps
          </h2>
          <ul className="mt-2 rounded border border-line bg-card">
            {scoped.map(({ label, query }, i) => {
              const count = counts?.[i];
              const share = count === undefined || !total ? 0 : count / total;
              return (
                <li key={query} className="relative border-b border-line last:border-0">
                  <span
                    aria-hidden="true"
                    className="absolute inset-y-0 left-0 bg-amber-pale"
                    style={{ width: `${100 * share}%` }}
                  />
                  <Link
                    to={deskLink(query)}
                    className="relative flex items-baseline justify-between px-3 py-1.5 hover:underline"
                  >
                    {label}
                    <b className="figures">{count === undefined ? '…' : numberText(count)}</b>
                  </Link>
                </li>
              );
            })}
          </ul>
        </section>
      </div>
      {figures.data && <FigureGrid figures={figures.data} />}
    </div>
  );
}
