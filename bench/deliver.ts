// `bench deliver`: copies against the picture library alone, originals against copying and flushing, a ZIP against bare storing of the
// same files; tables and sheets of a made catalogue, with the memory they take.

import { execFileSync } from 'node:child_process';
import { createReadStream } from 'node:fs';
import { copyFile, mkdir, open, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable, Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import pLimit from 'p-limit';
import sharp from 'sharp';
import { ZipFile } from 'yazl';
import { copySettings, sheetSettings, tableSettings, type DeliverySettings } from '@stellin/contract/delivering';
import { countText } from '@stellin/contract/wording';
import { PROGRAM, type Person } from '@stellin/server/catalogue/viewer';
import { eachChunkOnDrive } from '@stellin/server/files/pastCache';
import type { Services } from '@stellin/server/services';
import { timed } from './bare';
import { BENCH_ACCOUNT, withCatalogue } from './catalogue';
import { until, withEmptyArchive } from './emptyArchive';
import { paintSoftNoise } from './picture';
import { atLeast, atMost, medianOf, report, type Part, type Report } from './report';

const PICTURES = 64;
const ORIGINALS = 1200;
const ROUNDS = 3;
/** As many originals as a delivery copies at once. */
const SIDE_BY_SIDE = 6;
const LONG_EDGE = 1600;
const SHEET_PHOTOS = 2000;
const INCOMING_ROWS = 20_000;
const MB = 1e6;

export async function benchDeliver(photos: number): Promise<Report> {
  const parts = [
    await withEmptyArchive(
      (driveOf) => makeFiles(driveOf('Bench'), driveOf('Out')),
      (services, driveOf) => files(services, driveOf),
    ),
    await withCatalogue(photos, (services) => tables(services, photos)),
  ];
  return report(
    `deliver (tables: ${countText(photos, 'photo')})`,
    parts.flatMap(({ rows }) => rows),
    parts.flatMap(({ ratios }) => ratios),
  );
}

/** Large pictures to make copies of, and smaller files that are handed over as they are. */
async function makeFiles(drive: string, out: string): Promise<void> {
  const [large, small] = [await paintSoftNoise(4500, 3000), await paintSoftNoise(2400, 1600)];
  for (const folder of ['large', 'small']) await mkdir(join(drive, folder), { recursive: true });
  await mkdir(out, { recursive: true });
  // What stands behind the end makes each picture one of its own.
  const put = (path: string, bytes: Buffer, i: number) =>
    writeFile(join(drive, path), Buffer.concat([bytes, Buffer.from(String(i))]));
  for (let i = 0; i < PICTURES; i++) await put(`large/${i}.jpg`, large, i);
  for (let i = 0; i < ORIGINALS; i++) await put(`small/${i}.jpg`, small, i);
  await writeFile(join(out, 'first.jpg'), small);
}

async function files(services: Services, driveOf: (label: string) => string): Promise<Part> {
  await services.accounts.ensure([BENCH_ACCOUNT]);
  const person = await personOf(services);
  await services.drives.refresh();
  for (const { key } of await services.drives.list(PROGRAM)) {
    const { id } = await services.intake.takeIn({ driveKey: key }, person.id);
    await until(services, async () => (await services.jobs.find(id)).finishedAt !== null);
  }
  const target = (await services.drives.list(PROGRAM)).find(({ label }) => label === 'Out')?.id ?? '';
  let deliveries = 0;
  /** How long a delivery takes; its files go again after. */
  const deliver = async (query: string, settings: DeliverySettings): Promise<number> => {
    const folder = `${deliveries++}`;
    const took = await timed(() => delivered(folder, query, settings));
    await rm(join(driveOf('Out'), folder), { recursive: true });
    return took;
  };
  const delivered = async (folder: string, query: string, settings: DeliverySettings) => {
    const { job } = await services.deliveries.deliver(
      { ...request(query, settings), target: { kind: 'drive', driveId: target, folder } },
      person,
    );
    await until(services, async () => (await services.jobs.find(job?.id ?? '')).finishedAt !== null);
  };
  const large = Array.from({ length: PICTURES }, (_, i) => join(driveOf('Bench'), 'large', `${i}.jpg`));
  const small = Array.from({ length: ORIGINALS }, (_, i) => join(driveOf('Bench'), 'small', `${i}.jpg`));
  const bare = join(driveOf('Out'), 'bare');
  const copies = copies1600();
  const originals = { ...copies, format: 'original' as const };
  const times = {
    sharp: [] as number[],
    copies: [] as number[],
    copy: [] as number[],
    verified: [] as number[],
    originals: [] as number[],
    store: [] as number[],
    zip: [] as number[],
  };
  for (let round = 0; round < ROUNDS; round++) {
    await mkdir(bare, { recursive: true });
    times.sharp.push(await timed(() => sharpAlone(large, bare)));
    times.copies.push(await deliver('within:"Bench/large"', copies));
    // Each goes first once: what one leaves to be written slows down the next.
    const contest = [
      async () => times.copy.push(await timed(() => copyAlone(small, bare))),
      async () => times.verified.push(await timed(() => copyAndCompare(small, bare))),
      async () => times.originals.push(await deliver('within:"Bench/small"', originals)),
    ];
    for (const run of [...contest.slice(round), ...contest.slice(0, round)]) {
      execFileSync('sync');
      await run();
    }
    await rm(bare, { recursive: true });
    times.store.push(await timed(() => storeAlone(small)));
    times.zip.push(await timed(() => download(services, person, 'within:"Bench/small"', originals)));
  }
  const rate = (of: keyof typeof times, count: number) => (count / medianOf(times[of])) * 1000;
  const rows = [
    { id: 'limit: sharp alone, two at once', value: rate('sharp', PICTURES), unit: 'photos/s' },
    { id: 'copies', value: rate('copies', PICTURES), unit: 'photos/s' },
    { id: 'limit: copy + fsync', value: rate('copy', ORIGINALS), unit: 'files/s' },
    { id: 'limit: copy + fsync + compare with the drive', value: rate('verified', ORIGINALS), unit: 'files/s' },
    { id: 'originals', value: rate('originals', ORIGINALS), unit: 'files/s' },
    { id: 'limit: bare ZIP, stored', value: rate('store', ORIGINALS), unit: 'files/s' },
    { id: 'download of originals', value: rate('zip', ORIGINALS), unit: 'files/s' },
  ];
  const share = (ours: keyof typeof times, theirs: keyof typeof times) =>
    medianOf(times[theirs]) / medianOf(times[ours]);
  return {
    rows,
    ratios: [
      atLeast('copies against sharp alone', share('copies', 'sharp'), 0.85),
      atLeast('originals against copy + fsync', share('originals', 'copy'), 0.8),
      atLeast('originals against copy + fsync + compare', share('originals', 'verified'), 0.8),
      atLeast('ZIP against bare storing', share('zip', 'store'), 0.7),
    ],
  };
}

const copies1600 = () => ({
  ...copySettings.parse({ size: { by: 'long', value: LONG_EDGE, height: 1, enlarge: false } }),
  kind: 'copies' as const,
});

/** `photos`: a query, or their numbers. */
const request = (photos: string | number[], settings: DeliverySettings) => ({
  selection:
    typeof photos === 'string' ? { query: photos, minus: [], plus: [] } : { query: null, minus: [], plus: photos },
  sort: 'name' as const,
  settings,
  presetId: null,
  recipient: '',
  reason: '',
});

async function personOf(services: Services): Promise<Person> {
  return services.rights.personOf((await services.accounts.find(BENCH_ACCOUNT.name))?.id ?? 0);
}

/** Begins a delivery that is downloaded, and downloads it. */
async function download(
  services: Services,
  person: Person,
  photos: string | number[],
  settings: DeliverySettings,
): Promise<number> {
  return downloadOf(services, person, await prepared(services, person, photos, settings));
}

async function prepared(
  services: Services,
  person: Person,
  photos: string | number[],
  settings: DeliverySettings,
): Promise<string> {
  const wanted = { ...request(photos, settings), target: { kind: 'download' as const } };
  return (await services.deliveries.deliver(wanted, person)).id;
}

/** Takes what comes, and looks at the memory now and then: returns the most, in MB. */
async function downloadOf(services: Services, person: Person, id: string): Promise<number> {
  const { stream } = await services.deliveries.download(id, person);
  let memory = 0;
  await pipeline(
    stream,
    new Writable({
      write(_, __, done) {
        memory = Math.max(memory, process.memoryUsage().rss);
        done();
      },
    }),
  );
  return memory / MB;
}

/** How long it takes until a table is read and its rows have found their photos, and until it is taken in; it is taken back after. */
async function takenIn(services: Services, person: Person, rows: number): Promise<{ read: number; taken: number }> {
  const lines = Array.from({ length: rows }, (_, i) => `${i + 1},Kite ${i + 1},"Flown over the dunes, day ${i}"\n`);
  const bytes = Buffer.from(`Number,Headline,Description\n${lines.join('')}`);
  const name = 'bench.csv';
  let id = 0;
  const read = await timed(async () => {
    id = await services.incomingTables.add(name, Readable.from([bytes]), bytes.length, person);
  });
  const taken = await timed(() => services.ledger.apply({ kind: 'takeTable', tableId: id, name }, person.accountId));
  await services.ledger.undo(person.accountId);
  await services.incomingTables.remove(id, person);
  return { read, taken };
}

/** The same copies by the picture library and nothing else. */
async function sharpAlone(paths: readonly string[], folder: string): Promise<void> {
  const queue = paths.entries();
  const hand = async () => {
    for (const [i, path] of queue)
      await sharp(path)
        .autoOrient()
        .resize(LONG_EDGE, LONG_EDGE, { fit: 'inside', withoutEnlargement: true })
        .sharpen({ sigma: 0.6 })
        .withIccProfile('srgb')
        .jpeg({ quality: 88 })
        .toFile(join(folder, `${i}.jpg`));
  };
  await Promise.all([hand(), hand()]);
}

async function copyAlone(paths: readonly string[], folder: string): Promise<void> {
  for (const [i, path] of paths.entries()) {
    const target = join(folder, `${i}-original.jpg`);
    await copyFile(path, target);
    const file = await open(target, 'r+');
    await file.sync();
    await file.close();
  }
}

/** As a delivery does, each copy is read back past the memory of the system and compared; several at once. */
async function copyAndCompare(paths: readonly string[], folder: string): Promise<void> {
  const limit = pLimit(SIDE_BY_SIDE);
  const copy = async (path: string, i: number) => {
    const target = join(folder, `${i}-compared.jpg`);
    await copyFile(path, target);
    const file = await open(target, 'r+');
    await file.sync();
    await file.close();
    const source = await readFile(path);
    let at = 0;
    await eachChunkOnDrive(target, (chunk) => {
      if (Buffer.compare(chunk, source.subarray(at, at + chunk.length)) !== 0) throw new Error(`${target} differs`);
      at += chunk.length;
    });
  };
  await Promise.all(paths.map((path, i) => limit(() => copy(path, i))));
}

async function storeAlone(paths: readonly string[]): Promise<void> {
  const zip = new ZipFile();
  for (const [i, path] of paths.entries())
    zip.addReadStreamLazy(`${i}.jpg`, { compress: false }, (give) => give(null, createReadStream(path)));
  zip.end();
  await pipeline(zip.outputStream as NodeJS.ReadableStream, new Writable({ write: (_, __, done) => done() }));
}

async function tables(services: Services, photos: number): Promise<Part> {
  const person = await personOf(services);
  const settings = tableSettings.parse({
    kind: 'table',
    format: 'csv',
    columns: [
      'file',
      'taken',
      'rating',
      'field:title',
      'field:description',
      'terms',
      'keywords',
      'field:personInImage',
    ],
  });
  // The finder index is there from the first search on.
  await services.search.all.count('');
  const before = process.memoryUsage().rss / MB;
  let memory = 0;
  let id = '';
  const begun = await timed(async () => (id = await prepared(services, person, '', settings)));
  const table = await timed(async () => (memory = await downloadOf(services, person, id)));
  const sheet = sheetSettings.parse({ kind: 'sheet', rows: 5, columns: 4, fields: ['name', 'field:headline'] });
  const some = Array.from({ length: SHEET_PHOTOS }, (_, i) => i + 1);
  const pages = await timed(() => download(services, person, some, sheet));
  const incoming = Math.min(photos, INCOMING_ROWS);
  const back = await takenIn(services, person, incoming);
  return {
    rows: [
      { id: 'table read and matched', value: (incoming / back.read) * 1000, unit: 'rows/s' },
      { id: 'table taken in', value: (incoming / back.taken) * 1000, unit: 'photos/s' },
      { id: 'table begun: its photos settled', value: (photos / begun) * 1000, unit: 'photos/s' },
      { id: 'table as CSV', value: (photos / table) * 1000, unit: 'rows/s' },
      { id: 'pages of contact sheets', value: (SHEET_PHOTOS / 20 / pages) * 1000, unit: 'pages/s' },
      { id: 'memory before', value: before, unit: 'MB' },
      { id: 'memory at most meanwhile', value: memory, unit: 'MB' },
    ],
    ratios: [
      atLeast('rows of tables a second', (photos / table) * 1000, 20_000),
      atMost('memory meanwhile, in MB more', memory - before, 400),
    ],
  };
}
