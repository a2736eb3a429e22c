// `bench search`: pages with their exact count for every kind of query, jumps, facets, the ruler and suggestions, over HTTP
// on a made catalogue; while batches are written beside; and how it grows with the catalogue.

import { rm } from 'node:fs/promises';
import { countText } from '@stellin/contract/wording';
import { change as changeSchema } from '@stellin/contract/ledger';
import { FACETS } from '@stellin/core/search/facets';
import { PROGRAM } from '@stellin/server/catalogue/viewer';
import { photoColumns, PHOTO_JOINS } from '@stellin/server/catalogue/photoRow';
import { randomOf, type Random } from '@stellin/demo/archive/random';
import { places, type Config } from '@stellin/server/config';
import { finderClient } from '@stellin/server/search/finder';
import { listen } from '@stellin/server/server';
import type { Services } from '@stellin/server/services';
import { signedIn, type Ask } from './asking';
import { timed } from './bare';
import { BENCH_ACCOUNT, withCatalogue, type BenchAccount } from './catalogue';
import { atMost, quantiles, report, type Report, type Row } from './report';

const RANDOM_PARAMETERS = 30;
const PHOTOS_PER_PAGE = 200;
const GROWTH = [10_000, 100_000];
const PHOTOS_PER_BATCH = 1000;
/** Sizes of changes of which is measured when they are seen, and the aim in milliseconds. */
const CHANGES = [1000, 100_000];
const SEEN_AIMS = [200, 2000];

export async function benchSearch(photos: number): Promise<Report> {
  const grown: Row[] = [];
  for (const fewer of GROWTH.filter((size) => size < photos)) {
    const times = await withCatalogue(fewer, (services, config) =>
      served(services, config, async (ask) => Object.values(await pages(ask, await vocabularyOf(services))).flat()),
    );
    grown.push(...quantiles(`${countText(fewer, 'photo')}: page and count, all kinds`, times, 'ms'));
  }
  return withCatalogue(photos, (services, config) =>
    served(services, config, (ask, askPart) => measure(services, { ask, askPart }, photos, grown)),
  );
}

async function served<Result>(
  services: Services,
  config: Config,
  work: (ask: Ask, askPart: Ask) => Promise<Result>,
): Promise<Result> {
  const server = await listen({ ...services, close: () => Promise.resolve() }, config);
  try {
    return await work(await signedIn(server.url), await signedIn(server.url, await limitedAccount(services)));
  } finally {
    await server.close();
  }
}

async function measure(
  services: Services,
  { ask, askPart }: { ask: Ask; askPart: Ask },
  photos: number,
  grown: readonly Row[],
): Promise<Report> {
  const starts = await startTimes(services);
  const values = await vocabularyOf(services);
  await pages(ask, values);

  const kinds = await pages(ask, values);
  await pages(askPart, values);
  const part = Object.values(await pages(askPart, values)).flat();
  const bare = await barePages(services, photos);
  const all = Object.values(kinds).flat();
  const jumps = await times(RANDOM_PARAMETERS, (random) =>
    ask(page('', Math.floor(random.next() * (photos - PHOTOS_PER_PAGE)))),
  );
  const middles = await times(RANDOM_PARAMETERS, (random) =>
    ask(page(`term:${quoted(random.pick(values.broad))}`, Math.floor(random.next() * 5000))),
  );
  const facets = await facetTimes(services, ask, values);
  const rulers = await times(RANDOM_PARAMETERS, (random) =>
    ask(
      `/api/ruler?query=${encodeURIComponent(random.pick(['', 'rating:>=3', `camera:"Corvina ${random.int(0, 39)}"`]))}`,
    ),
  );
  const suggestions = await times(4 * RANDOM_PARAMETERS, (random) =>
    ask(
      `/api/suggestions?text=${encodeURIComponent(random.pick(values.words).slice(0, random.int(1, 5)))}&query=${encodeURIComponent('rating:>=2')}`,
    ),
  );
  const visible = await visibility(services, ask, photos);
  const beside = await whileWriting(services, () => pages(ask, values));

  const rows = [
    { id: 'index made from the catalogue', value: starts.made, unit: 's' },
    { id: 'index kept on disk', value: starts.kept, unit: 's' },
    { id: 'index read from the disk', value: starts.read, unit: 's' },
    { id: 'memory of the process', value: process.memoryUsage.rss() / 2 ** 20, unit: 'MB' },
    ...Object.entries(kinds).flatMap(([kind, measured]) => quantiles(`page and count: ${kind}`, measured, 'ms')),
    ...quantiles('page and count, all kinds', all, 'ms'),
    ...quantiles('the same for who may see a third', part, 'ms'),
    ...quantiles(`bare read of ${PHOTOS_PER_PAGE} rows by primary key`, bare, 'ms'),
    ...quantiles('jump anywhere', [...jumps, ...middles], 'ms'),
    ...Object.entries(facets).flatMap(([size, measured]) => quantiles(`all facets of ${size}`, measured, 'ms')),
    ...quantiles('time ruler', rulers, 'ms'),
    ...quantiles('suggestions', suggestions, 'ms'),
    ...Object.entries(visible).map(([size, value]) => ({
      id: `change of ${size} seen after it is applied`,
      value,
      unit: 'ms',
    })),
    ...quantiles(
      `page and count while batches of ${PHOTOS_PER_BATCH} are written`,
      Object.values(beside.result).flat(),
      'ms',
    ),
    { id: 'batches written meanwhile', value: beside.batches, unit: '' },
    ...grown,
  ];
  const of = (id: string) => rows.find((row) => row.id === id)?.value ?? Infinity;
  const slowest = Math.max(...Object.keys(kinds).map((kind) => of(`page and count: ${kind} p95`)));
  return report('search', rows, [
    atMost('slowest kind of query, page and count p95, ms', slowest, 50),
    atMost(
      'page and count p95, times the bare read',
      of('page and count, all kinds p95') / of(`bare read of ${PHOTOS_PER_PAGE} rows by primary key p95`),
      5,
    ),
    atMost(
      'page and count p95 for who may see a third, times that for who sees all',
      of('the same for who may see a third p95') / of('page and count, all kinds p95'),
      1.2,
    ),
    atMost(
      'all facets of any result p95, ms',
      Math.max(...Object.keys(facets).map((size) => of(`all facets of ${size} p95`))),
      100,
    ),
    atMost('all facets of 20,000 p95, ms', of('all facets of about 20,000 p95'), 30),
    atMost('jump anywhere p95, ms', of('jump anywhere p95'), 20),
    atMost('suggestions p95, ms', of('suggestions p95'), 30),
    ...CHANGES.flatMap((size, i) => {
      const seen = visible[countText(size, 'photo')];
      return seen === undefined
        ? []
        : [atMost(`change of ${countText(size, 'photo')} seen, ms`, seen, SEEN_AIMS[i] ?? 0)];
    }),
    atMost('start without a snapshot, s', starts.made, 30),
    atMost('start with a snapshot, s', starts.read, 5),
  ]);
}

/** Somebody who may see four of the twelve drives. */
async function limitedAccount({ accounts, teams, drives }: Services): Promise<BenchAccount> {
  const known = await accounts.find(LIMITED_ACCOUNT.name);
  if (known) return LIMITED_ACCOUNT;
  const { id } = await accounts.add(LIMITED_ACCOUNT);
  const viewer = (await teams.overview()).roles.find(({ preset }) => preset === 'viewer');
  for (const { id: driveId } of (await drives.list(PROGRAM)).slice(0, DRIVES_SEEN))
    if (driveId !== null) await teams.giveRight({ kind: 'account', id }, viewer?.id ?? 0, { kind: 'drive', driveId });
  return LIMITED_ACCOUNT;
}
const DRIVES_SEEN = 4;
const LIMITED_ACCOUNT: BenchAccount = {
  name: 'limited',
  displayName: 'Limited',
  role: null,
  password: 'bench-password-too',
};

/** How long the index takes to be made, to be kept and to be read again, in seconds. */
async function startTimes({ config, database, finder }: Services): Promise<Record<'made' | 'kept' | 'read', number>> {
  const folder = places.finder(config.home);
  await rm(folder, { recursive: true, force: true });
  const first = finderClient(database.url, folder);
  const made = (await timed(() => first.ask('follow', {}))) / 1000;
  const kept = (await timed(() => first.close())) / 1000;
  return { made, kept, read: (await timed(() => finder.ask('follow', {}))) / 1000 };
}

interface Vocabulary {
  /** Labels of terms of the two upper levels, and of the lowest. */
  broad: string[];
  narrow: string[];
  /** Words that stand in captions. */
  words: string[];
  people: string[];
}

async function vocabularyOf({ database }: Services): Promise<Vocabulary> {
  const texts = async (sql: string) => (await database.rows<{ text: string }>(sql)).map(({ text }) => text);
  return {
    broad: await texts('select label as text from term where id <= 60'),
    narrow: await texts('select label as text from term where id > 15000 order by id limit 3000'),
    words: await texts(
      `select distinct split_part(caption, ' ', 2) as text from photo_text where photo_id < 5000 and caption <> '' limit 1500`,
    ),
    people: await texts(
      `select distinct fields -> 'personInImage' ->> 0 as text from photo_text where photo_id < 8000 and fields ? 'personInImage'`,
    ),
  };
}

/** Kinds of queries, each with random parameters. */
const KINDS: Readonly<Record<string, (random: Random, vocabulary: Vocabulary) => string>> = {
  everything: () => '',
  'broad term': (random, { broad }) => `term:${quoted(random.pick(broad))}`,
  'narrow term': (random, { narrow }) => `term:${quoted(random.pick(narrow))}`,
  'three terms': (random, { broad, narrow }) =>
    `term:${quoted(random.pick(broad))} term:${quoted(random.pick(broad))} not term:${quoted(random.pick(narrow))}`,
  word: (random, { words }) => random.pick(words),
  'beginning of a word': (random, { words }) => `${random.pick(words).slice(0, 3)}*`,
  'middle of a word': (random, { words }) => `*${random.pick(words).slice(1, 4)}*`,
  phrase: (random, { words }) => `"${random.pick(words)} ${random.pick(words)}"`,
  person: (random, { people }) => `person:${quoted(random.pick(people))}`,
  folder: (random) => `within:"Bench ${random.int(1, 12)}/${random.int(1960, 2024)}"`,
  date: (random) => `taken:${random.int(1960, 2020)}..${random.int(2021, 2024)}`,
  'technical facts': (random) =>
    `camera:"Corvina ${random.int(0, 39)}" iso:>=${random.int(1, 20) * 100} focal:35..85mm`,
  'what is missing': (random) =>
    random.pick(['missing:person', 'missing:caption', 'missing:terms', 'missing:headline', 'missing:place']),
  'nested or': (random, { broad, words }) =>
    `(term:${quoted(random.pick(broad))} or ${random.pick(words)} or rating:5) (kind:tiff or kind:dng) not is:away`,
  'part of a file name': (random) => `name:*${random.int(100, 999)}*`,
  'part of a caption': (random, { words }) => `caption:*${random.pick(words)}*`,
  'place on the globe': (random) => `near:${50 + random.int(0, 7)},${5 + random.int(0, 8)},${random.int(5, 90)}km`,
  'state and rating': (random) => `is:${random.pick(['waiting', 'conflict', 'away'])} rating:>=${random.int(1, 4)}`,
};

/** Each kind of query with random parameters: the page and the count, as the Desk asks for them. */
async function pages(ask: Ask, vocabulary: Vocabulary): Promise<Record<string, number[]>> {
  const measured: Record<string, number[]> = {};
  for (const [kind, make] of Object.entries(KINDS)) {
    const random = randomOf(`search ${kind}`);
    measured[kind] = [];
    for (let i = 0; i < RANDOM_PARAMETERS; i++) {
      const query = make(random, vocabulary);
      const count = await ask(`/api/photos/count?query=${encodeURIComponent(query)}`);
      measured[kind]?.push(count + (await ask(page(query, 0))));
    }
  }
  return measured;
}

function page(query: string, offset: number): string {
  return `/api/photos?query=${encodeURIComponent(query)}&sort=taken-desc&offset=${offset}&limit=${PHOTOS_PER_PAGE}`;
}

async function barePages({ database }: Services, photos: number): Promise<number[]> {
  return times(RANDOM_PARAMETERS, async (random) => {
    const ids = Array.from({ length: PHOTOS_PER_PAGE }, () => 1 + Math.floor(random.next() * photos));
    const began = performance.now();
    const rows = await database.often(
      `select ${photoColumns('true')} from unnest($1::int[]) found (id) join photo p on p.id = found.id ${PHOTO_JOINS}`,
      [ids],
    );
    JSON.stringify(rows);
    return performance.now() - began;
  });
}

/** All facets of results of several sizes, as the Narrow tab asks for them. */
async function facetTimes(services: Services, ask: Ask, { narrow }: Vocabulary): Promise<Record<string, number[]>> {
  const ids = FACETS.map(({ id }) => id).join(',');
  const sizes: Record<string, (random: Random) => string> = {
    everything: () => '',
    'about 200,000': (random) => `kind:${random.pick(['tiff', 'dng'])} width:>${random.int(1, 3999)}`,
    'about 20,000': (random) => `camera:"Corvina ${random.int(0, 39)}" width:>${random.int(1, 3999)}`,
    'about 500': (random) => `term:${quoted(random.pick(narrow))} width:>${random.int(1, 3999)}`,
  };
  const measured: Record<string, number[]> = {};
  for (const [size, make] of Object.entries(sizes)) {
    await services.finder.ask('follow', {});
    measured[size] = await times(RANDOM_PARAMETERS, (random) =>
      ask(`/api/facets?facets=${ids}&query=${encodeURIComponent(make(random))}`),
    );
  }
  return measured;
}

/** From when a change is applied until a search that was asked at once has answered. */
async function visibility(services: Services, ask: Ask, photos: number): Promise<Record<string, number>> {
  const account = (await services.accounts.find(BENCH_ACCOUNT.name))?.id ?? 0;
  const seen: Record<string, number> = {};
  for (const size of CHANGES.filter((each) => each * 5 <= photos)) {
    const term = await services.database.row<{ id: number }>(
      'select term_id as id from term_use order by photos limit 1',
    );
    const query = size === 1000 ? 'name:SKM_2???.jpg' : 'name:SKM_2?????.jpg';
    await services.ledger.apply(
      changeSchema.parse({ kind: 'giveTerms', selection: { query }, termIds: [term?.id] }),
      account,
    );
    seen[countText(size, 'photo')] = await ask(`/api/photos/count?query=${encodeURIComponent(`rating:${size % 5}`)}`);
    await services.ledger.undo(account);
    await services.finder.ask('follow', {});
  }
  return seen;
}

/** Runs the work while batches are applied one after the other. */
async function whileWriting<Result>(
  services: Services,
  work: () => Promise<Result>,
): Promise<{ result: Result; batches: number }> {
  const account = (await services.accounts.find(BENCH_ACCOUNT.name))?.id ?? 0;
  const random = randomOf('batches');
  let batches = 0;
  let going = true;
  const writing = (async () => {
    while (going) {
      const first = random.int(1, 900);
      const query = `name:SKM_${first}??.jpg or name:SKM_${first}?.jpg or name:SKM_${first}???.jpg`;
      await services.ledger.apply(
        changeSchema.parse({ kind: 'setMark', selection: { query }, mark: `Batch ${Date.now()}` }),
        account,
      );
      batches += 1;
    }
  })();
  const result = await work();
  going = false;
  await writing;
  return { result, batches };
}

async function times(count: number, measured: (random: Random) => Promise<number>): Promise<number[]> {
  const random = randomOf('times');
  const found: number[] = [];
  for (let i = 0; i < count; i++) found.push(await measured(random));
  return found;
}

function quoted(text: string): string {
  return `"${text}"`;
}
