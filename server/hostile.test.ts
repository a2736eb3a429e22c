// Every route is asked with parameters, queries and bodies that nobody means well: numbers beyond what PostgreSQL counts with,
// texts with zero characters and halves of characters, wrong kinds. Whatever comes, it is refused in words or done, and no
// request meets an error of the server.

import { api } from '@stellin/contract/index';
import { change } from '@stellin/contract/ledger';
import type { Route } from '@stellin/contract/route';
import { addressOf, samplesOf } from './testing/requests';
import { openWorld, PASSWORDS, putFiles, realJpeg, type World } from './testing/world';
import { PROGRAM } from './catalogue/viewer';

let world: World;
let cookie: string;
let driveId: string;
beforeAll(async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { 'a.jpg': await realJpeg({ keywords: ['dunes'] }, 40), 'b.jpg': await realJpeg({}, 90) });
  await world.takeIn(drive);
  const selection = { query: 'name:a.jpg' };
  await world.apply({ kind: 'addTerms', parentId: null, terms: [{ label: 'Kites' }, { label: 'Delta' }] });
  await world.apply({ kind: 'makeDossier', name: 'Loans' });
  await world.apply({ kind: 'namePhotos', selection, who: { name: 'Ida Brandt' } });
  await world.apply({ kind: 'saveSearch', name: 'Best', query: 'rating:5', sort: 'taken' });
  driveId = (await world.services.drives.list(PROGRAM))[0]?.id ?? '';
  cookie = await signIn();
});
afterAll(() => world.close());

async function signIn(): Promise<string> {
  const { headers } = await world.app.inject({
    method: 'POST',
    url: '/api/session',
    payload: { name: 'keeper', password: PASSWORDS.keeper },
  });
  return String(headers['set-cookie']).split(';')[0] ?? '';
}

// What ends the session or changes the password is asked by others.
const LEFT_OUT = new Set(['signOut', 'changePassword', 'signIn']);

/** Every route; that of changes once for each kind of them. */
const ASKED = Object.entries<Route>(api).flatMap(([name, route]): [string, Route][] => {
  if (LEFT_OUT.has(name)) return [];
  if (name !== 'apply') return [[name, route]];
  return change.options.map((option) => [
    `${name} ${option.shape.kind.value}`,
    { ...route, body: api.apply.body.extend({ change: option }) },
  ]);
});

test.each(ASKED)('%s is asked', async (_, route) => {
  const [params, queries, bodies] = [
    samplesOf(route.params, driveId),
    samplesOf(route.query, driveId),
    samplesOf(route.body, driveId),
  ];
  const requests = [
    ...params.map((each) => [each, queries[0], bodies[0]]),
    ...queries.map((each) => [params[0], each, bodies[0]]),
    ...bodies.map((each) => [params[0], queries[0], each]),
  ];
  const failed: unknown[] = [];
  for (const [some, query, body] of requests) {
    const url = addressOf(route.path, some, query);
    const response = await world.app.inject({
      method: route.method,
      url,
      headers: { cookie, ...(route.method === 'POST' ? { 'content-type': 'application/json' } : {}) },
      ...(route.method === 'POST' ? { payload: JSON.stringify(body ?? {}) } : {}),
    });
    if (response.statusCode >= 500) failed.push({ url: url.slice(0, 200), body, answer: response.body.slice(0, 300) });
  }
  expect(failed.slice(0, 3)).toEqual([]);
});
