// Part of `bench safety`: reading the files of a made catalogue again against bare sha256sum of the same files, both from the
// drive and not from memory. The files are made for it and deleted after.

import { execFile, execFileSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { mkdir, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { promisify } from 'node:util';
import { fixityJob } from '@stellin/server/fixity/reading';
import type { JobRun } from '@stellin/server/jobs/service';
import type { Services } from '@stellin/server/services';
import { timed } from './bare';

const run = promisify(execFile);
const FILE_BYTES = 64 * 1024;
const NAMES_AT_ONCE = 1000;
const ROUNDS = 3;

interface MadeFile {
  driveId: string;
  path: string;
}

export interface FixityTimes {
  files: number;
  /** Milliseconds, round by round. */
  bare: number[];
  ours: number[];
}

/** Makes a file for every photo, lets them be read once, and measures reading them again. */
export async function measureFixity(services: Services, folder: string): Promise<FixityTimes> {
  const { database, reader } = services;
  const files = await database.rows<MadeFile>(
    `select p.drive_id as "driveId", ltrim(f.path || '/' || p.name, '/') as path from photo p join folder f on f.id = p.folder_id
     where p.missing_since is null and not p.removed order by p.id`,
  );
  await makeFiles(files, folder);
  const driveIds = [...new Set(files.map(({ driveId }) => driveId))];
  // What is known of files of another run, which are gone.
  await database.rows('truncate photo_fixity');
  // As large as their files are.
  await database.rows('create table if not exists bench_size as select id, size_bytes from photo');
  await database.rows(`update photo set size_bytes = ${FILE_BYTES}`);
  try {
    const drives = {
      requireAttached: (id: string) =>
        Promise.resolve({ id, label: id, mountPoint: join(folder, id), attached: true, readOnly: false }),
      isAttached: () => Promise.resolve(true),
    };
    const job = fixityJob({ database, drives, reader, reread: () => Promise.resolve([]) });
    const readAll = async () => {
      const since = new Date().toISOString();
      for (const driveId of driveIds) await job.run(runOf({ driveId, since }));
    };
    await readAll();
    const times: FixityTimes = { files: files.length, bare: [], ours: [] };
    for (let round = 0; round < ROUNDS; round++) {
      forgetMemory();
      times.bare.push(await timed(() => sha256sum(files, folder)));
      forgetMemory();
      times.ours.push(await timed(readAll));
    }
    const row = await database.row<{ count: number }>('select count(*)::int as count from photo where fixity = 1');
    if (row?.count !== files.length) throw new Error(`${row?.count} of ${files.length} files were found unchanged`);
    return times;
  } finally {
    await database.rows('truncate photo_fixity');
    await database.rows('update photo p set fixity = 0, size_bytes = s.size_bytes from bench_size s where s.id = p.id');
    await database.rows('drop table bench_size');
  }
}

/** Each with bytes of its own. */
async function makeFiles(files: readonly MadeFile[], folder: string): Promise<void> {
  const bytes = randomBytes(FILE_BYTES);
  const folders = new Set<string>();
  for (const [i, { driveId, path }] of files.entries()) {
    const target = join(folder, driveId, path);
    if (!folders.has(dirname(target))) await mkdir(dirname(target), { recursive: true });
    folders.add(dirname(target));
    bytes.writeUInt32LE(i, 0);
    await writeFile(target, bytes);
  }
  execFileSync('sync');
}

/** Lets the system forget what it remembers of files (proc(5), drop_caches); for that one has to be root. */
function forgetMemory(): void {
  execFileSync('sh', ['-c', 'sync; echo 3 > /proc/sys/vm/drop_caches']);
}

async function sha256sum(files: readonly MadeFile[], folder: string): Promise<void> {
  for (let at = 0; at < files.length; at += NAMES_AT_ONCE) {
    const names = files.slice(at, at + NAMES_AT_ONCE).map(({ driveId, path }) => join(driveId, path));
    await run('sha256sum', names, { cwd: folder, maxBuffer: 64 * 1024 * 1024 });
  }
}

/** A job that nobody watches. */
function runOf(parameters: object): JobRun {
  return {
    id: '',
    parameters,
    accountId: null,
    done: 0,
    total: 0,
    progress: () => Promise.resolve(),
    failure: (subject, message) => Promise.reject(new Error(`${subject}: ${message}`)),
  };
}
