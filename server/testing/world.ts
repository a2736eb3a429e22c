// A world for server tests: a database of its own, a data folder with drives of real files, and the services over them.

import { mkdir, mkdtemp, rename, rm, writeFile } from 'node:fs/promises';
import { spawn } from 'node:child_process';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import type { FastifyInstance } from 'fastify';
import { Client } from 'pg';
import pino from 'pino';
import sharp from 'sharp';
import { written } from '@stellin/core/metadata/testing';
import type { FieldChanges } from '@stellin/core/metadata/write';
import { change as changeSchema, type ChangeInput } from '@stellin/contract/ledger';
import type { Job } from '@stellin/contract/jobs';
import { accountService } from '../accounts/service';
import { buildApp } from '../app';
import { LOOPBACK, places, type Config, type DataKind } from '../config';
import { openDatabase } from '../database/database';
import { migrate } from '../database/migrate';
import type { FaultStep } from '../files/fault';
import { markDatabase } from '../identity';
import { ROOT } from '../root';
import { openServices, type Services } from '../services';
import { programOf } from '../threads/program';
import { openThreads, type Threads } from '../openThreads';
import { PROGRAM } from '../catalogue/viewer';

export const PASSWORDS = { keeper: 'keeper-password', cataloguer: 'cataloguer-password', viewer: 'viewer-password' };

export interface World {
  config: Config;
  databaseUrl: string;
  readonly services: Services;
  readonly app: FastifyInstance;
  keeperId: number;
  /** Makes a drive that is plugged in; returns its folder. */
  addDrive(label: string): Promise<string>;
  /** Unplugs a drive's folder, or plugs it in again at another place; returns where it is now. */
  unplug(folder: string): Promise<string>;
  plugIn(folder: string, slot: string): Promise<string>;
  /** Takes a drive in and waits for the end. */
  takeIn(folder: string): Promise<Job>;
  /** Applies a change as the keeper. */
  apply(change: ChangeInput): ReturnType<Services['ledger']['apply']>;
  /** Resolves when a job has come to one of the states. */
  until(jobId: string, states: readonly Job['state'][]): Promise<Job>;
  /** Resolves when something has become true, looking again whenever anything changes in the catalogue. */
  eventually(isSo: () => Promise<boolean>): Promise<void>;
  /** The ids of photos by name. */
  ids(): Promise<Map<string, number>>;
  /** From here on nobody works on jobs until a process is started that does, or `services.start` is called. */
  rest(): Promise<void>;
  close(): Promise<void>;
}

let databases = 0;
/** Threads take their time to start: all worlds of a file of tests share them. */
const threads = openThreads(2);
afterAll(() => threads.close());

/** A new database on the test server, with all tables, what kind it is and three accounts: a copy of one that is made when it is first needed. */
async function makeDatabase(kind: DataKind): Promise<string> {
  const server = process.env['STELLIN_TEST_SERVER'];
  const template = `${process.env['STELLIN_TEST_TEMPLATE']}_${kind}`;
  if (!server) throw new Error('there is no test server; run the tests through jest or ./stellin test');
  const name = `test_${process.pid}_${Date.now()}_${databases++}`;
  const client = new Client({ connectionString: server });
  await client.connect();
  try {
    // One at a time: a database is not copied while somebody is in it.
    await client.query('select pg_advisory_lock(1)');
    const { rowCount } = await client.query('select 1 from pg_database where datname = $1', [template]);
    if (rowCount === 0) {
      await client.query(`create database "${template}"`);
      await fillTemplate(at(server, template), kind);
    }
    await client.query(`create database "${name}" template "${template}"`);
  } finally {
    await client.end();
  }
  return at(server, name);
}

function at(server: string, database: string): string {
  const url = new URL(server);
  url.pathname = `/${database}`;
  return url.href;
}

async function fillTemplate(databaseUrl: string, kind: DataKind): Promise<void> {
  const database = openDatabase(databaseUrl);
  await migrate(database);
  await markDatabase(database, kind);
  await accountService(database).ensure(
    (['keeper', 'cataloguer', 'viewer'] as const).map((role) => ({
      name: role,
      displayName: `The ${role}`,
      role,
      password: PASSWORDS[role],
    })),
  );
  await database.close();
}

/**
 * Opens a world. With `working` false nobody works on jobs until a process is started that does. With just one of `connections` a
 * transaction that asks for a second one fails: where all are held so it would wait for itself.
 */
export async function openWorld({
  working = true,
  kind = 'archive' as DataKind,
  connections = 1,
  own = {} as Partial<Threads>,
} = {}): Promise<World> {
  const home = await mkdtemp(join(tmpdir(), 'stellin-test-'));
  const databaseUrl = await makeDatabase(kind);
  const config: Config = {
    kind,
    home,
    port: 0,
    databaseUrl,
    mountRoots: [places.mounts(home)],
    mountTable: false,
    largeBytes: 60_000,
    leastFreeBytes: 0,
    network: LOOPBACK,
    faces: false,
    logLevel: 'silent',
  };
  await mkdir(places.mounts(home), { recursive: true });
  await mkdir(places.shelf(home), { recursive: true });
  const open = () =>
    openServices(config, databaseUrl, pino({ level: 'silent' }), { threads: { ...threads, ...own }, connections });
  let services = await open();
  if (working) await services.start();
  let app = await buildApp(services);
  const keeperId = (await services.accounts.find('keeper'))?.id ?? 0;

  const eventually: World['eventually'] = async (isSo) => {
    let wake: () => void = () => undefined;
    const unsubscribe = services.events.subscribe(() => wake());
    try {
      while (!(await isSo()))
        await new Promise<void>((resolve) => {
          const timer = setTimeout(resolve, 300);
          wake = () => {
            clearTimeout(timer);
            resolve();
          };
        });
    } finally {
      unsubscribe();
    }
  };

  const until: World['until'] = async (jobId, states) => {
    let job = await services.jobs.find(jobId);
    await eventually(async () => {
      job = await services.jobs.find(jobId);
      if (states.includes(job.state)) return true;
      if (job.finishedAt !== null) throw new Error(`the job is ${job.state}: ${job.current}`);
      return false;
    });
    return job;
  };

  const move = async (from: string, to: string) => {
    await rename(from, to);
    await services.drives.refresh();
    return to;
  };

  return {
    config,
    databaseUrl,
    get services() {
      return services;
    },
    get app() {
      return app;
    },
    keeperId,
    async addDrive(label) {
      const folder = join(places.mounts(home), label);
      await mkdir(folder, { recursive: true });
      return folder;
    },
    unplug: (folder) => move(folder, join(places.shelf(home), folder.slice(folder.lastIndexOf('/') + 1))),
    plugIn: (folder, slot) => move(folder, join(places.mounts(home), slot)),
    async takeIn(folder) {
      await services.drives.refresh();
      const drives = await services.drives.list(PROGRAM);
      const drive = drives.find(({ mountPoint }) => mountPoint === folder);
      if (!drive) throw new Error(`there is no drive at ${folder}`);
      const job = await services.intake.takeIn({ driveKey: drive.key, folder: '', subFolders: true }, keeperId);
      return until(job.id, ['done']);
    },
    apply: (change) => services.ledger.apply(changeSchema.parse(change), keeperId),
    until,
    eventually,
    async ids() {
      const photos = await services.photos.list(PROGRAM, { query: '', sort: 'added', offset: 0, limit: 200 });
      return new Map(photos.map(({ name, id }) => [name, id]));
    },
    async rest() {
      await app.close();
      await services.close();
      services = await open();
      await services.drives.refresh();
      app = await buildApp(services);
    },
    async close() {
      await app.close();
      await services.close();
      await rm(home, { recursive: true, force: true });
    },
  };
}

/** A real JPEG of a plain colour, described as wanted. */
export async function realJpeg(changes: FieldChanges = {}, shade = 120): Promise<Uint8Array> {
  const plain = await sharp({
    create: { width: 320, height: 200, channels: 3, background: { r: shade, g: 140, b: 160 } },
  })
    .jpeg()
    .toBuffer();
  if (Object.keys(changes).length === 0) return plain;
  return written(plain, changes);
}

/** Writes files below a drive, with their folders. */
export async function putFiles(folder: string, files: Record<string, Uint8Array>): Promise<void> {
  for (const [path, bytes] of Object.entries(files)) {
    await mkdir(dirname(join(folder, path)), { recursive: true });
    await writeFile(join(folder, path), bytes);
  }
}

/** A process of its own that works on the world's jobs; with a fault it dies there as if it were killed. */
export function startWorker(
  { config, databaseUrl }: World,
  fault?: FaultStep | `${FaultStep}:${number}`,
): { ended: Promise<NodeJS.Signals | null>; kill(): Promise<void> } {
  const child = spawn(process.execPath, [programOf(join(ROOT, 'cli', 'main.ts')), 'worker'], {
    cwd: ROOT,
    stdio: 'ignore',
    env: {
      PATH: process.env['PATH'],
      STELLIN_HOME: config.home,
      STELLIN_DATABASE_URL: databaseUrl,
      STELLIN_LOG: 'silent',
      STELLIN_MOUNTS: 'off',
      STELLIN_DRIVES: places.mounts(config.home),
      ...(fault ? { STELLIN_FAULT: fault } : {}),
    },
  });
  const ended = new Promise<NodeJS.Signals | null>((resolve) => child.on('exit', (_code, signal) => resolve(signal)));
  return {
    ended,
    async kill() {
      child.kill('SIGKILL');
      await ended;
    },
  };
}
