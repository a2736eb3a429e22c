// The routes of reports.

import type { FastifyInstance } from 'fastify';
import { reportCsv } from '@stellin/core/reports/report';
import type { Report } from '@stellin/core/reports/tables';
import { REPORT_FILE_PATH, type REPORT_FORMATS, reportFileQuery, reportRoutes } from '@stellin/contract/reports';
import { attachment, personOf, serve } from '../serve';
import { printReport } from './printing';
import type { Reports } from './service';

export function reportsRoutes(app: FastifyInstance, reports: Reports): void {
  serve(app, reportRoutes.makeReport, ({ body, person }) => reports.make(person, body));
  serve(app, reportRoutes.listReportPresets, async () => ({ presets: await reports.presets() }));
  serve(app, reportRoutes.keepReport, async ({ body, person }) => ({ id: await reports.keep(body, person.accountId) }));
  serve(app, reportRoutes.removeReport, async ({ params }) => {
    await reports.remove(params.id);
    return { done: true as const };
  });
  // A file, not JSON: outside the contract's table, but with the same rules on who may ask.
  app.get(
    REPORT_FILE_PATH,
    {
      config: { access: 'see', shows: 'all' },
      schema: { summary: 'A report as a file', querystring: reportFileQuery },
    },
    async (request, reply) => {
      const { format, ...settings } = reportFileQuery.parse(request.query);
      const report = await reports.make(personOf(request), settings);
      const { type, content } = FILES[format](report);
      return reply
        .header('cache-control', 'no-store')
        .header('content-disposition', attachment(`${report.about}.${format}`))
        .type(type)
        .send(content);
    },
  );
}

const FILES: Readonly<Record<(typeof REPORT_FORMATS)[number], (report: Report) => { type: string; content: unknown }>> =
  {
    // With the mark by which spreadsheets know UTF-8.
    csv: (report) => ({ type: 'text/csv; charset=utf-8', content: `\uFEFF${reportCsv(report)}` }),
    pdf: (report) => ({ type: 'application/pdf', content: printReport(report) }),
  };
