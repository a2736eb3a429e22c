// The people of `bench many`, in a process of their own: each searches, describes and follows live changes as a browser does.

import { createInterface } from 'node:readline';
import { z } from 'zod';
import { randomOf } from '@stellin/demo/archive/random';

const given = z.object({
  url: z.string(),
  cookies: z.array(z.string()),
  /** The photos that each person describes; nobody else does. */
  photos: z.array(z.array(z.number())),
  queries: z.array(z.string()),
  seconds: z.number(),
  /** How long somebody thinks between two things they do, in milliseconds. */
  thinkMs: z.number(),
});
export type Given = z.infer<typeof given>;

export interface Lived {
  searches: number[];
  changes: number[];
  /** How often browsers were told of changes. */
  told: number;
  errors: string[];
  /** The rating that each person gave each photo last. */
  ratings: Record<number, number>;
}

const PHOTOS_PER_PAGE = 100;
/** Every third thing that somebody does is a change; the others are searches. */
const CHANGES_IN = 3;
/** A browser rereads what it shows at most this often. */
const REREAD_MS = 1000;

async function live({ url, cookies, photos, queries, seconds, thinkMs }: Given): Promise<Lived> {
  const lived: Lived = { searches: [], changes: [], told: 0, errors: [], ratings: {} };
  const until = performance.now() + seconds * 1000;

  const ask = async (cookie: string, path: string, times: number[], body?: unknown) => {
    const began = performance.now();
    const response = await fetch(url + path, {
      headers: { cookie, 'content-type': 'application/json' },
      ...(body === undefined ? {} : { method: 'POST', body: JSON.stringify(body) }),
    });
    const text = await response.text();
    if (response.ok) times.push(performance.now() - began);
    else lived.errors.push(`${path}: ${response.status} ${text.slice(0, 200)}`);
  };

  const person = async (cookie: string, own: readonly number[], number: number) => {
    const random = randomOf(`person ${number}`);
    const ends = new AbortController();
    let query = queries[number % queries.length] ?? '';
    const page = () =>
      ask(
        cookie,
        `/api/photos?${new URLSearchParams({ query, limit: String(PHOTOS_PER_PAGE) }).toString()}`,
        lived.searches,
      );
    let read = 0;
    const follow = async () => {
      const stream = await fetch(`${url}/api/events`, { headers: { cookie }, signal: ends.signal });
      for await (const _ of stream.body ?? []) {
        lived.told += 1;
        if (performance.now() - read < REREAD_MS) continue;
        read = performance.now();
        await page();
      }
    };
    const following = follow().catch((error: unknown) => {
      if (!ends.signal.aborted) lived.errors.push(`live changes: ${String(error)}`);
    });
    // Not all at the same moment.
    await pause(random.next() * thinkMs);
    while (performance.now() < until) {
      if (random.chance(1 / CHANGES_IN)) {
        const photoId = random.pick(own);
        const rating = random.int(1, 5);
        const change = { kind: 'setRating', selection: { query: null, plus: [photoId] }, rating };
        // What is so already is no change.
        if (lived.ratings[photoId] !== rating) {
          lived.ratings[photoId] = rating;
          await ask(cookie, '/api/changes', lived.changes, { change });
        }
      } else {
        query = random.pick(queries);
        await page();
      }
      await pause(thinkMs * (0.5 + random.next()));
    }
    ends.abort();
    await following;
  };
  await Promise.all(cookies.map((cookie, i) => person(cookie, photos[i] ?? [], i)));
  return lived;
}

function pause(milliseconds: number): Promise<void> {
  return new Promise((resolve) => setTimeout(resolve, milliseconds));
}

createInterface({ input: process.stdin }).once('line', (line) => {
  void live(given.parse(JSON.parse(line))).then((lived) => process.stdout.write(JSON.stringify(lived) + '\n'));
});
