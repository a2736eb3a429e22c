import fc from 'fast-check';
import { existsSync } from 'node:fs';
import { randomUUID } from 'node:crypto';
import { mkdir, readdir, readFile, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { gzipSync } from 'node:zlib';
import { TileType } from 'pmtiles';
import { tileArchive } from '@stellin/core/timeplace/tileArchive';
import { places } from '../config';
import { openWorld, PASSWORDS, type World } from '../testing/world';
import { TileFile } from './tileFile';

let world: World;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.close());

const TILE = Uint8Array.from([7, 8, 9]);
const file = (attribution = '<a href="https://example.org">Norland &amp; survey</a>') =>
  tileArchive({
    tiles: [{ zoom: 3, column: 4, row: 2, bytes: TILE }],
    ...{ type: TileType.Mvt, box: { south: 55.8, west: 3.2, north: 56.1, east: 3.8 }, metadata: { attribution } },
  });
const add = (name: string, bytes: Uint8Array) =>
  world.services.streetMaps.add(name, Readable.from([Buffer.from(bytes)]), bytes.length);
const inFolder = () => readdir(places.maps(world.config.home));
const cookieOf = async (name: 'keeper' | 'viewer') => {
  const payload = { name, password: PASSWORDS[name] };
  const { headers } = await world.app.inject({ method: 'POST', url: '/api/session', payload });
  return String(headers['set-cookie']).split(';')[0] ?? '';
};
const ask = async (method: 'GET' | 'PUT' | 'DELETE', url: string, name: 'keeper' | 'viewer', body?: Uint8Array) => {
  const headers = { cookie: await cookieOf(name), ...(body && { 'content-type': 'application/octet-stream' }) };
  return world.app.inject({ method, url, headers, ...(body && { payload: Buffer.from(body) }) });
};

test('a file is uploaded, told, and its tiles are given; who may only see can’t change it', async () => {
  expect((await ask('PUT', '/api/street-maps/norland.pmtiles', 'viewer', file())).statusCode).toBe(403);
  expect((await ask('PUT', '/api/street-maps/norland.pmtiles', 'keeper', file())).json()).toEqual({ done: true });
  expect(await world.services.streetMaps.list()).toMatchObject([
    {
      ...{ name: 'norland.pmtiles', problem: null },
      shown: { kind: 'vector', minZoom: 3, maxZoom: 3, attribution: 'Norland & survey', box: { south: 55.8 } },
    },
  ]);
  const tile = await ask('GET', '/api/street-maps/norland.pmtiles/3/4/2', 'viewer');
  expect([tile.statusCode, tile.headers['content-type']]).toEqual([200, 'application/vnd.mapbox-vector-tile']);
  expect(new Uint8Array(tile.rawPayload)).toEqual(TILE);
  expect((await ask('GET', '/api/street-maps/norland.pmtiles/3/0/0', 'viewer')).statusCode).toBe(204);
  expect((await ask('GET', '/api/street-maps/nowhere.pmtiles/3/0/0', 'viewer')).statusCode).toBe(404);
  expect((await ask('DELETE', '/api/street-maps/norland.pmtiles', 'viewer')).statusCode).toBe(403);
  expect((await ask('DELETE', '/api/street-maps/norland.pmtiles', 'keeper')).statusCode).toBe(200);
  expect(await inFolder()).toEqual([]);
});

test('one of the same name is replaced once the new one is whole, and its tiles are those of the new one', async () => {
  await add('town.pmtiles', file('before'));
  await expect(add('town.pmtiles', Buffer.from('no map at all'))).rejects.toThrow('“town.pmtiles” is no street map');
  const cut = function* () {
    yield Buffer.from(file()).subarray(0, 50);
    throw new Error('the connection was cut');
  };
  await expect(world.services.streetMaps.add('town.pmtiles', Readable.from(cut()), 1000)).rejects.toThrow('cut');
  expect(await inFolder()).toEqual(['town.pmtiles']);
  expect((await world.services.streetMaps.list())[0]?.shown?.attribution).toBe('before');
  await add('town.pmtiles', file('after this'));
  expect((await world.services.streetMaps.list())[0]?.shown?.attribution).toBe('after this');
  await expect(world.services.streetMaps.add('large.pmtiles', Readable.from([]), 2 ** 60)).rejects.toThrow(
    'enough room',
  );
});

test('what lies in the folder is told: other files are passed over, broken ones are named', async () => {
  const folder = places.maps(world.config.home);
  await mkdir(folder, { recursive: true });
  await writeFile(join(folder, 'readme.txt'), 'none');
  await writeFile(join(folder, 'broken.pmtiles'), 'PMTiles');
  const broken = (await world.services.streetMaps.list()).find(({ name }) => name === 'broken.pmtiles');
  expect(broken).toMatchObject({ shown: null, problem: expect.stringMatching(/\w/) as string });
  expect((await world.services.streetMaps.list()).map(({ name }) => name)).not.toContain('readme.txt');
});

test('parts that an upload left long ago are removed, and nothing that somebody laid there', async () => {
  const folder = places.maps(world.config.home);
  const old = new Date(Date.now() - 3 * 24 * 3_600_000);
  const left = `.${randomUUID()}.part`;
  for (const name of [left, 'mine.part', '.hidden.part']) {
    await writeFile(join(folder, name), 'part');
    await utimes(join(folder, name), old, old);
  }
  await add('later.pmtiles', file());
  expect(await inFolder()).toEqual(expect.arrayContaining(['mine.part', '.hidden.part', 'later.pmtiles']));
  expect(await inFolder()).not.toContain(left);
});

test('no name leads out of the folder', async () => {
  await writeFile(join(world.config.home, 'secret.pmtiles'), file());
  for (const name of ['../secret.pmtiles', '..%2Fsecret.pmtiles', '.hidden.pmtiles', 'a\0.pmtiles', 'a/b.pmtiles'])
    await expect(world.services.streetMaps.tile(name, 0, 0, 0)).rejects.toThrow('no such street map');
  expect((await ask('GET', '/api/street-maps/..%2Fsecret.pmtiles/3/4/2', 'keeper')).statusCode).toBe(400);
  await expect(add('../out.pmtiles', file())).rejects.toThrow('no such street map');
  expect(existsSync(join(world.config.home, 'out.pmtiles'))).toBe(false);
});

test('whatever bytes a file has, it is shown or refused by name, and a packed part that never ends is given up', async () => {
  const folder = places.maps(world.config.home);
  const path = join(folder, 'fuzzed.pmtiles');
  const whole = Buffer.from(file());
  const change = fc.record({ at: fc.nat(whole.length - 1), to: fc.nat(255) });
  await fc.assert(
    fc.asyncProperty(fc.array(change, { maxLength: 6 }), fc.nat(whole.length), async (changes, length) => {
      const bytes = Buffer.from(whole.subarray(0, length || whole.length));
      for (const { at, to } of changes) if (at < bytes.length) bytes[at] = to;
      await writeFile(path, bytes);
      const read = new TileFile(path);
      for (const asked of [() => read.shown(), () => read.tile(3, 4, 2)])
        await asked().catch((error: unknown) => expect(error).toBeInstanceOf(Error));
    }),
    { numRuns: 300 },
  );
  // The description says that it is packed, and unpacks to 100 MB.
  const bomb = gzipSync(Buffer.alloc(100 * 1024 * 1024, 32));
  const header = Buffer.from(whole.subarray(0, 127));
  header.writeBigUInt64LE(BigInt(127), 8);
  header.writeBigUInt64LE(BigInt(bomb.length), 16);
  header[97] = 2;
  await writeFile(path, Buffer.concat([header, bomb]));
  await expect(new TileFile(path).tile(3, 4, 2)).rejects.toThrow();
  expect((await readFile(path)).length).toBeLessThan(200_000);
});
