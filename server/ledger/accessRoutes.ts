// The routes of the record of access, and the ledger as a file.

import { Readable } from 'node:stream';
import { stringify } from 'csv-stringify';
import type { FastifyInstance } from 'fastify';
import type { ZodTypeProvider } from 'fastify-type-provider-zod';
import { ACCESS_KINDS, accessRoutes, type AccessEntry } from '@stellin/contract/access';
import { LEDGER_EXPORT_PATH, ledgerExport, type LedgerEntry } from '@stellin/contract/ledger';
import { personOf, serve } from '../serve';
import type { AccessRecord } from './access';
import type { Ledger } from './service';

interface Parts {
  access: AccessRecord;
  ledger: Ledger;
}

export function accessRoutesFor(app: FastifyInstance, { access, ledger }: Parts): void {
  serve(app, accessRoutes.listAccess, async ({ query: { limit, ...filter } }) => ({
    entries: await access.list(filter, limit),
  }));
  serve(app, accessRoutes.showAccessPolicy, () => access.policy());
  serve(app, accessRoutes.setAccessPolicy, async ({ body }) => {
    await access.setPolicy(body);
    return { done: true as const };
  });
  // A file, not an answer: outside the contract's table, but with the same rules on who may ask.
  app.withTypeProvider<ZodTypeProvider>().get(
    LEDGER_EXPORT_PATH,
    {
      config: { access: 'administer', records: 'exported' },
      schema: { summary: 'The ledger as a file, all that meets a filter', querystring: ledgerExport },
    },
    (request, reply) => {
      const { format, book, ...filter } = request.query;
      const rows =
        book === 'access' ? accessRows(access.all(filter)) : changeRows(ledger.all(personOf(request), filter));
      const { type, written } = FORMATS[format];
      reply.header('content-disposition', `attachment; filename="stellin-${book}.${format}"`).type(type);
      return reply.send(written(rows));
    },
  );
}

type Row = Record<string, string | number | null>;

async function* changeRows(entries: AsyncIterable<LedgerEntry>): AsyncGenerator<Row> {
  for await (const { id, at, by, title, photos, state } of entries) yield { id, at, by, title, photos, state };
}

async function* accessRows(entries: AsyncIterable<AccessEntry>): AsyncGenerator<Row> {
  for await (const { id, at, by, kind, photo, about, address } of entries)
    yield {
      id,
      at,
      by,
      what: ACCESS_KINDS[kind],
      photo: photo?.photoId ?? null,
      file: photo?.name ?? null,
      about,
      address,
    };
}

/** A file of rows, made while it is sent. */
const FORMATS: Readonly<Record<'csv' | 'json', { type: string; written: (rows: AsyncIterable<Row>) => Readable }>> = {
  csv: {
    type: 'text/csv; charset=utf-8',
    // What a program of tables would take for a formula is a text (OWASP, CSV injection).
    written: (rows) => Readable.from(rows).pipe(stringify({ header: true, escape_formulas: true })),
  },
  json: { type: 'application/json; charset=utf-8', written: (rows) => Readable.from(jsonOf(rows)) },
};

async function* jsonOf(rows: AsyncIterable<Row>): AsyncGenerator<string> {
  let before = '[\n';
  for await (const row of rows) {
    yield before + JSON.stringify(row);
    before = ',\n';
  }
  yield before === '[\n' ? '[]\n' : '\n]\n';
}
