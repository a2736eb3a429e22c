// `bench safety`: backing a catalogue up against the bare dump of its database, trying the backup out, how quickly photos are
// found meanwhile, and reading its files again against bare sha256sum.

import { randomUUID } from 'node:crypto';
import { execFile } from 'node:child_process';
import { mkdtemp, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { photoRoutes } from '@stellin/contract/photos';
import { checkedContents } from '@stellin/server/backup/contents';
import { makeBackup } from '@stellin/server/backup/make';
import { COMPRESSION, environmentOf } from '@stellin/server/backup/postgresTools';
import { trialOf } from '@stellin/server/backup/trial';
import type { Config } from '@stellin/server/config';
import { requirePostgresPrograms } from '@stellin/server/database/cluster';
import { listen } from '@stellin/server/server';
import type { Services } from '@stellin/server/services';
import { signedIn, type Ask } from './asking';
import { timed } from './bare';
import { withCatalogue } from './catalogue';
import { measureFixity } from './fixity';
import { atLeast, atMost, medianOf, quantiles, report, type Report } from './report';

const run = promisify(execFile);
const ROUNDS = 3;
const IDLE_QUESTIONS = 80;
/** Of the bare dump’s rate. */
const SHARE = 0.8;
/** Of the rate of bare sha256sum. */
const READING_SHARE = 0.85;
/** How much longer finding may take meanwhile. */
const SLOWER = 2;
const QUERIES = ['', 'rating:>=3', 'missing:caption', 'year:2015', 'is:waiting'];

export function benchSafety(photos: number): Promise<Report> {
  return withCatalogue(photos, (services, config) => measure(services, config));
}

async function measure(services: Services, config: Config): Promise<Report> {
  const folder = await mkdtemp(join(tmpdir(), 'stellin-bench-'));
  const server = await listen({ ...services, close: () => Promise.resolve() }, config);
  try {
    const ask = await signedIn(server.url);
    await ask(pathOf(''));
    const idle = await asking(ask, (asked) => asked < IDLE_QUESTIONS);

    const { url } = services.database;
    const backUp = () =>
      makeBackup(config, url, { id: randomUUID(), folder, nightly: false, previews: false, likelyBytes: 0 }, () =>
        Promise.resolve(),
      );
    const times = { bare: [] as number[], backup: [] as number[] };
    const meanwhile: number[] = [];
    let made: { path: string } | undefined;
    for (let round = 0; round < ROUNDS; round++) {
      const dump = join(folder, 'bare.dump');
      times.bare.push(await timed(() => bareDump(url, dump)));
      await rm(dump);
      if (made) await rm(made.path);
      times.backup.push(
        await timed(async () => {
          made = await backUp();
        }),
      );
      if (made) await rm(made.path);
      // Once more with somebody searching; it is not compared with the bare dump, beside which nobody did.
      let going = true;
      const backing = backUp().finally(() => (going = false));
      meanwhile.push(...(await asking(ask, () => going)));
      made = await backing;
    }
    if (!made) throw new Error('no backup was made');
    const { path } = made;
    const bytes = (await stat(path)).size;
    let tables = 0;
    const trial = await timed(async () => {
      tables = await trialOf(path, await checkedContents(path), url);
    });
    if (tables === 0) throw new Error('the trial has restored nothing');
    const fixity = await measureFixity(services, folder);

    const [bare, backup] = [medianOf(times.bare), medianOf(times.backup)];
    const [idleRows, busyRows] = [
      quantiles('finding, idle', idle, 'ms'),
      quantiles('finding, meanwhile', meanwhile, 'ms'),
    ];
    return report(
      'safety',
      [
        { id: 'bare pg_dump', value: bare / 1000, unit: 's' },
        { id: 'backup', value: backup / 1000, unit: 's' },
        { id: 'its size', value: bytes / 1e6, unit: 'MB' },
        { id: 'trial: checked, restored, compared', value: trial / 1000, unit: 's' },
        { id: `limit: sha256sum of ${fixity.files} files`, value: medianOf(fixity.bare) / 1000, unit: 's' },
        { id: 'reading them again', value: medianOf(fixity.ours) / 1000, unit: 's' },
        ...idleRows,
        ...busyRows,
      ],
      [
        atLeast('backup against bare pg_dump', bare / backup, SHARE),
        atLeast('reading again against sha256sum', medianOf(fixity.bare) / medianOf(fixity.ours), READING_SHARE),
        atMost('finding meanwhile, p95 against idle', (busyRows[1]?.value ?? 0) / (idleRows[1]?.value ?? 1), SLOWER),
      ],
    );
  } finally {
    await server.close();
    await rm(folder, { recursive: true, force: true });
  }
}

const pathOf = (query: string) => `${photoRoutes.listPhotos.path}?limit=60&query=${encodeURIComponent(query)}`;

async function asking(ask: Ask, goesOn: (asked: number) => boolean): Promise<number[]> {
  const times: number[] = [];
  while (goesOn(times.length)) times.push(await ask(pathOf(QUERIES[times.length % QUERIES.length] ?? '')));
  return times;
}

async function bareDump(url: string, path: string): Promise<void> {
  await run(
    join(requirePostgresPrograms(), 'pg_dump'),
    ['--format=custom', `--compress=${String(COMPRESSION)}`, `--file=${path}`],
    { env: environmentOf(url) },
  );
}
