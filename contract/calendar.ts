// The calendar of a result: years, months, days with their photos; and events, which are proposed to be named.

import { z } from 'zod';
import { CALENDAR_UNITS, isCalendarPart } from '@stellin/core/timeplace/calendar';
import { queryTextSchema, selection } from './photos';
import { givenNames, placeNames } from './places';
import { id, route, text } from './route';

const part = text
  .max(7)
  .refine((name) => name === '' || isCalendarPart(name), 'is no year like 1932 and no month like 1932-07')
  .default('')
  .describe('A year or a month; empty: all years');

const calendarPage = z.object({
  name: z.string().describe('As a query says it: 1932, 1932-07 or 1932-07-04'),
  photos: z.number().describe('Of days those that are known to be of it, else all that may be'),
  photoId: z.number().nullable().describe('One of them'),
  previewVersion: z.number(),
  query: z.string().describe('What finds them'),
});
export type CalendarPage = z.infer<typeof calendarPage>;

const calendarShown = z.object({
  unit: z.enum(CALENDAR_UNITS),
  pages: z.array(calendarPage),
  photos: z.number().describe('All that may be of this part'),
  roughly: z.number().describe('Those of them whose day is not known'),
  undated: z.number(),
});
export type CalendarShown = z.infer<typeof calendarShown>;

const foundEvent = z.object({
  from: z.string().describe('When its first photo was taken'),
  to: z.string(),
  photos: z.number(),
  photoId: z.number(),
  previewVersion: z.number(),
  query: z.string().describe('What finds them'),
  place: z.string().describe('Where its middle lies; empty: none has a position'),
  names: placeNames.nullable(),
});
export type FoundEvent = z.infer<typeof foundEvent>;

/** The changes of the calendar: an entry of the union of changes. */
export const calendarChanges = [
  z.object({
    kind: z.literal('nameEvent'),
    selection,
    name: text.trim().min(1).max(100),
    term: z
      .object({ parentId: id.nullable().describe('Below which term a new one is made') })
      .nullable()
      .describe(
        'Give it as a term: the one that is called so, else a new one, which is proposed by who may not add terms',
      ),
    dossier: z.boolean().describe('Gather the photos in a new dossier of this name'),
    field: z.boolean().describe('Write it into the field Event where that is empty'),
    place: givenNames.nullable().describe('Names of the place, for fields that are empty'),
  }),
] as const;

const asked = z.object({ query: queryTextSchema, part });

export const calendarRoutes = {
  showCalendar: route({
    method: 'GET',
    path: '/api/calendar',
    access: 'see',
    shows: 'seen',
    summary:
      'The photos of a result by years, by months of a year or by days of a month, without regard to the time it asks for',
    query: asked,
    response: calendarShown,
  }),
  findEvents: route({
    method: 'GET',
    path: '/api/calendar/events',
    access: 'see',
    shows: 'seen',
    summary: 'Stretches of a result that hang together by time and place: the last that begin in a year or a month',
    query: asked,
    response: z.object({ events: z.array(foundEvent) }),
  }),
};
