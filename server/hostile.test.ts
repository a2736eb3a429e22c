// Every route is asked with parameters, queries and bodies that nobody means well: numbers beyond what PostgreSQL counts with,
// texts with zero characters and halves of characters, wrong kinds. Whatever comes, it is refused in words or done, and no
// request meets an error of the server.

import { z } from 'zod';
import { api } from '@stellin/contract/index';
import type { Route } from '@stellin/contract/route';
import { openWorld, PASSWORDS, putFiles, realJpeg, type World } from './testing/world';

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
  driveId = (await world.services.drives.list())[0]?.id ?? '';
  cookie = await signIn();
});
afterAll(() => world.close());

const TEXTS = ['kite', '', 'a\0b, half \ud83d', '../../etc', 'x'.repeat(5000), '%_\\'];
const NUMBERS = [1, -1, 2 ** 31, 2 ** 53, 0.5];

interface Schema {
  type?: string;
  properties?: Record<string, Schema>;
  items?: Schema | boolean;
  additionalProperties?: Schema | boolean;
  anyOf?: Schema[];
  oneOf?: Schema[];
  allOf?: Schema[];
  enum?: unknown[];
  const?: unknown;
  format?: string;
  $ref?: string;
}

/** Requests of a schema: a plain one first, then ones that differ from it in one place. */
function samples(schema: Schema, depth = 0): unknown[] {
  if (depth > 8) return [null];
  if ('const' in schema) return [schema.const];
  if (schema.enum) return [schema.enum[0], 'a\0b', 7];
  const options = schema.anyOf ?? schema.oneOf;
  if (options) return options.flatMap((option) => samples(option, depth + 1));
  if (schema.allOf) return samples(Object.assign({}, ...schema.allOf) as Schema, depth + 1);
  if (schema.type === 'object' && schema.properties) {
    // An empty query means all photos.
    const parts = Object.entries(schema.properties).map(
      ([name, part]) =>
        [name, name === 'query' ? ['', ...samples(part, depth + 1)] : samples(part, depth + 1)] as const,
    );
    const plain = Object.fromEntries(parts.map(([name, [first]]) => [name, first]));
    return [plain, ...parts.flatMap(([name, [, ...others]]) => others.map((other) => ({ ...plain, [name]: other })))];
  }
  if (schema.type === 'object') {
    const values =
      typeof schema.additionalProperties === 'object' ? samples(schema.additionalProperties, depth + 1) : ['x'];
    return values.flatMap((value) => [{ 'a\0b': value }, { a: value }]);
  }
  if (schema.type === 'array') {
    const items = typeof schema.items === 'object' ? samples(schema.items, depth + 1) : ['x'];
    return [...items.map((item) => [item]), []];
  }
  if (schema.type === 'integer' || schema.type === 'number') return [...NUMBERS, 'x\0'];
  if (schema.type === 'boolean') return [true, 'perhaps'];
  if (schema.type === 'null') return [null];
  if (schema.format === 'uuid') return [driveId, 'a\0b', '0b9f4c2e-5d3a-4f6b-8c1d-2e3f4a5b6c7d'];
  return TEXTS;
}

function samplesOf(part: z.ZodType): unknown[] {
  return samples(z.toJSONSchema(part, { unrepresentable: 'any', reused: 'inline' }) as Schema);
}

const given = (value: unknown) => Object.entries((value ?? {}) as Record<string, unknown>);

/** The address for some parameters and a query. */
function addressOf(path: string, params: unknown, query: unknown): string {
  const values = new Map(given(params).map(([name, value]) => [name, escaped(value)]));
  const asked = given(query).map(([name, value]) => `${escaped(name)}=${escaped(value)}`);
  return `${path.replace(/:(\w+)/g, (_, name: string) => values.get(name) || '1')}?${asked.join('&')}`;
}

/** Halves of characters can't stand in an address. */
const escaped = (value: unknown) =>
  encodeURIComponent((typeof value === 'string' ? value : (JSON.stringify(value) ?? '')).toWellFormed());

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

test.each(Object.entries<Route>(api).filter(([name]) => !LEFT_OUT.has(name)))('%s is asked', async (_, route) => {
  const [params, queries, bodies] = [samplesOf(route.params), samplesOf(route.query), samplesOf(route.body)];
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
