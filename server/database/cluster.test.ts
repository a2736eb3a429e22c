import { readFileSync } from 'node:fs';
import { chmod, mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Client } from 'pg';
import { clusterFolder, programsFor, requirePostgresPrograms, startCluster } from './cluster';

let home: string;
beforeEach(async () => {
  home = await mkdtemp(join(tmpdir(), 'stellin-cluster-'));
  // PostgreSQL runs as another user where we are root.
  await chmod(home, 0o755);
});
afterEach(() => rm(home, { recursive: true }));

const connected = async (url: string) => {
  const client = new Client({ connectionString: url });
  client.on('error', () => undefined);
  await client.connect();
  return client;
};

test('a cluster that was left running is taken over; one that is about to end is waited for, and started again', async () => {
  const first = await startCluster(home, { passing: true });
  await first.ensureDatabase('kept');
  const client = await connected(first.url('kept'));
  await client.query('create table kite (name text)');
  const again = await startCluster(home, { passing: true });
  expect(again.url('kept')).toBe(first.url('kept'));

  const pidFile = () => readFileSync(join(clusterFolder(home), 'postmaster.pid'), 'utf8');
  // Asked to end like this it waits until the last one has gone, who does not.
  process.kill(Number(pidFile().split('\n')[0]), 'SIGTERM');
  while (!pidFile().includes('stopping')) await client.query('select 1');
  const third = await startCluster(home, { passing: true });
  try {
    await third.ensureDatabase('kept');
    const later = await connected(third.url('kept'));
    expect((await later.query('select count(*)::int as count from kite')).rows).toEqual([{ count: 0 }]);
    await later.end();
  } finally {
    await third.stop();
    await client.end().catch(() => undefined);
  }
});

test('a cluster is opened with the programs of the version that made it; where these are gone it is said what to do', async () => {
  const folder = join(home, 'postgres');
  await mkdir(folder);
  expect(programsFor(folder)).toBe(requirePostgresPrograms());
  await writeFile(join(folder, 'PG_VERSION'), '12\n');
  expect(() => programsFor(folder, join(home, 'library'))).toThrow(
    /made by PostgreSQL 12, which is not installed any more.*apt-get install postgresql-12.*stellin restore/,
  );
  await mkdir(join(home, 'library', '12', 'bin'), { recursive: true });
  await writeFile(join(home, 'library', '12', 'bin', 'postgres'), '');
  expect(programsFor(folder, join(home, 'library'))).toBe(join(home, 'library', '12', 'bin'));
});
