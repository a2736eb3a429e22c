// `bench intake`: taking in a tree of small JPEGs with rich metadata, against what the drive and the picture library allow
// by themselves. The tree and a PostgreSQL cluster of its own are made for it and deleted after.

import { mkdir, open, readdir, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { concatBytes, memorySource, uint32 } from '@stellin/core/metadata/bytes';
import { assemble } from '@stellin/core/metadata/pieces';
import { planWrite, type FieldChanges } from '@stellin/core/metadata/write';
import { exifBlock } from '@stellin/demo/archive/exifBlock';
import { withBlocks } from '@stellin/demo/archive/describe';
import type { Services } from '@stellin/server/services';
import { until, withEmptyArchive } from './emptyArchive';
import { atLeast, atMost, report, type Report } from './report';
import { PROGRAM } from '@stellin/server/catalogue/viewer';

const FILES = Number(process.env['STELLIN_BENCH_FILES'] ?? 20_000);
const FOLDER_FILES = 200;
/** Previews are measured over some of the files; the rest would tell nothing more. */
const PREVIEWS = Math.min(FILES, 3000);
const HEAD_BYTES = 128 * 1024;
const DESCRIPTIONS = 100;
const NOW = '2026-01-01T00:00:00Z';

export async function benchIntake(): Promise<Report> {
  return withEmptyArchive(
    (driveOf) => makeTree(driveOf('Bench')),
    (services, driveOf) => measure(services, driveOf('Bench')),
  );
}

async function measure(services: Services, drive: string): Promise<Report> {
  await services.accounts.ensure([{ name: 'bench', displayName: 'Bench', role: 'keeper', password: 'bench-password' }]);
  const keeper = (await services.accounts.find('bench'))?.id ?? 0;
  const files = await filesOf(drive);

  const heads = await rate(files.length, () => readHeads(drive));
  const memory: number[] = [];
  const taking = await takeIn(services, keeper, (job) => {
    memory.push(process.memoryUsage().rss / 1e6);
    return !job.current.startsWith('Making previews');
  });
  const records = (files.length / taking.ms) * 1000;
  const began = performance.now();
  const from = await lookedAt(services);
  await untilPreviews(services, Math.min(FILES, from + PREVIEWS));
  const made = (await lookedAt(services)) - from;
  const previews = (made / (performance.now() - began)) * 1000;
  await services.jobs.control(taking.id, 'cancel');
  await ended(services, taking.id);

  const alone = await rate(Math.min(PREVIEWS, files.length), () => sharpAlone(files.slice(0, PREVIEWS)));
  await services.database.rows('update photo set preview_state = 1 where preview_state = 0');
  const stats = await rate(files.length, () => statWalk(drive));
  const checking = await takeIn(services, keeper, () => true);
  const unchanged = (files.length / checking.ms) * 1000;

  const quarter = Math.max(1, Math.floor(memory.length / 4));
  const [early, late] = [Math.max(...memory.slice(0, quarter * 2)), Math.max(...memory.slice(-quarter))];
  return report(
    'intake',
    [
      { id: 'limit: walk + read 128 KB', value: heads, unit: 'files/s' },
      { id: 'records', value: records, unit: 'photos/s' },
      { id: 'limit: sharp alone, two at once', value: alone, unit: 'photos/s' },
      { id: 'previews, hashes and likeness', value: previews, unit: 'photos/s' },
      { id: 'limit: walk + stat', value: stats, unit: 'files/s' },
      { id: 'again, nothing changed', value: unchanged, unit: 'files/s' },
      { id: 'memory in the first half of records', value: early, unit: 'MB' },
      { id: 'memory in the last quarter', value: late, unit: 'MB' },
    ],
    [
      atLeast('records against reading', records / heads, 0.4),
      atLeast('previews against sharp alone', previews / alone, 0.85),
      atLeast('unchanged against walk + stat', unchanged / stats, 0.5),
      atMost('memory, last quarter against first half', late / early, 1.25),
    ],
  );
}

/** Starts taking the drive in and waits as long as `goesOn` says so, or until it ends. */
async function takeIn(
  services: Services,
  accountId: number,
  goesOn: (job: Awaited<ReturnType<Services['jobs']['find']>>) => boolean,
): Promise<{ id: string; ms: number }> {
  await services.drives.refresh();
  const [drive] = await services.drives.list(PROGRAM);
  const began = performance.now();
  const { id } = await services.intake.takeIn({ driveKey: drive?.key ?? '' }, accountId);
  await until(services, async () => {
    const job = await services.jobs.find(id);
    return job.finishedAt !== null || !goesOn(job);
  });
  return { id, ms: performance.now() - began };
}

const ended = (services: Services, id: string) =>
  until(services, async () => (await services.jobs.find(id)).finishedAt !== null);
const untilPreviews = (services: Services, wanted: number) =>
  until(services, async () => (await lookedAt(services)) >= wanted);

async function lookedAt(services: Services): Promise<number> {
  const row = await services.database.row<{ count: number }>(
    'select count(*)::int as count from photo where preview_state <> 0',
  );
  return row?.count ?? 0;
}

async function rate(count: number, work: () => Promise<void>): Promise<number> {
  const began = performance.now();
  await work();
  return (count / (performance.now() - began)) * 1000;
}

async function filesOf(folder: string): Promise<string[]> {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true });
  return entries.filter((entry) => entry.name.endsWith('.jpg')).map((entry) => join(entry.parentPath, entry.name));
}

async function readHeads(folder: string): Promise<void> {
  for (const file of await filesOf(folder)) {
    const handle = await open(file);
    try {
      await handle.read(Buffer.allocUnsafe(HEAD_BYTES), 0, HEAD_BYTES, 0);
    } finally {
      await handle.close();
    }
  }
}

async function statWalk(folder: string): Promise<void> {
  for (const file of await filesOf(folder)) await stat(file);
}

/** The same preview as the server makes, by the picture library and nothing else. */
async function sharpAlone(files: readonly string[]): Promise<void> {
  const queue = files.values();
  const hand = async () => {
    for (const file of queue)
      await sharp(file)
        .rotate()
        .resize(640, 640, { fit: 'inside', withoutEnlargement: true })
        .webp({ quality: 80, effort: 2 })
        .toBuffer();
  };
  await Promise.all([hand(), hand()]);
}

/** Pictures of 1,200 × 800 pixels in folders of 200, each with the EXIF of a camera and a description of its own in XMP and IIM. */
async function makeTree(drive: string): Promise<void> {
  const camera = exifBlock({
    make: 'Marsh',
    model: 'M1',
    lens: '24-70 mm',
    takenAt: '2026-01-01T10:11:12',
    orientation: 1,
    exposure: { seconds: [1, 250], fNumber: [28, 10], iso: 200, focalLength: 50 },
    position: { latitude: 54.5, longitude: 8.25 },
  });
  const noise = await sharp({
    create: {
      width: 1200,
      height: 800,
      channels: 3,
      background: 'grey',
      noise: { type: 'gaussian', mean: 128, sigma: 30 },
    },
  })
    .blur(12)
    .jpeg({ quality: 80 })
    .toBuffer();
  const plain = withBlocks(noise, { exif: camera });
  const source = memorySource(plain);
  const described = Array.from({ length: DESCRIPTIONS }, (_, i) =>
    assemble(source, planWrite(source, descriptionOf(i), { now: NOW }).pieces),
  );
  for (let at = 0; at < FILES; at += FOLDER_FILES) {
    const folder = join(drive, String(2000 + Math.floor(at / 4000)), `Day ${at / FOLDER_FILES}`);
    await mkdir(folder, { recursive: true });
    for (let i = at; i < Math.min(FILES, at + FOLDER_FILES); i++)
      // What stands behind the end makes each picture one of its own.
      await writeFile(join(folder, `IMG_${i}.jpg`), concatBytes([described[i % DESCRIPTIONS] ?? plain, uint32(i)]));
  }
}

function descriptionOf(i: number): FieldChanges {
  return {
    title: `Rokkaku over the dunes ${i}`,
    headline: `Kite festival at Saltmarsh, day ${i % 7}`,
    description: `A rokkaku kite over the dunes at Saltmarsh (${i}), with people watching from the beach and the pier behind.`,
    creator: ['Ida Brandt'],
    creditLine: 'Saltmarsh Kite Museum',
    copyrightNotice: '© 2026 Saltmarsh Kite Museum',
    city: 'Saltmarsh',
    country: 'Norland',
    jobId: `SKM-2026-${i}`,
    keywords: ['Rokkaku', 'Dunes', 'Beach', 'Kites', 'Festival', `Line ${i % 10}`, 'Wind', 'Sky'],
    rating: i % 6,
  };
}
