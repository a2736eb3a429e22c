// Lists that were given to whoever looks, and those they gave to others.

import { Link } from 'react-router';
import type { GivenList } from '@stellin/contract/workLists';
import { countText, numberText } from '@stellin/contract/wording';
import { shortDayText } from '../parts/dateTimeText';
import { Menu, MenuItem } from '../parts/Menu';
import { Failed } from '../parts/Queried';
import { walkPath } from './addresses';
import { useEndGiven, useGiven } from './queries';

export function GivenCard() {
  const query = useGiven();
  const given = query.data?.given ?? [];
  const mine = given.filter((each) => each.mine);
  const others = given.filter((each) => !each.mine);
  return (
    <>
      <Failed query={query} />
      {mine.length > 0 && (
        <Lists title="Given to you" rows={mine} said={`${numberText(query.data?.doneInAll ?? 0)} done so far`} />
      )}
      {others.length > 0 && <Lists title="Given by you" rows={others} said="" />}
    </>
  );
}

function Lists({ title, rows, said }: { title: string; rows: readonly GivenList[]; said: string }) {
  return (
    <section aria-label={title} className="mt-5 max-w-4xl">
      <h2 className="flex items-baseline gap-3 font-title text-[16px] font-semibold">
        {title}
        {said && <span className="font-sans text-[12px] font-normal text-ink-2">{said}</span>}
      </h2>
      <ul className="mt-2 rounded border border-line bg-card">
        {rows.map((row) => (
          <GivenRow key={row.id} row={row} />
        ))}
      </ul>
    </section>
  );
}

function GivenRow({ row }: { row: GivenList }) {
  const end = useEndGiven();
  const { id, label, note, due, query, list, mine, to, by, left, before, late, doneAt } = row;
  const whose = mine ? (by ? `from ${by}` : '') : `to ${to}`;
  return (
    <li className="flex items-center gap-3 border-b border-line px-3 py-1.5 last:border-0">
      <span className="min-w-0 flex-1">
        <b className={doneAt ? 'font-normal text-ink-2 line-through' : ''}>{label}</b>
        {query && <code className="ml-2 font-mono text-[12px] text-ink-2">{query}</code>}
        <span className="block text-[12px] text-ink-2">
          {whose}
          {due && (
            <span className={late ? 'font-semibold text-red' : ''}>
              {' '}
              · until {shortDayText(due)}
              {late && ', which is over'}
            </span>
          )}
          {note && ` · ${note}`}
        </span>
      </span>
      <span className="figures text-right whitespace-nowrap">
        {doneAt ? (
          `done ${shortDayText(doneAt)}`
        ) : left === null ? (
          '–'
        ) : (
          <>
            <b>{numberText(left)}</b> left{' '}
            <span className="text-ink-2">of {countText(Math.max(before, left), 'photo')}</span>
          </>
        )}
      </span>
      {doneAt === null && left !== null && left > 0 && (
        <Link to={walkPath(list, query)} aria-label={`Start here: ${label}`} className="text-slate hover:underline">
          Start
        </Link>
      )}
      <button
        type="button"
        className="whitespace-nowrap text-slate hover:underline"
        onClick={() => end.mutate({ id, as: doneAt ? 'open' : 'done' })}
      >
        {doneAt ? 'Open again' : 'Done'}
      </button>
      <Menu label={`More about ${label}`}>
        <MenuItem
          label={mine ? 'Put it off the list' : 'Take it back'}
          onSelect={() => end.mutate({ id, as: 'gone' })}
        />
      </Menu>
    </li>
  );
}
