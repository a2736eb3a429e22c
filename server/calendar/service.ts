// The calendar of a result, and the events in it with where they took place.

import { namesTold } from '@stellin/core/describing/placing';
import { parseQuery, queryText } from '@stellin/core/search/language';
import { ofPage } from '@stellin/core/search/calendarQuery';
import type { CalendarShown, FoundEvent } from '@stellin/contract/calendar';
import { previewVersions } from '../catalogue/previewVersions';
import type { Viewer } from '../catalogue/viewer';
import type { Database } from '../database/database';
import type { Places } from '../places/service';
import type { Search } from '../search/service';

export type Calendar = ReturnType<typeof calendarService>;

export function calendarService(database: Database, search: Search, places: Places) {
  return {
    /** A year by months, a month by days, or all years when `part` is ''. */
    async show(viewer: Viewer, query: string, part: string): Promise<CalendarShown> {
      const { pages, ...counts } = await search.seenBy(viewer).calendar(query, part);
      const ids = pages.flatMap(({ id }) => (id < 0 ? [] : [id]));
      const versions = await previewVersions(database, ids);
      const asked = parseQuery(query).query;
      return {
        ...counts,
        pages: pages.map(({ name, photos, id }) => ({
          ...{ name, photos, photoId: id < 0 ? null : id, previewVersion: versions.get(id) ?? 0 },
          query: queryText(ofPage(asked, name)),
        })),
      };
    },

    /** The last events that begin in a part of the calendar, the latest first. */
    async events(viewer: Viewer, query: string, part: string): Promise<FoundEvent[]> {
      const events = (await search.seenBy(viewer).events(query, part)).reverse();
      const versions = await previewVersions(
        database,
        events.map(({ id }) => id),
      );
      const placed = events.filter(({ middle }) => middle !== null);
      const found = await places.whereabouts(placed.flatMap(({ middle }) => middle ?? []));
      return events.map((event) => {
        const { id, middle: _, ...shown } = event;
        const names = found[placed.indexOf(event)]?.names ?? null;
        return {
          ...shown,
          ...{ photoId: id, previewVersion: versions.get(id) ?? 0, names },
          place: names ? namesTold(names).slice(0, 2).join(', ') : '',
        };
      });
    },
  };
}
