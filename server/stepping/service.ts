// Stepping: the folder, day, month or event beside where somebody is, and what they have pinned.

import { allOf, criterion, type Query } from '@stellin/core/query/query';
import { queryText } from '@stellin/core/search/language';
import { textsOf } from '@stellin/core/metadata/values';
import {
  folderAsked,
  folderQuery,
  neighbour,
  restOf,
  steppedTo,
  type Direction,
  type StepKind,
} from '@stellin/core/stepping/stepping';
import type { PinnedPlace } from '@stellin/contract/stepping';
import type { Viewer } from '../catalogue/viewer';
import type { Database } from '../database/database';
import type { Drives } from '../drives/service';
import type { Search } from '../search/service';
import * as store from './store';

export type Stepping = ReturnType<typeof steppingService>;

interface Asked {
  kind: StepKind;
  direction: Direction;
  photo?: number | undefined;
  query: string;
}

interface Here {
  viewer: Viewer;
  asked: Asked;
  /** The photo from which one steps; undefined: there is none. */
  standing: store.Standing | undefined;
}

/** A place to step to: how a query asks for it, and how it is called. */
interface Found {
  here: Query;
  label: string;
}

/** Photos that are looked through for one of another event: more stand only behind dates that are not certain. */
const MAX_LOOKED = 200;

export function steppingService(database: Database, search: Search, drives: Drives) {
  const standings = (viewer: Viewer, ids: readonly number[]) => store.standingOf(database, viewer, ids);

  /** The days on which photos were taken that a query finds, the earliest first. */
  const daysOf = async (viewer: Viewer, query: string): Promise<string[]> => {
    const groups = await search.seenBy(viewer).groups(query, 'taken');
    const days = groups.flatMap(({ key }) => (key !== null && /^\d{4}-\d{2}-\d{2}$/.test(key) ? [key] : []));
    return [...new Set(days)].sort();
  };

  /** Steps through days, or months when only so much of the date is looked at. */
  const stepTime =
    (length: number) =>
    async ({ viewer, asked, standing }: Here) => {
      const from = standing?.takenAt?.slice(0, length);
      if (from === undefined) return undefined;
      const rest = queryText(allOf(restOf(asked.query, asked.kind)));
      const stretches = [...new Set((await daysOf(viewer, rest)).map((day) => day.slice(0, length)))];
      const to =
        asked.direction === 'next' ? stretches.find((each) => each > from) : stretches.findLast((each) => each < from);
      return to === undefined ? undefined : { here: criterion('taken', to), label: to };
    };

  const STEPPERS: Readonly<Record<StepKind, (from: Here) => Promise<Found | undefined>>> = {
    /** Folders of the same folder above, by name; drives stand beside drives. */
    async folder({ viewer, asked, standing }) {
      const [folders, known] = await Promise.all([drives.listFolders(viewer), drives.list(viewer)]);
      const labels = new Map(known.map(({ id, label }) => [id, label]));
      const pathOf = ({ driveId, path }: (typeof folders)[number]) =>
        [labels.get(driveId) ?? '', path].filter(Boolean).join('/');
      const place = folderAsked(asked.query);
      const here = place
        ? folders.find((folder) => pathOf(folder) === place.path)
        : folders.find(({ id }) => id === standing?.folderId);
      if (!here) return undefined;
      const beside = folders
        .filter(({ id, parentId, photosWithin }) => parentId === here.parentId && (photosWithin > 0 || id === here.id))
        .sort((a, b) => pathOf(a).localeCompare(pathOf(b), 'en', { numeric: true }));
      const to = neighbour(beside, beside.indexOf(here), asked.direction);
      return to && { here: folderQuery(labels.get(to.driveId) ?? '', to.path), label: pathOf(to) };
    },
    day: stepTime('YYYY-MM-DD'.length),
    month: stepTime('YYYY-MM'.length),
    /** The event of the first photo after the last of this event, or of the last one before its first. */
    async event({ viewer, asked, standing }) {
      const seen = search.seenBy(viewer);
      const rest = restOf(asked.query, 'event');
      const isNext = asked.direction === 'next';
      const [event] = textsOf(standing?.event ?? undefined);
      const own = event === undefined ? undefined : criterion('event', event);
      // What of this event stands last in the direction in which one goes.
      const [edge] = own
        ? await standings(
            viewer,
            await seen.page(queryText(allOf([own, ...rest])), isNext ? 'taken-desc' : 'taken', 0, 1),
          )
        : [standing];
      const from = edge?.takenAt;
      if (!from) return undefined;
      const asks: Query[] = [
        criterion('has', 'event'),
        { kind: 'criterion', criterion: 'taken', operator: isNext ? '>=' : '<=', value: from.slice(0, 10) },
        ...(own ? [{ kind: 'not' as const, of: own }] : []),
        ...rest,
      ];
      const ids = await seen.page(queryText(allOf(asks)), isNext ? 'taken' : 'taken-desc', 0, MAX_LOOKED);
      const rows = new Map((await standings(viewer, ids)).map((row) => [row.id, row]));
      for (const id of ids) {
        const row = rows.get(id);
        const [to] = textsOf(row?.event ?? undefined);
        const at = row?.takenAt ?? from;
        if (to !== undefined && (isNext ? at > from : at < from)) return { here: criterion('event', to), label: to };
      }
      return undefined;
    },
  };

  return {
    /** Where the next or former of a kind is; null where there is none. */
    async step(viewer: Viewer, asked: Asked): Promise<{ query: string; label: string } | null> {
      const ids =
        asked.photo === undefined ? await search.seenBy(viewer).page(asked.query, 'taken', 0, 1) : [asked.photo];
      const [standing] = await standings(viewer, ids);
      const found = await STEPPERS[asked.kind]({ viewer, asked, standing });
      return found ? { query: steppedTo(asked.query, asked.kind, found.here), label: found.label } : null;
    },

    pinned: (accountId: number) => store.pinnedOf(database, accountId),
    setPinned: (accountId: number, pinned: readonly PinnedPlace[]) => store.setPinned(database, accountId, pinned),
  };
}
