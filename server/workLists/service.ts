// Work lists: how many photos and other things wait for something, which photos a walk goes through, what becomes of them there,
// and who was given which list.

import {
  THING_LIST_IDS,
  doneWith,
  endingList,
  leftOf,
  leftText,
  PHOTO_LISTS,
  ruleListId,
  searchListId,
} from '@stellin/core/workLists/lists';
import type { PhotoList, ThingListId } from '@stellin/core/workLists/lists';
import { fieldLabel } from '@stellin/core/describing/targets';
import { within } from '@stellin/core/holdings/figures';
import { allOf } from '@stellin/core/query/query';
import type { Sort } from '@stellin/core/search/sorts';
import { mayCall } from '@stellin/contract/accounts';
import type { Photo, Selection } from '@stellin/contract/photos';
import type { Route } from '@stellin/contract/route';
import type { GivenList, Giving, Outcome, ThingList, WorkList } from '@stellin/contract/workLists';
import { today } from '../catalogue/clock';
import { requireSeen } from '../catalogue/seen';
import { ownOrAll, PROGRAM, reachOf, type Person, type Viewer } from '../catalogue/viewer';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import type { Search } from '../search/service';
import * as store from './store';

export type WorkLists = ReturnType<typeof workListService>;

/** What counts other things than photos: the route that lists them, which says for whom they are, and how many there are for somebody (`own`: of whose, null for everybody’s). */
export type ThingCounters = Readonly<
  Record<ThingListId, { route: Route; count: (viewer: Viewer, own: number | null) => Promise<number> }>
>;

interface Parts {
  database: Database;
  search: Search;
  /** The team’s rules, each with what finds the photos that lack a part. */
  rules: () => Promise<readonly { id: number; name: string; lacking: readonly { part: string; query: string }[] }[]>;
  photosOf: (viewer: Viewer, selection: Selection, sort: Sort, limit: number) => Promise<Photo[]>;
  /** The accessions of which what was agreed ends by a day. */
  ending: (day: string) => Promise<readonly number[]>;
  things: ThingCounters;
}

/** The trend of a list compares it with how long it was a week ago. */
const TREND_DAYS = 7;
/** How long the counts of each day are kept. */
const KEPT_DAYS = 400;
const MOST_DONE = 20;
/** How long before an agreement ends its photos come on a work list. */
const ENDING_DAYS = 90;

export function workListService({ database, search, rules, photosOf, ending, things }: Parts) {
  // One closure for what its functions share; each of them fits a screen.
  /** The lists of photos that exist for somebody: those of the team’s rules first, then those that all have, then kept searches. */
  const listsFor = async (viewer: Viewer): Promise<PhotoList[]> => {
    const [ofTeam, definitions, accessions] = await Promise.all([
      rules(),
      search.seenBy(viewer).kept(),
      ending(dayFrom(ENDING_DAYS)),
    ]);
    return [
      ...ofTeam.flatMap(({ id, name, lacking }) =>
        lacking.map(({ part, query }): PhotoList => ({
          id: ruleListId(id, part),
          label: `${name}: without ${fieldLabel(part).toLowerCase()}`,
          group: 'To describe',
          query,
        })),
      ),
      ...PHOTO_LISTS,
      ...(accessions.length > 0 ? [endingList(accessions)] : []),
      ...definitions.map(({ id, name, note, asks }): PhotoList => ({
        id: searchListId(id),
        label: name,
        note,
        group: 'Kept searches',
        query: asks,
      })),
    ];
  };

  const requireList = async (viewer: Viewer, id: string): Promise<PhotoList> => {
    const list = (await listsFor(viewer)).find((each) => each.id === id);
    if (!list) throw new StellinError('notFound', { what: 'such work list (it may have been removed meanwhile)' });
    return list;
  };

  /** How many of some lists are left, and how many are done with, within what a query finds. */
  const countLists = async (viewer: Viewer, lists: readonly PhotoList[], scope: string) => {
    const seen = search.seenBy(viewer);
    const [looked, ...opened] = await Promise.all([scope, ...lists.map(({ query }) => query)].map(seen.open));
    if (!looked) return [];
    const parts = lists.flatMap(({ id }, i) => {
      const { query } = opened[i] ?? looked;
      return [leftOf(query, id), allOf([query, doneWith(id)])];
    });
    const counts = await seen.countParts(looked.query, parts);
    return lists.map((_, i) => ({ photos: counts[2 * i] ?? 0, done: counts[2 * i + 1] ?? 0 }));
  };

  const formerCounts = () => store.countsSince(database, dayFrom(-TREND_DAYS), today());

  return {
    /** The lists of photos with how many are left of each. */
    async lists(person: Person, scope: string): Promise<WorkList[]> {
      const lists = await listsFor(person);
      // What is known of former days was counted over everything there is.
      const isWhole = scope === '' && person.seesAll;
      const [counts, former] = await Promise.all([
        countLists(person, lists, scope),
        isWhole ? formerCounts() : new Map<string, number>(),
      ]);
      return lists.map(({ id, label, note = '', group, query }, i) => {
        const { photos, done } = counts[i] ?? { photos: 0, done: 0 };
        const before = former.get(id);
        return {
          ...{ id, label, note, group, photos, done },
          query: within(scope, leftText(query, id)),
          trend: before === undefined ? null : photos - before,
        };
      });
    },

    /** What else waits, of what is somebody’s to settle. */
    async things(person: Person): Promise<ThingList[]> {
      const ids = THING_LIST_IDS.filter((id) => mayCall(person, things[id].route));
      const [counts, former] = await Promise.all([
        Promise.all(ids.map((id) => things[id].count(person, ownOrAll(person)))),
        person.seesAll && ownOrAll(person) === null ? formerCounts() : new Map<string, number>(),
      ]);
      return ids.map((id, i) => {
        const now = counts[i] ?? 0;
        const before = former.get(id);
        return { id, things: now, trend: before === undefined ? null : now - before };
      });
    },

    /** The first photos of what is left of a list, less what somebody has put off. */
    async walk(person: Person, asked: { list: string; query: string; limit: number }) {
      const list = await requireList(person, asked.list);
      const seen = search.seenBy(person);
      const whole = within(asked.query, list.query);
      const left = within(asked.query, leftText(list.query, list.id));
      const off = await store.putOff(database, list.id, person.accountId);
      const [count, offHere, photos] = await Promise.all([
        seen.count(left),
        off.length === 0
          ? 0
          : seen.within({ query: null, minus: [], plus: off }, [left], 0).then(([some]) => some?.photos ?? 0),
        photosOf(person, { query: left, minus: off, plus: [] }, 'taken', asked.limit),
      ]);
      return { label: list.label, query: whole, photos, left: count - offHere, later: offHere };
    },

    async settle(person: Person, { list, photoId, outcome }: { list: string; photoId: number; outcome: Outcome }) {
      await requireSeen(database, { ...person, sight: reachOf(person, 'describe') }, photoId);
      const { id } = await requireList(person, list);
      const what = { photoId, list: id, accountId: person.accountId };
      await OUTCOME_STEPS[outcome](database, what);
      await database.notify(outcome === 'later' ? ['workLists'] : ['photos', 'workLists']);
    },

    /** What was given to somebody, or by them. */
    async given(person: Person): Promise<{ given: GivenList[]; doneInAll: number }> {
      const [rows, lists, doneInAll] = await Promise.all([
        store.givenOf(database, person.accountId, MOST_DONE),
        listsFor(person),
        store.countDone(database, person.accountId),
      ]);
      const byId = new Map(lists.map((list) => [list.id, list]));
      const open = rows.flatMap(({ list, doneAt, query }) => {
        const known = doneAt === null ? byId.get(list) : undefined;
        return known ? [within(query, leftText(known.query, known.id))] : [];
      });
      const counts = await search.seenBy(person).counts(open);
      let at = 0;
      return {
        doneInAll,
        given: rows.map(({ byId: _, photos: before, ...row }) => {
          const known = byId.get(row.list);
          return {
            ...{ ...row, before },
            label: known?.label ?? 'A list that is gone',
            mine: row.accountId === person.accountId,
            left: known && row.doneAt === null ? (counts[at++] ?? 0) : null,
            late: row.doneAt === null && row.due !== '' && row.due < today(),
          };
        }),
      };
    },

    async workers(): Promise<{ id: number; name: string }[]> {
      return store.workers(database);
    },

    /** Gives a list to somebody. */
    async give(person: Person, { list, query, accountId, note, due }: Giving): Promise<void> {
      const known = await requireList(person, list);
      if (!(await store.workers(database)).some(({ id }) => id === accountId))
        throw new StellinError('notFound', { what: 'such account' });
      const photos = await search.seenBy(person).count(within(query, leftText(known.query, known.id)));
      await store.insertGiven(database, { list, query, accountId, note, due, by: person.accountId, photos });
      await database.notify(['workLists']);
    },

    /** Says that what was given is done, or not, or takes it back. */
    async end(person: Person, id: number, as: 'done' | 'open' | 'gone'): Promise<void> {
      const isThere =
        as === 'gone'
          ? await store.removeGiven(database, id, person.accountId)
          : await store.setDone(database, id, person.accountId, as === 'done');
      if (!isThere) throw new StellinError('notFound', { what: 'such list of yours' });
      await database.notify(['workLists']);
    },

    /** Keeps how long all lists are today. */
    async keepCounts(): Promise<void> {
      const lists = await listsFor(PROGRAM);
      const [counts, found] = await Promise.all([
        countLists(PROGRAM, lists, ''),
        Promise.all(THING_LIST_IDS.map((id) => things[id].count(PROGRAM, null))),
      ]);
      await store.keepCounts(database, today(), [
        ...lists.map(({ id }, i) => ({ list: id, photos: counts[i]?.photos ?? 0 })),
        ...THING_LIST_IDS.map((list, i) => ({ list, photos: found[i] ?? 0 })),
      ]);
      await store.dropCountsBefore(database, dayFrom(-KEPT_DAYS));
    },
  };
}

const OUTCOME_STEPS: Readonly<
  Record<Outcome, (database: Database, what: { photoId: number; list: string; accountId: number }) => Promise<void>>
> = {
  done: store.insertDone,
  later: (database, what) => store.insertLater(database, { ...what, until: tomorrow() }),
  open: store.forgetOutcome,
};

/** The beginning of the next day here. */
function tomorrow(): Date {
  const now = new Date();
  return new Date(now.getFullYear(), now.getMonth(), now.getDate() + 1);
}

/** The day that lies a number of days after today; before it, if the number is negative. */
function dayFrom(days: number): string {
  const now = new Date();
  return today(new Date(now.getFullYear(), now.getMonth(), now.getDate() + days));
}
