// `bench metadata`: reading and writing the metadata of camera-size JPEGs, against two general libraries that read the
// same blocks of the same files, and against what the drive itself allows. The files are made for it and deleted after.

import { execFileSync, spawn } from 'node:child_process';
import { mkdtempSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { open } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import exifr from 'exifr';
import ExifReader from 'exifreader';
import { concatBytes, memorySource } from '@stellin/core/metadata/bytes';
import { assemble } from '@stellin/core/metadata/pieces';
import { readMetadata } from '@stellin/core/metadata/read';
import { planWrite, type FieldChanges } from '@stellin/core/metadata/write';
import { exifBlock } from '@stellin/demo/archive/exifBlock';
import { withBlocks } from '@stellin/demo/archive/describe';
import { copyRaw, patchRaw } from './drive';
import { paintPlain } from './picture';
import { atLeast, report, type Ratio, type Report, type Row } from './report';
import { withSource } from '@stellin/server/files/source';
import { programOf } from '@stellin/server/threads/program';
import { ROOT } from '@stellin/server/root';
import { fileWriter, type FileWriter } from '@stellin/server/files/writer';

const FILES = Number(process.env['STELLIN_BENCH_FILES'] ?? 2000);
/** As a camera with 24 million pixels makes them. */
const FILE_BYTES = 9_000_000;
const HEAD_BYTES = 128 * 1024;
/** Batches of write-back. */
const FILES_PER_BATCH = 64;
/** Every way takes its turn over a part of the files, so that what else the machine does hits all alike. */
const ROUNDS = 4;
const WARM_UP = 200;
const NOW = '2026-01-01T00:00:00Z';

const TEN_FIELDS: FieldChanges = {
  title: 'Rokkaku over the dunes',
  headline: 'Kite festival at Saltmarsh',
  description: 'A rokkaku kite over the dunes at Saltmarsh, with people watching from the beach and the pier behind.',
  creator: ['Ida Brandt'],
  creditLine: 'Saltmarsh Kite Museum',
  copyrightNotice: '© 2026 Saltmarsh Kite Museum',
  city: 'Saltmarsh',
  country: 'Norland',
  instructions: 'Not before the festival is over',
  jobId: 'SKM-2026-114',
};
const KEYWORDS = [
  'Rokkaku',
  'Dunes',
  'Beach',
  'Kites',
  'Festival',
  'Line',
  'Wind',
  'Sky',
  'People',
  'Colour',
  'Edo',
  'Sled',
];
const DESCRIBED: FieldChanges = { ...TEN_FIELDS, keywords: KEYWORDS };
const changed = (round: string): FieldChanges =>
  Object.fromEntries(
    Object.entries(DESCRIBED).map(([id, value]) => [
      id,
      Array.isArray(value) ? value.map((text) => `${String(text)} ${round}`) : `${String(value)} ${round}`,
    ]),
  );

/** Milliseconds that some ways took for the same number of files. */
type Times = Record<string, { files: number; ms: number }>;

export async function benchMetadata(): Promise<Report> {
  const folder = mkdtempSync(join(tmpdir(), 'stellin-bench-'));
  const writer = fileWriter();
  try {
    requireRoom(folder);
    const paths = await makeFiles(folder);
    const times: Times = {};
    // Once round for each, so that none is measured while it is being compiled.
    for (const way of Object.values(READING)) await way(paths.slice(0, WARM_UP));
    for (let round = 0; round < ROUNDS; round++) {
      const part = paths.filter((_path, i) => i % ROUNDS === round);
      for (const [name, way] of Object.entries(READING)) await timed(times, name, part, way);
    }
    const journals = join(folder, 'journals');
    // All of them, since the threads are new and each has to compile for itself.
    await writeAll(writer, journals, paths, changed('a'));
    for (let round = 0; round < ROUNDS; round++) {
      const part = paths.filter((_path, i) => i % ROUNDS === round);
      await timed(times, 'limit: 8 KB pwrite + fsync', part, patchRaw);
      await timed(times, 'write in place', part, (files) => writeAll(writer, journals, files, changed('b')));
      await timed(times, 'limit: copy + fsync + rename', part, copyRaw);
      // A file without room for the description has to be written anew.
      await timed(times, 'write anew', part, (files) =>
        writeAll(writer, journals, files, { ...changed('c'), description: 'Dunes. '.repeat(2000) }),
      );
    }
    const memory = await peakMemory(paths.slice(0, 500));
    return report('metadata', rowsOf(times, memory), ratiosOf(times));
  } finally {
    await writer.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

type Way = (files: readonly string[]) => void | Promise<void>;

const READING: Readonly<Record<string, Way>> = {
  'limit: open + read 128 KB': async (files) => {
    for (const file of files) await readHead(file);
  },
  'read, Stellin': (files) => {
    for (const file of files) withSource(file, (source) => readMetadata(source));
  },
  'read, exifr': async (files) => {
    for (const file of files)
      await exifr.parse(file, { tiff: true, exif: true, gps: true, xmp: true, iptc: true, icc: false, jfif: false });
  },
  'read, exifreader': async (files) => {
    for (const file of files) ExifReader.load(await readHead(file), { expanded: true });
  },
};

/** The first 128 KB as any program of this platform reads them. */
async function readHead(file: string): Promise<Buffer> {
  const handle = await open(file);
  try {
    const { buffer } = await handle.read(Buffer.allocUnsafe(HEAD_BYTES), 0, HEAD_BYTES, 0);
    return buffer;
  } finally {
    await handle.close();
  }
}

/** Batches go to the threads that write-back has. */
async function writeAll(
  writer: FileWriter,
  journals: string,
  files: readonly string[],
  changes: FieldChanges,
): Promise<void> {
  const batches = Array.from({ length: Math.ceil(files.length / FILES_PER_BATCH) }, (_, i) =>
    files.slice(i * FILES_PER_BATCH, (i + 1) * FILES_PER_BATCH),
  );
  await Promise.all(
    batches.map(async (batch) => {
      const requests = batch.map((path) => ({ path, changes, options: { now: NOW } }));
      for (const result of await writer.batch(journals, requests)) if (!result.ok) throw new Error(result.message);
    }),
  );
}

async function timed(times: Times, name: string, files: readonly string[], way: Way): Promise<void> {
  // None pays for what another left to be written.
  execFileSync('sync');
  const began = performance.now();
  await way(files);
  const taken = (times[name] ??= { files: 0, ms: 0 });
  taken.files += files.length;
  taken.ms += performance.now() - began;
}

/** JPEGs with the EXIF of a camera, described in XMP and IIM, filled up to the size of a camera's. */
async function makeFiles(folder: string): Promise<string[]> {
  const camera = exifBlock({
    make: 'Marsh',
    model: 'M1',
    lens: '24-70 mm',
    takenAt: '2026-01-01T10:11:12',
    orientation: 1,
    exposure: { seconds: [1, 250], fNumber: [28, 10], iso: 200, focalLength: 50 },
    position: { latitude: 54.5, longitude: 8.25 },
  });
  const plain = withBlocks(await paintPlain(), { exif: camera });
  const source = memorySource(plain);
  const head = assemble(source, planWrite(source, DESCRIBED, { now: NOW }).pieces);
  const whole = concatBytes([head, new Uint8Array(FILE_BYTES - head.length).fill(7)]);
  return Array.from({ length: FILES }, (_, i) => {
    const path = join(folder, `${i}.jpg`);
    writeFileSync(path, whole);
    return path;
  });
}

function requireRoom(folder: string): void {
  const { bavail, bsize } = statfsSync(folder);
  const needed = FILES * FILE_BYTES * 1.1;
  if (bavail * bsize < needed)
    throw new Error(
      `the benchmark needs ${(needed / 1e9).toFixed(0)} GB below ${folder}; there are ${((bavail * bsize) / 1e9).toFixed(0)} GB`,
    );
}

/** The most memory that a process of its own takes for reading the files over and over, in MB. */
function peakMemory(files: readonly string[]): Promise<number> {
  const child = spawn(process.execPath, [programOf(join(ROOT, 'bench', 'metadataMemory.worker.ts'))], {
    stdio: ['pipe', 'pipe', 'inherit'],
  });
  child.stdin.end(files.join('\n'));
  return new Promise((resolve, reject) => {
    let text = '';
    child.stdout.on('data', (chunk: Buffer) => (text += chunk.toString()));
    child.on('exit', (code) =>
      code === 0 ? resolve(Number(text)) : reject(new Error('the memory could not be measured')),
    );
  });
}

function rowsOf(times: Times, memory: number): Row[] {
  const rows = Object.entries(times).map(([id, { files, ms }]) => ({
    id,
    value: (files / ms) * 1000,
    unit: 'files/s',
  }));
  return [...rows, { id: 'peak memory while reading', value: memory, unit: 'MB' }];
}

function ratiosOf(times: Times): Ratio[] {
  const against = (name: string, other: string) => {
    const [a, b] = [times[name], times[other]];
    return a && b ? b.ms / b.files / (a.ms / a.files) : 0;
  };
  return [
    atLeast('reading against exifr', against('read, Stellin', 'read, exifr'), 1),
    atLeast('reading against exifreader', against('read, Stellin', 'read, exifreader'), 1),
    atLeast('reading against its limit', against('read, Stellin', 'limit: open + read 128 KB'), 0.5),
    atLeast('writing in place against its limit', against('write in place', 'limit: 8 KB pwrite + fsync'), 0.7),
    atLeast('writing anew against its limit', against('write anew', 'limit: copy + fsync + rename'), 0.8),
  ];
}
