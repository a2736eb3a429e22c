// Several machines over one database: two servers with data folders of their own, and two processes that work on jobs. What one does
// is live in the other, jobs are shared, and any one of them may be killed.

import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { FastifyInstance } from 'fastify';
import pino from 'pino';
import type { Topic } from '@stellin/contract/events';
import { buildApp } from './app';
import { PROGRAM } from './catalogue/viewer';
import { INDEX_JOB } from './intake/service';
import { openServices, type Services } from './services';
import { openWorld, PASSWORDS, putFiles, realJpeg, startWorker, type World } from './testing/world';

const PHOTOS = 24;
let world: World;
let second: { home: string; services: Services; app: FastifyInstance };
let drive: string;
const workers: ReturnType<typeof startWorker>[] = [];

beforeAll(async () => {
  world = await openWorld({ working: false, connections: 3 });
  const home = await mkdtemp(join(tmpdir(), 'stellin-second-'));
  const services = await openServices({ ...world.config, home }, world.databaseUrl, pino({ level: 'silent' }), {
    connections: 3,
  });
  second = { home, services, app: await buildApp(services) };
  drive = await world.addDrive('Vault');
  await putFiles(
    drive,
    Object.fromEntries(
      await Promise.all(
        Array.from({ length: PHOTOS }, async (_, i) => [`${i}.jpg`, await realJpeg({}, 10 + i * 9)] as const),
      ),
    ),
  );
});
afterAll(async () => {
  await Promise.all(workers.map((worker) => worker.kill()));
  await second.app.close();
  await second.services.close();
  await rm(second.home, { recursive: true, force: true });
  await world.close();
});

async function cookieOf(app: FastifyInstance): Promise<string> {
  const payload = { name: 'keeper', password: PASSWORDS.keeper };
  const { headers } = await app.inject({ method: 'POST', url: '/api/session', payload });
  return String(headers['set-cookie']).split(';')[0] ?? '';
}
const found = async (app: FastifyInstance, cookie: string, query: string) => {
  const url = `/api/photos/count?query=${encodeURIComponent(query)}`;
  return (JSON.parse((await app.inject({ url, headers: { cookie } })).body) as { count: number }).count;
};
/** The next time that a server tells of a topic. */
const toldBy = (services: Services, topic: Topic) =>
  new Promise<void>((resolve) => {
    const stop = services.events.subscribe(({ topics }) => {
      if (!topics.includes(topic)) return;
      stop();
      resolve();
    });
  });

test('a drive is taken in by whichever process is there, and both servers find it; a session is good at both', async () => {
  workers.push(startWorker(world), startWorker(world));
  await world.takeIn(drive);
  const cookie = await cookieOf(world.app);
  for (const app of [world.app, second.app]) expect(await found(app, cookie, '')).toBe(PHOTOS);
});

test('what one server changes is told by the other, and found there at once', async () => {
  const cookie = await cookieOf(second.app);
  const told = toldBy(second.services, 'photos');
  await world.apply({ kind: 'setRating', selection: { query: 'name:1*' }, rating: 4 });
  await told;
  expect(await found(second.app, cookie, 'rating:4')).toBe(11);
  await world.services.ledger.undo(world.keeperId);
  expect(await found(second.app, cookie, 'rating:4')).toBe(0);
});

test('rights that are taken away at one server are gone at the other', async () => {
  const { accounts, teams } = world.services;
  const { id } = await accounts.add({
    name: 'runa',
    displayName: 'Runa',
    role: 'viewer',
    password: 'seven lanterns out',
  });
  expect((await second.services.rights.personOf(id)).seesAll).toBe(false);
  expect(await second.services.search.seenBy(await second.services.rights.personOf(id)).count('')).toBe(PHOTOS);
  const held = (await teams.overview()).rights.find(({ holder }) => holder.kind === 'account' && holder.id === id);
  await teams.takeRight(held?.id ?? 0);
  expect(await second.services.search.seenBy(await second.services.rights.personOf(id)).count('')).toBe(0);
});

test('a process that is killed in its work leaves it to the other', async () => {
  await world.apply({ kind: 'setRating', selection: { query: '' }, rating: 3 });
  const writing = await world.services.writeBack.run(world.services.jobs, { retryFailed: false }, world.keeperId);
  await world.until(writing.id, ['running', 'done']);
  await workers[0]?.kill();
  await world.until(writing.id, ['done']);
  expect(await world.services.search.all.count('rating:3 is:waiting')).toBe(0);
  // Whichever of them it was: with one left, work goes on.
  const [known] = await world.services.drives.list(PROGRAM);
  const again = await world.services.jobs.start(
    INDEX_JOB,
    'Look again',
    { driveId: known?.id, folder: '', subFolders: true },
    world.keeperId,
    { driveId: known?.id ?? '' },
  );
  await world.until(again.id, ['done']);
});

test('a server that is gone is missed by nobody: the other goes on, and nothing is lost', async () => {
  await world.apply({ kind: 'setRating', selection: { query: 'name:2*' }, rating: 5 });
  await second.app.close();
  await second.services.close();
  await world.apply({ kind: 'setRating', selection: { query: 'name:3*' }, rating: 5 });
  const home = await mkdtemp(join(tmpdir(), 'stellin-second-'));
  const services = await openServices({ ...world.config, home }, world.databaseUrl, pino({ level: 'silent' }), {
    connections: 3,
  });
  second = { home, services, app: await buildApp(services) };
  expect(await found(second.app, await cookieOf(second.app), 'rating:5')).toBe(6);
});
