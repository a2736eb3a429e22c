import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { api } from './index';
import type { Route } from './route';

/** The tables of routes of all files, each with the names in it. */
async function tables(): Promise<Map<string, Record<string, Route>>> {
  const files = readdirSync(__dirname).filter((name) => name.endsWith('.ts') && !/^index|\.test\.ts$/.test(name));
  const found = new Map<string, Record<string, Route>>();
  for (const file of files) {
    const all = (await import(join(__dirname, file))) as Record<string, unknown>;
    for (const [name, value] of Object.entries(all))
      if (name.endsWith('Routes')) found.set(name, value as Record<string, Route>);
  }
  return found;
}

test('every route is in the table of all, and no two have one name: the later would hide the earlier', async () => {
  const names = [...(await tables()).values()].flatMap((table) => Object.keys(table));
  expect([...names].sort((a, b) => a.localeCompare(b))).toEqual(Object.keys(api).sort((a, b) => a.localeCompare(b)));
});

test('no two routes answer the same address in the same way', () => {
  const addresses = Object.values<Route>(api).map(({ method, path }) => `${method} ${path.replace(/:\w+/g, ':')}`);
  expect(addresses.filter((address, i) => addresses.indexOf(address) !== i)).toEqual([]);
});
