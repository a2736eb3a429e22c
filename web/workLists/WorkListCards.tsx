// The work lists of Holdings: by group, each with how many there are, whether they become more or fewer, and where one begins.

import { useState } from 'react';
import { Link } from 'react-router';
import { LIST_GROUPS, THING_LISTS, type ListGroup } from '@stellin/core/workLists/lists';
import { workListRoutes } from '@stellin/contract/workLists';
import { countText, numberText } from '@stellin/contract/wording';
import { useMayCall } from '../foundation/session';
import { deskLink } from '../parts/deskLink';
import { Menu, MenuItem } from '../parts/Menu';
import { Failed } from '../parts/Queried';
import { THING_PATHS, walkPath } from './addresses';
import { GiveDialog } from './GiveDialog';
import { useThingLists, useWorkLists } from './queries';

/** What a row shows, of whichever kind of list. */
interface Row {
  id: string;
  label: string;
  note: string;
  group: ListGroup;
  count: number;
  done: number;
  trend: number | null;
  /** Where one begins. */
  start: string;
  /** What finds them on the Desk; null: they are no photos. */
  query: string | null;
}

interface Props {
  /** What is looked at. */
  scope: string;
  /** How many photos that are; undefined while it is not known. */
  total: number | undefined;
}

export function WorkListCards({ scope, total }: Props) {
  const photos = useWorkLists(scope);
  const things = useThingLists();
  const [giving, setGiving] = useState<{ list: string; label: string } | null>(null);
  const rows: Row[] = [
    ...(photos.data ?? []).map(({ photos: count, ...list }): Row => ({
      ...list,
      count,
      start: walkPath(list.id, scope),
    })),
    ...(things.data ?? []).map(({ id, things: count, trend }): Row => ({
      ...{ id, count, trend, ...THING_LISTS[id] },
      ...{ note: '', done: 0, start: THING_PATHS[id], query: null },
    })),
  ];
  return (
    <section aria-labelledby="work-lists" className="mt-5">
      <h2 id="work-lists" className="font-title text-[16px] font-semibold">
        Work lists
      </h2>
      <Failed query={photos} />
      <Failed query={things} />
      <div className="mt-2 columns-[380px] gap-6">
        {LIST_GROUPS.map((group) => (
          <Group
            key={group}
            group={group}
            rows={rows.filter((row) => row.group === group)}
            total={total}
            isRead={group === 'To settle' ? things.isSuccess : photos.isSuccess}
            onGive={(list, label) => setGiving({ list, label })}
          />
        ))}
      </div>
      {giving && <GiveDialog {...giving} query={scope} onClose={() => setGiving(null)} />}
    </section>
  );
}

interface GroupProps {
  group: ListGroup;
  rows: readonly Row[];
  total: number | undefined;
  isRead: boolean;
  onGive: (list: string, label: string) => void;
}

function Group({ group, rows, total, isRead, onGive }: GroupProps) {
  const [all, setAll] = useState(false);
  const open = rows.filter(({ count }) => count > 0);
  const shown = all ? rows : open;
  const hint = group === 'Kept searches' && isRead && rows.length === 0;
  if (isRead && rows.length === 0 && !hint) return null;
  return (
    <section aria-label={group} className="mb-4 break-inside-avoid">
      <h3 className="flex items-baseline justify-between text-[12px] font-semibold text-ink-2">
        {group}
        {rows.length > open.length && (
          <button type="button" className="font-normal text-slate hover:underline" onClick={() => setAll(!all)}>
            {all ? 'Only what is open' : `${countText(rows.length - open.length, 'list')} done`}
          </button>
        )}
      </h3>
      {hint ? (
        <p className="mt-1 text-ink-2">Put a saved search on Holdings by its menu on the Desk.</p>
      ) : shown.length === 0 ? (
        <p className="mt-1 text-ink-2">{isRead ? 'Nothing waits here.' : '…'}</p>
      ) : (
        <ul className="mt-1 rounded border border-line bg-card">
          {shown.map((row) => (
            <ListRow key={row.id} row={row} total={total} onGive={() => onGive(row.id, row.label)} />
          ))}
        </ul>
      )}
    </section>
  );
}

function ListRow({ row, total, onGive }: { row: Row; total: number | undefined; onGive: () => void }) {
  const { label, note, count, done, trend, start, query } = row;
  const mayGive = useMayCall(workListRoutes.giveList);
  const share = query === null || !total ? 0 : count / total;
  return (
    <li className="relative flex items-center gap-2 border-b border-line px-3 py-1 last:border-0">
      <span
        aria-hidden="true"
        className="absolute inset-y-0 left-0 bg-amber-pale"
        style={{ width: `${100 * Math.min(1, share)}%` }}
      />
      <span className="relative min-w-0 flex-1">
        {query === null ? (
          <Link to={start} className="hover:underline">
            {label}
          </Link>
        ) : (
          <Link to={deskLink(query)} className="hover:underline">
            {label}
          </Link>
        )}
        {note && <span className="block truncate text-[12px] text-ink-2">{note}</span>}
      </span>
      {done > 0 && (
        <span className="figures relative text-[12px] whitespace-nowrap text-ink-2">{numberText(done)} done with</span>
      )}
      {trend !== null && trend !== 0 && <Trend by={trend} />}
      <b className="figures relative w-14 text-right">{numberText(count)}</b>
      <Link
        to={start}
        aria-label={`Start here: ${label}`}
        className={`relative w-10 text-right text-slate hover:underline ${count === 0 ? 'invisible' : ''}`}
      >
        Start
      </Link>
      {mayGive && query !== null && (
        <Menu label={`More about ${label}`} className="relative">
          <MenuItem label="Give it to somebody …" onSelect={onGive} />
        </Menu>
      )}
    </li>
  );
}

/** By how many a list has grown or become shorter within a week. */
function Trend({ by }: { by: number }) {
  const grows = by > 0;
  return (
    <span
      className={`figures relative text-[12px] whitespace-nowrap ${grows ? 'text-amber' : 'text-spruce'}`}
      title={`${numberText(Math.abs(by))} ${grows ? 'more' : 'fewer'} than a week ago`}
    >
      {grows ? '▲' : '▼'} {numberText(Math.abs(by))}
      <span className="sr-only"> {grows ? 'more' : 'fewer'} than a week ago</span>
    </span>
  );
}
