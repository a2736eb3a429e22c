// Reports: what came in, was described and delivered in a time, a project, an accession; the accession register and the inventory of
// drives. Kept as presets, and sent by mail every month.

import { z } from 'zod';
import { REPORT_KINDS } from '@stellin/core/reports/tables';
import { chosenId, dayOrNone, done, id, idParams, isoTime, route, text } from './route';

export const reportSettings = z.object({
  kind: z.enum(REPORT_KINDS),
  from: dayOrNone.describe('The first day, of a period and the register; empty: from the beginning'),
  until: dayOrNone.describe('The last day; empty: until today'),
  projectId: chosenId.nullable(),
  accessionId: chosenId.nullable(),
});
export type ReportSettings = z.infer<typeof reportSettings>;

const cell = z.object({ text: z.string(), query: z.string().optional() });
const report = z.object({
  title: z.string(),
  about: z.string(),
  madeAt: z.string(),
  sections: z.array(
    z.object({
      title: z.string(),
      empty: z.string(),
      columns: z.array(z.object({ label: z.string(), isNumber: z.boolean() })),
      rows: z.array(z.array(cell)),
    }),
  ),
});

export const reportPresetShape = z.object({
  name: text.trim().min(1).max(200),
  settings: reportSettings,
  monthlyTo: text
    .trim()
    .max(300)
    .refine((address) => address === '' || /^[^\s@]+@[^\s@]+\.[^\s@]+$/.test(address), 'That is no mail address.')
    .describe('To whom it is sent every month, about the month before; empty: to nobody'),
});
export type ReportPresetForm = z.infer<typeof reportPresetShape>;

const reportPreset = reportPresetShape.extend({
  id: z.number(),
  by: z.string().nullable(),
  sentAt: isoTime.nullable().describe('When it was sent last'),
});
export type ReportPreset = z.infer<typeof reportPreset>;

/** How a report is taken along. */
export const REPORT_FORMATS = ['csv', 'pdf'] as const;

export const reportRoutes = {
  makeReport: route({
    method: 'POST',
    path: '/api/reports',
    access: 'see',
    summary: 'A report as tables',
    body: reportSettings,
    response: report,
  }),
  listReportPresets: route({
    method: 'GET',
    path: '/api/reports/presets',
    access: 'see',
    summary: 'Reports that are kept, by name',
    response: z.object({ presets: z.array(reportPreset) }),
  }),
  keepReport: route({
    method: 'POST',
    path: '/api/reports/presets',
    access: 'deliver',
    summary: 'Keep a report: a new one, or one of that name anew',
    body: reportPresetShape,
    response: z.object({ id: z.number() }),
  }),
  removeReport: route({
    method: 'DELETE',
    path: '/api/reports/presets/:id',
    access: 'deliver',
    summary: 'Keep a report no longer',
    params: idParams,
    response: done,
  }),
};

/** Where the file of a report is fetched, with its settings as the query. */
export const REPORT_FILE_PATH = '/api/reports/file';
export const reportFileQuery = z.object({
  format: z.enum(REPORT_FORMATS),
  kind: reportSettings.shape.kind,
  from: dayOrNone.default(''),
  until: dayOrNone.default(''),
  projectId: z.preprocess((given) => (given === '' || given === undefined ? null : given), id.nullable()),
  accessionId: z.preprocess((given) => (given === '' || given === undefined ? null : given), id.nullable()),
});
