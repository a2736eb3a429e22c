// Holdings: figures of what there is, each a search that leads to its photos.

import { z } from 'zod';
import { RULER_UNITS } from '@stellin/core/search/ruler';
import { FACETS, type FacetId } from '@stellin/core/search/facets';
import { queryTextSchema } from './photos';
import { day, route } from './route';

const FACET_IDS = FACETS.map(({ id }) => id) as [FacetId, ...FacetId[]];

const figure = z.object({
  label: z.string(),
  query: z.string().describe('What finds these photos, within what is looked at'),
  photos: z.number(),
});
export type FigureCount = z.infer<typeof figure>;

const figures = z.object({
  photos: z.number(),
  described: z.number().nullable().describe('How many count as described; null: the team has no rule for it'),
  time: z.object({
    unit: z.enum(RULER_UNITS),
    bars: z.array(figure.extend({ described: z.number().nullable() })),
    missing: figure.describe('Photos without a date'),
  }),
  facets: z.array(
    z.object({
      id: z.enum(FACET_IDS),
      label: z.string(),
      values: z.array(figure).describe('The most frequent'),
      distinct: z.number(),
      missing: figure.nullable().describe('Photos without any'),
    }),
  ),
  media: z.array(figure),
  sizes: z.array(figure),
  faces: z.array(figure),
  doubles: figure.describe('Pictures that are there more than once'),
  growth: z.array(figure).describe('What was taken in, by month'),
  ages: z.object({
    years: z.array(z.string()).describe('When it was taken in'),
    decades: z.array(z.object({ label: z.string(), cells: z.array(figure) })).describe('When it was taken'),
  }),
});
export type Figures = z.infer<typeof figures>;

const workDone = z.object({
  week: z.string().describe('Its first day, a Monday'),
  by: z.string(),
  changes: z.number(),
  photos: z.number().describe('How many photos these changed, each change counted'),
});
export type WorkDone = z.infer<typeof workDone>;

const sinceLast = z.object({
  day: z.string().nullable().describe('On which one was here before; null: never'),
  cameIn: figure,
  changed: figure,
  by: z.array(figure).describe('By whom they were changed'),
});
export type SinceLast = z.infer<typeof sinceLast>;

export const holdingRoutes = {
  noteVisit: route({
    method: 'POST',
    path: '/api/holdings/visit',
    access: 'see',
    shows: 'seen',
    summary: 'Say that one is here, and read what has changed since one was here before',
    response: sinceLast,
  }),
  showFigures: route({
    method: 'GET',
    path: '/api/holdings/figures',
    access: 'see',
    shows: 'seen',
    summary: 'What there is: by time, by what photos say, by when they came in',
    query: z.object({ query: queryTextSchema.default('').describe('Only photos that this finds') }),
    response: figures,
  }),
  showWork: route({
    method: 'GET',
    path: '/api/holdings/work',
    access: 'see',
    summary: 'What was described week by week, and by whom',
    query: z.object({ since: day.describe('The first day') }),
    response: z.object({ weeks: z.array(workDone) }),
  }),
};
