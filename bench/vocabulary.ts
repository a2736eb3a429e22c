// `bench vocabulary`: a thesaurus of 20,000 terms over a large catalogue: typing, columns, what changes touch, applying them,
// and taking in a vocabulary; changes against the bare SQL that writes the same rows, measured beside.

import { newTerm } from '@stellin/core/vocabulary/term';
import { TermTree } from '@stellin/core/vocabulary/tree';
import { draftOf } from '@stellin/core/vocabulary/formats/draft';
import { FORMATS } from '@stellin/core/vocabulary/formats/index';
import { change as changeSchema, type ChangeInput } from '@stellin/contract/ledger';
import { vocabularyRoutes } from '@stellin/contract/vocabulary';
import { randomOf } from '@stellin/demo/archive/random';
import type { Config } from '@stellin/server/config';
import { listen } from '@stellin/server/server';
import type { Services } from '@stellin/server/services';
import { signedIn, type Ask } from './asking';
import { BENCH_ACCOUNT, TERMS, withCatalogue } from './catalogue';
import { markFirst, MARKED_SQL, rolledBack, timed } from './bare';
import { atLeast, atMost, quantiles, report, type Report, type Row } from './report';

const TYPED = 120;
const COLUMNS = 120;

export async function benchVocabulary(photos: number): Promise<Report> {
  return withCatalogue(photos, (services, config) => measure(services, config, photos));
}

async function measure(services: Services, config: Config, photos: number): Promise<Report> {
  const server = await listen({ ...services, close: () => Promise.resolve() }, config);
  try {
    const keeper = (await services.accounts.find(BENCH_ACCOUNT.name))?.id ?? 0;
    const ask = await signedIn(server.url);
    const reading = [...(await typing(services, ask)), ...(await columns(services, ask))];
    const changing = await changes(services, keeper, photos);
    const imported = await taking(services, keeper);
    const rows = [...reading, ...changing, ...imported];
    const of = (id: string) => rows.find((row) => row.id === id)?.value ?? Infinity;
    return report('vocabulary', rows, [
      atMost('type-ahead p95, ms', of('type-ahead p95'), 30),
      atMost('open a column with counts p95, ms', of('open a column p95'), 50),
      atMost('what a move of a sub-tree touches, median ms', of('impact of the move p50'), 1000),
      atLeast('giving a term, share of bare SQL', of('give a term, photos') / of('give a term, bare SQL'), 0.5),
      atLeast(
        'moving the sub-tree, share of bare SQL',
        of('move a sub-tree, photos') / of('move a sub-tree, bare SQL'),
        0.5,
      ),
      atMost(`take in ${TERMS.toLocaleString('en')} terms, s`, of('take in a vocabulary') / 1000, 20),
    ]);
  } finally {
    await server.close();
  }
}

/** The beginnings of labels as they are typed, letter by letter; one in five with two letters changed over. */
async function typing(services: Services, ask: Ask): Promise<Row[]> {
  const random = randomOf('typed');
  const { tree } = await snapshot(services);
  const labels = [...tree.all()].map(({ label }) => label.toLowerCase());
  const times: number[] = [];
  for (let i = 0; i < TYPED; i++) {
    const label = random.pick(labels);
    const typed = label.slice(0, random.pick([1, 2, 3, 4, 5, 6, 8, 12]));
    const text =
      i % 5 === 0 && typed.length > 3 ? `${typed.slice(0, 1)}${typed[2]}${typed[1]}${typed.slice(3)}` : typed;
    const time = await ask(`${vocabularyRoutes.findTerms.path}?text=${encodeURIComponent(text)}&limit=8`);
    if (i >= 5) times.push(time);
  }
  return quantiles('type-ahead', times, 'ms');
}

async function columns(services: Services, ask: Ask): Promise<Row[]> {
  const random = randomOf('columns');
  const { tree } = await snapshot(services);
  const parents = [...tree.all()].filter(({ id }) => tree.narrower(id).length > 0);
  const times: number[] = [];
  for (let i = 0; i < COLUMNS; i++) {
    const parent = i % 4 === 0 ? '' : `?parentId=${random.pick(parents).id}`;
    const time = await ask(`${vocabularyRoutes.listColumn.path}${parent}`);
    if (i >= 5) times.push(time);
  }
  return quantiles('open a column', times, 'ms');
}

async function snapshot(services: Services) {
  const terms = await services.vocabulary.list();
  return { terms, tree: new TermTree(terms) };
}

async function changes(services: Services, keeper: number, photos: number): Promise<Row[]> {
  const given = Math.min(50_000, photos / 4);
  const { database } = services;
  const { terms, tree } = await snapshot(services);
  const apply = (change: ChangeInput) => services.ledger.apply(changeSchema.parse(change), keeper);

  // A sub-tree with about a fifth of the photos, to another branch.
  const wanted = photos / 5;
  const near = terms
    .filter(({ parentId }) => parentId !== null)
    .sort((a, b) => Math.abs(a.photosWithin - wanted) - Math.abs(b.photosWithin - wanted));
  const [moved] = near;
  const target = terms.find(
    ({ id, parentId }) => parentId === null && !tree.path(moved?.id ?? 0).some((above) => above.id === id),
  );
  if (!moved || !target) throw new Error('the catalogue has no sub-tree to move');
  const moving: ChangeInput = { kind: 'moveTerms', termIds: [moved.id], parentId: target.id };
  const impacts: number[] = [];
  // The first two bring what is asked for into memory, as in the other rows.
  for (let i = 0; i < 20; i++) {
    const time = await timed(() => services.vocabulary.impact(changeSchema.parse(moving), keeper));
    if (i >= 2) impacts.push(time);
  }
  const bareMove = await timed(() =>
    rolledBack(services.database, async (run) => {
      const ids = [moved.id, ...tree.below(moved.id)];
      await run('update term set parent_id = $2 where id = $1', [moved.id, target.id]);
      await run('delete from term_above where term_id = any($1) and above_id <> all($1)', [ids]);
      await run(
        'insert into term_above select t.id, a.above_id from unnest($1::int[]) t (id) cross join term_above a where a.term_id = $2',
        [ids, target.id],
      );
      await run(
        `insert into write_back (photo_id, state) select distinct g.photo_id, 'waiting' from photo_term g where g.term_id = any($1) on conflict do nothing`,
        [ids],
      );
    }),
  );
  const move = await timed(() => apply(moving));
  const unmove = await timed(() => services.ledger.undo(keeper));

  // A term to many photos that do not have it.
  const rare = [...terms].filter((term) => term.parentId !== null && term.photos < photos / 1000).at(-1);
  if (!rare) throw new Error('the catalogue has no rare term');
  await markFirst(database, given);
  const selection = MARKED_SQL;
  const bareGive = await timed(() =>
    rolledBack(services.database, async (run) => {
      await run('alter table photo_term disable trigger user', []);
      await run(
        `insert into photo_term (photo_id, term_id) select id, $1 from (${selection}) s on conflict do nothing`,
        [rare.id],
      );
      await run(`insert into ledger_entry (kind, parameters) values ('bench', '{}')`, []);
      await run(
        `insert into ledger_photo select currval(pg_get_serial_sequence('ledger_entry', 'id')), id, 'term', $1, 'false', 'true' from (${selection}) s`,
        [rare.id],
      );
      await run(
        `insert into write_back (photo_id, state) select id, 'waiting' from (${selection}) s on conflict do nothing`,
        [],
      );
    }),
  );
  const give = await timed(() =>
    apply({ kind: 'giveTerms', selection: { query: 'mark:Benched' }, termIds: [rare.id] }),
  );
  const ungive = await timed(() => services.ledger.undo(keeper));
  const perSecond = (photos: number, ms: number) => (photos / ms) * 1000;
  return [
    { id: 'photos below the sub-tree', value: moved.photosWithin, unit: 'photos' },
    ...quantiles('impact of the move', impacts, 'ms'),
    { id: 'move a sub-tree, photos', value: perSecond(moved.photosWithin, move), unit: 'photos/s' },
    { id: 'move a sub-tree, bare SQL', value: perSecond(moved.photosWithin, bareMove), unit: 'photos/s' },
    { id: 'undo the move', value: perSecond(moved.photosWithin, unmove), unit: 'photos/s' },
    { id: 'give a term, photos', value: perSecond(given, give), unit: 'photos/s' },
    { id: 'give a term, bare SQL', value: perSecond(given, bareGive), unit: 'photos/s' },
    { id: 'undo the giving', value: perSecond(given, ungive), unit: 'photos/s' },
  ];
}

/** Takes in a vocabulary of as many terms as a new one, and takes that back. */
async function taking(services: Services, keeper: number): Promise<Row[]> {
  const { terms } = await snapshot(services);
  const vocabulary = { id: 1, name: 'Taken in', language: 'en', uri: 'urn:bench:taken', note: '', byHand: false };
  const copies = terms.map(({ id, parentId, label }) =>
    newTerm({ id, parentId, label, vocabularyId: parentId === null ? 1 : null, uri: `urn:bench:taken:${id}` }),
  );
  const text = FORMATS.turtle.write(draftOf(vocabulary, new TermTree(copies), []));
  let importId = '';
  const read = await timed(async () => {
    ({ importId } = await services.vocabulary.readImport({ name: 'taken.ttl', text }, keeper));
  });
  const compared = await timed(() => services.vocabulary.compareImport({ importId, limit: 500 }, keeper));
  const applied = await timed(() =>
    services.ledger.apply(changeSchema.parse({ kind: 'importTerms', importId, vocabularyId: null }), keeper),
  );
  await services.ledger.undo(keeper);
  return [
    { id: 'read the file', value: read, unit: 'ms' },
    { id: 'preview', value: compared, unit: 'ms' },
    { id: 'take in a vocabulary', value: read + compared + applied, unit: 'ms' },
  ];
}
