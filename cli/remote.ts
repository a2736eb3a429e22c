// `./stellin query` and `./stellin change`: asking a server that runs, in the name of whom a token is of, as scripts do.

import { z } from 'zod';
import { changeSchema, ledgerRoutes, type ChangeKind } from '@stellin/contract/ledger';
import { photoRoutes } from '@stellin/contract/photos';
import { errorBody, type Route } from '@stellin/contract/route';
import { readConfig } from '@stellin/server/config';

export interface Remote {
  /** The address of the server; that of the archive on this machine if not given. */
  url?: string;
  /** As JSON, for programs. */
  json: boolean;
}

const PHOTOS_PER_PAGE = 200;

/** Prints the photos that a query finds: drive, path and what is said of each in short. */
export async function queryCommand(query: string, { limit, ...remote }: Remote & { limit: number }): Promise<number> {
  const counted = await ask(photoRoutes.countPhotos, remote, { query: { query } });
  const [problem] = counted.errors;
  if (problem) throw new Error(`“${query}”: ${problem.message}`);
  const photos: z.output<typeof photoRoutes.listPhotos.response>['photos'] = [];
  while (photos.length < Math.min(limit, counted.count)) {
    const wanted = Math.min(PHOTOS_PER_PAGE, limit - photos.length);
    const page = await ask(photoRoutes.listPhotos, remote, { query: { query, offset: photos.length, limit: wanted } });
    if (page.photos.length === 0) break;
    photos.push(...page.photos);
  }
  if (remote.json) console.log(JSON.stringify({ count: counted.count, photos }, null, 1));
  else {
    for (const { id, name, takenAt, rating } of photos)
      console.log(
        `${String(id).padStart(9)}  ${(takenAt ?? '').padEnd(19)}  ${rating > 0 ? '*'.repeat(rating) : ''}\t${name}`,
      );
    console.log(`${counted.count} found${counted.count > photos.length ? `, the first ${photos.length} shown` : ''}`);
  }
  return 0;
}

/** Makes a change of a kind, given as JSON, and prints its entry in the ledger. */
export async function changeCommand(kind: string, given: string, remote: Remote): Promise<number> {
  const change = changeSchema(kind as ChangeKind).parse({ ...objectIn(given), kind });
  const { entry, job } = await ask(ledgerRoutes.apply, remote, { body: { change } });
  if (remote.json) console.log(JSON.stringify(entry ?? job, null, 1));
  else console.log(entry ? `${entry.id}  ${entry.title}` : `${job?.title}: under way as job ${job?.id}`);
  return 0;
}

function objectIn(text: string): object {
  try {
    return z.record(z.string(), z.unknown()).parse(JSON.parse(text));
  } catch {
    throw new Error(`the change has to be a JSON object, like '{"selection": {"query": "kite"}, "rating": 4}'`);
  }
}

/** Asks a route. Throws an Error with the server’s sentence when it refuses. */
async function ask<R extends Route>(
  route: R,
  { url = `http://127.0.0.1:${readConfig().port}` }: Pick<Remote, 'url'>,
  { query = {}, body }: { query?: Record<string, unknown>; body?: unknown },
): Promise<z.output<R['response']>> {
  const token = process.env['STELLIN_TOKEN'];
  if (!token) throw new Error('STELLIN_TOKEN has to hold a token; “Your account” makes one');
  const search = new URLSearchParams(
    Object.entries(query).map(([name, value]): [string, string] => [name, String(value)]),
  );
  const answer = await fetch(new URL(`${route.path}?${search}`, url), {
    method: route.method,
    headers: {
      authorization: `Bearer ${token}`,
      ...(body === undefined ? {} : { 'content-type': 'application/json' }),
    },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  }).catch(() => {
    throw new Error(`nothing answers at ${url}; is Stellin running there?`);
  });
  const said: unknown = await answer.json();
  if (answer.ok) return route.response.parse(said) as z.output<R['response']>;
  const refused = errorBody.safeParse(said);
  throw new Error(refused.success ? refused.data.error.message : `the server answered with ${answer.status}`);
}
