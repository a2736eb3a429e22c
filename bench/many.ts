// `bench many`: twenty people who search, describe and follow live changes at once, against one who does it alone, over HTTP on a
// made catalogue. What each of them said last is looked up at the end: nothing of it may be lost.

import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { countText } from '@stellin/contract/wording';
import type { Config } from '@stellin/server/config';
import { ROOT } from '@stellin/server/root';
import { listen } from '@stellin/server/server';
import type { Services } from '@stellin/server/services';
import { programOf } from '@stellin/server/threads/program';
import { withCatalogue } from './catalogue';
import type { Given, Lived } from './many.worker';
import { atMost, quantiles, report, type Report } from './report';

const PEOPLE = 20;
const [ALONE_SECONDS, TOGETHER_SECONDS] = [30, 120];
const THINK_MS = 1500;
/** Between two things that somebody does alone: as much as a whole minute of many holds. */
const ALONE_THINK_MS = 150;
const PHOTOS_EACH = 40;
const QUERIES = ['', 'rating:>=3', 'missing:caption', 'taken:2015', 'drive:"Drive 3"', 'kite', 'rating:5 has:terms'];
/** Milliseconds that one photo’s change may take, alone and among others, 95 of 100. */
const CHANGE_AIMS = [40, 300] as const;
/** How much longer finding may take among others. */
const SLOWER = 3;

export function benchMany(photos: number): Promise<Report> {
  return withCatalogue(photos, (services, config) => measure(services, config, photos));
}

async function measure(services: Services, config: Config, photos: number): Promise<Report> {
  const server = await listen({ ...services, close: () => Promise.resolve() }, config);
  try {
    const cookies = await signedInPeople(services);
    const people = async (count: number, seconds: number, thinkMs: number) =>
      lives({
        url: server.url,
        cookies: cookies.slice(0, count),
        // What they said before would be no change.
        photos: (await photosOfEach(services)).slice(0, count),
        queries: QUERIES,
        seconds,
        thinkMs,
      });
    // The first answers read what later ones have in memory.
    await people(1, 5, ALONE_THINK_MS);
    const alone = await people(1, ALONE_SECONDS, ALONE_THINK_MS);
    const together = await people(PEOPLE, TOGETHER_SECONDS, THINK_MS);
    const errors = [...alone.errors, ...together.errors];
    for (const error of new Set(errors.slice(0, 5))) process.stderr.write(`  ${error}\n`);
    const p95 = (times: readonly number[]) => quantiles('', times, 'ms')[1]?.value ?? Infinity;
    const name = countText(PEOPLE, 'person', 'people');
    return report(
      `many (${countText(photos, 'photo')})`,
      [
        ...quantiles('one person: finding', alone.searches, 'ms'),
        ...quantiles('one person: a change of one photo', alone.changes, 'ms'),
        ...quantiles(`${name}: finding`, together.searches, 'ms'),
        ...quantiles(`${name}: a change of one photo`, together.changes, 'ms'),
        { id: `${name}: finding`, value: together.searches.length / TOGETHER_SECONDS, unit: 'answers/s' },
        { id: `${name}: changes`, value: together.changes.length / TOGETHER_SECONDS, unit: 'changes/s' },
        { id: `${name}: browsers told of changes`, value: together.told, unit: 'times' },
      ],
      [
        atMost('finding among others against alone (p95)', p95(together.searches) / p95(alone.searches), SLOWER),
        atMost('a change alone (p95, ms)', p95(alone.changes), CHANGE_AIMS[0]),
        atMost('a change among others (p95, ms)', p95(together.changes), CHANGE_AIMS[1]),
        atMost('errors', errors.length, 0),
        atMost('changes that are lost', await lostOf(services, together.ratings), 0),
      ],
    );
  } finally {
    await server.close();
  }
}

/** A session for each of the people, without the sign-in, which is slow on purpose. */
async function signedInPeople({ accounts, sessions }: Services): Promise<string[]> {
  const cookies: string[] = [];
  for (let i = 0; i < PEOPLE; i++) {
    const name = `person-${i + 1}`;
    const known = await accounts.find(name);
    const id =
      known?.id ??
      (await accounts.add({ name, displayName: name, role: 'cataloguer', password: `lantern ${i} out` })).id;
    cookies.push(`stellin_session=${await sessions.open(id, 'bench')}`);
  }
  return cookies;
}

/** Photos that each of the people describes, and nobody else; without a rating to begin with. */
async function photosOfEach({ database, search, ledger, accounts }: Services): Promise<number[][]> {
  const ids = await search.all.page('', 'taken', 0, PEOPLE * PHOTOS_EACH);
  const bench = await accounts.find('bench');
  const [rated] = await database.rows<{ count: number }>(
    'select count(*)::int as count from photo where id = any($1) and rating <> 0',
    [ids],
  );
  if (bench && rated && rated.count > 0)
    await ledger.apply({ kind: 'setRating', selection: { query: null, minus: [], plus: ids }, rating: 0 }, bench.id);
  return Array.from({ length: PEOPLE }, (_, i) => ids.slice(i * PHOTOS_EACH, (i + 1) * PHOTOS_EACH));
}

/** How many photos do not say what somebody said of them last. */
async function lostOf({ database }: Services, ratings: Lived['ratings']): Promise<number> {
  const rows = await database.rows<{ id: number; rating: number }>('select id, rating from photo where id = any($1)', [
    Object.keys(ratings).map(Number),
  ]);
  return Object.keys(ratings).length - rows.filter(({ id, rating }) => ratings[id] === rating).length;
}

/** Lets people work for a while, in a process of their own. */
function lives(given: Given): Promise<Lived> {
  const child = spawn(process.execPath, [programOf(join(ROOT, 'bench', 'many.worker.ts'))], {
    stdio: ['pipe', 'pipe', 'inherit'],
  });
  child.stdin.end(JSON.stringify(given) + '\n');
  return new Promise((resolve, reject) => {
    let text = '';
    child.stdout.on('data', (chunk: Buffer) => (text += chunk.toString()));
    child.on('exit', (code) =>
      code === 0 ? resolve(JSON.parse(text) as Lived) : reject(new Error('the people were cut off')),
    );
  });
}
