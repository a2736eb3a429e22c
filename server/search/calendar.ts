// The calendar of a result, and the events in it; both without what the query itself says of time, as the time ruler is.

import { allOf, criterion } from '@stellin/core/query/query';
import { ofPage, ofSpan, withoutTime } from '@stellin/core/search/calendarQuery';
import { parseQuery, queryText } from '@stellin/core/search/language';
import { pagesWithin, yearsOf, type CalendarPages } from '@stellin/core/timeplace/calendar';
import { viewpointOf, type Viewer } from '../catalogue/viewer';
import type { FinderClient } from './finder';
import type { Opened } from './opened';

interface CalendarParts {
  finder: FinderClient;
  open: (text: string) => Promise<Opened>;
  /** For whom it is. */
  viewer: Viewer;
}

/** So many years are shown: the last ones. */
const MAX_YEARS = 200;
/** So many photos make an event. */
const LEAST_PHOTOS = 3;
const MAX_EVENTS = 60;

export function calendarReader({ finder, open, viewer }: CalendarParts) {
  const from = viewpointOf(viewer);

  /** The pages of a part of the calendar, or the years with photos when it is ''. */
  const pagesOf = async (text: string, part: string): Promise<CalendarPages | undefined> => {
    if (part !== '') return pagesWithin(part);
    const { query } = await open(text);
    const span = await finder.ask('timeSpan', { query, from });
    return span && yearsOf(span.from, span.until, MAX_YEARS);
  };

  return {
    /** How many photos may be of each page, and one to show of each; and how many may be of the part, are not known to the day, and have no date. */
    async calendar(asked: string, part: string) {
      const rest = withoutTime(parseQuery(asked).query);
      const within = part === '' ? allOf([rest, criterion('has', 'date')]) : ofPage(rest, part);
      const [all, rough, undated] = await Promise.all(
        [within, allOf([within, criterion('missing', 'day')]), allOf([rest, criterion('missing', 'date')])].map(
          async (query) => (await open(queryText(query))).query,
        ),
      );
      if (!all || !rough || !undated) throw new Error('a query was not opened');
      const pages = await pagesOf(queryText(within), part);
      const counted = pages?.unit === 'day' ? allOf([all, criterion('has', 'day')]) : all;
      const [found, counts] = await Promise.all([
        pages ? finder.ask('calendar', { query: counted, bounds: pages.bounds, from }) : [],
        finder.ask('counts', { queries: [all, rough, undated], from }),
      ]);
      const [photos = 0, roughly = 0, none = 0] = counts.map((count) => count.photos);
      return {
        ...{ unit: pages?.unit ?? ('year' as const), photos, roughly, undated: none },
        pages: found.map((page, i) => ({ ...page, name: pages?.names[i] ?? '' })),
      };
    },

    /** The last events that begin in a part of the calendar, or in all of it when that is ''. */
    async events(asked: string, part: string) {
      const rest = withoutTime(parseQuery(asked).query);
      const { query } = await open(queryText(rest));
      const { bounds } = part === '' ? { bounds: [-Infinity, Infinity] } : pagesWithin(part);
      const stretch = { from: bounds[0] ?? -Infinity, until: bounds.at(-1) ?? Infinity };
      const found = await finder.ask('events', { query, stretch, least: LEAST_PHOTOS, most: MAX_EVENTS, from });
      return found.map(({ from: first, to, photos, id, middle }) => {
        const [begin, end] = [timeText(first), timeText(to)];
        return { from: begin, to: end, photos, id, middle, query: queryText(ofSpan(rest, begin, end)) };
      });
    },
  };
}

function timeText(seconds: number): string {
  return new Date(seconds * 1000).toISOString().slice(0, 19);
}
