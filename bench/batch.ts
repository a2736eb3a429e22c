// `bench batch`: describing very many photos at once: a term, a field, a template with placeholders, and taking each back;
// against the bare SQL that writes the same rows, measured beside, while somebody else searches.

import { type ChangeInput, change as changeSchema } from '@stellin/contract/ledger';
import { photoRoutes } from '@stellin/contract/photos';
import type { Config } from '@stellin/server/config';
import { listen } from '@stellin/server/server';
import type { Services } from '@stellin/server/services';
import { signedIn, type Ask } from './asking';
import { markFirst, MARKED_SQL, rolledBack, timed } from './bare';
import { BENCH_ACCOUNT, withCatalogue } from './catalogue';
import { atLeast, quantiles, report, type Ratio, type Report, type Row } from './report';

const SELECTION = { query: 'mark:Benched' };
/** Batches are to be at least so fast as the bare SQL. */
const SHARE = 0.5;

interface Batch {
  id: string;
  change: (round: number) => ChangeInput;
  bare: (run: Run) => Promise<void>;
}

type Run = (sql: string, bind?: readonly unknown[]) => Promise<unknown>;

const LEDGER = `insert into ledger_entry (kind, parameters) values ('bench', '{}')`;
const ENTRY = `currval(pg_get_serial_sequence('ledger_entry', 'id'))`;
const WAITING = `insert into write_back (photo_id, state) select id, 'waiting' from (${MARKED_SQL}) s on conflict do nothing`;

/** Sets a field, given as SQL, and by what it is found. */
async function bareField(run: Run, field: string, value: string): Promise<void> {
  await run(LEDGER);
  await run(
    `insert into ledger_photo select ${ENTRY}, t.photo_id, 'fields', 0, jsonb_build_object('${field}', t.fields -> '${field}'), jsonb_build_object('${field}', ${value})
     from (${MARKED_SQL}) s join photo_text t on t.photo_id = s.id join photo p on p.id = s.id`,
  );
  await run(
    `insert into field_in_file (photo_id, field, value) select t.photo_id, '${field}', coalesce(t.fields -> '${field}', 'null')
     from (${MARKED_SQL}) s join photo_text t on t.photo_id = s.id on conflict do nothing`,
  );
  await run(
    `update photo_text t set fields = t.fields || jsonb_build_object('${field}', ${value}),
       fields_folded = t.fields_folded || jsonb_build_object('${field}', jsonb_build_array(lower(${value}))),
       words = t.words || to_tsvector('simple', ${value})
     from photo p where p.id = t.photo_id and p.id in (${MARKED_SQL})`,
  );
  await run(WAITING);
}

function batches(termId: number): Batch[] {
  return [
    {
      id: 'give a term',
      change: () => ({ kind: 'giveTerms', selection: SELECTION, termIds: [termId] }),
      bare: async (run) => {
        await run('alter table photo_term disable trigger user');
        await run(
          `insert into photo_term (photo_id, term_id) select id, $1 from (${MARKED_SQL}) s on conflict do nothing`,
          [termId],
        );
        await run(LEDGER);
        await run(`insert into ledger_photo select ${ENTRY}, id, 'term', $1, 'false', 'true' from (${MARKED_SQL}) s`, [
          termId,
        ]);
        await run(WAITING);
      },
    },
    {
      id: 'set a field',
      change: (round) => ({
        kind: 'setFields',
        selection: SELECTION,
        edits: [{ target: 'source', mode: 'replace', value: `Bequest ${round}` }],
      }),
      bare: (run) => bareField(run, 'source', `'Bequest'::text`),
    },
    {
      id: 'fill a template',
      change: () => ({
        kind: 'fillTemplate',
        selection: SELECTION,
        edits: [{ target: 'headline', mode: 'replace', value: '{folder}, {year}: {name} {number:6}' }],
      }),
      bare: (run) =>
        bareField(
          run,
          'headline',
          `(select concat(f.name, ', ', extract(year from p.taken_at), ': ', p.name) from folder f where f.id = p.folder_id)`,
        ),
    },
  ];
}

export async function benchBatch(photos: number): Promise<Report> {
  return withCatalogue(photos, (services, config) => measure(services, config, photos));
}

async function measure(services: Services, config: Config, photos: number): Promise<Report> {
  const server = await listen({ ...services, close: () => Promise.resolve() }, config);
  try {
    const ask = await signedIn(server.url);
    // The index is made before anything is measured.
    await ask(`${photoRoutes.listPhotos.path}?limit=1`);
    const keeper = (await services.accounts.find(BENCH_ACCOUNT.name))?.id ?? 0;
    const terms = await services.vocabulary.list();
    const rare = terms.filter((term) => term.parentId !== null && term.photos < photos / 1000).at(-1);
    if (!rare) throw new Error('the catalogue has no rare term');
    const rows: Row[] = [];
    const ratios: Ratio[] = [];
    const sizes = [50_000, 500_000].map((size) => Math.min(size, photos / 2));
    for (const [round, size] of [...new Set(sizes)].entries()) {
      await markFirst(services.database, size);
      for (const batch of batches(rare.id)) {
        const apply = () => services.ledger.apply(changeSchema.parse(batch.change(round)), keeper);
        const bare = await timed(() =>
          rolledBack(services.database, (run) => batch.bare((sql, bind = []) => run(sql, bind))),
        );
        const made = await timed(apply);
        const undone = await timed(() => services.ledger.undo(keeper));
        const searches: number[] = [];
        const redone =
          round === 0 ? await timed(() => searchingMeanwhile(ask, searches, services.ledger.redo(keeper))) : undefined;
        if (redone !== undefined) await services.ledger.undo(keeper);
        const perSecond = (ms: number) => (size / ms) * 1000;
        const id = `${batch.id}, ${size.toLocaleString('en')} photos`;
        rows.push(
          { id, value: perSecond(made), unit: 'photos/s' },
          { id: `${id}, bare SQL`, value: perSecond(bare), unit: 'photos/s' },
          { id: `${id}, undo`, value: perSecond(undone), unit: 'photos/s' },
          ...(redone === undefined
            ? []
            : [
                { id: `${id}, redo while somebody searches`, value: perSecond(redone), unit: 'photos/s' },
                ...quantiles(`${id}, searches meanwhile`, searches, 'ms'),
              ]),
        );
        ratios.push(atLeast(`${id}, share of bare SQL`, bare / made, SHARE));
      }
    }
    return report('batch', rows, ratios);
  } finally {
    await server.close();
  }
}

/** Asks for pages of all kinds of results, one after the other, until some work is done. */
async function searchingMeanwhile(ask: Ask, times: number[], work: Promise<unknown>): Promise<void> {
  const queries = ['rating:>=3', 'taken:2012', 'kite', 'term:* missing:caption', 'drive:*'];
  const state = { working: true };
  const done = work.finally(() => (state.working = false));
  for (let i = 0; state.working; i++) {
    const query = encodeURIComponent(queries[i % queries.length] ?? '');
    times.push(await ask(`${photoRoutes.listPhotos.path}?query=${query}&limit=200`));
  }
  await done;
}
