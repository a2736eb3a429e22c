import type { Onlooker } from '@stellin/contract/onlookers';
import { openWorld, PASSWORDS, putFiles, realJpeg, type World } from '../testing/world';

let world: World;
let ids: number[];
const cookies = new Map<string, string>();
const told: string[] = [];

const ask = async (method: 'GET' | 'POST' | 'DELETE', url: string, by: string, payload?: object) =>
  JSON.parse(
    (
      await world.app.inject({
        method,
        url,
        headers: { cookie: cookies.get(by) ?? '' },
        ...(payload ? { payload } : {}),
      })
    ).body,
  ) as { onlookers: Onlooker[] };
const lookAt = (by: string, photoIds: number[], doing: Onlooker['doing'] = 'looking') =>
  ask('POST', '/api/onlookers', by, { photoIds, doing });
const seenBy = async (name: string) => (await ask('GET', '/api/onlookers', name)).onlookers;
/** How often everybody was told while something was done. */
const news = async (work: () => Promise<unknown>) => {
  told.length = 0;
  await work();
  // What is told comes in order: once this is there, so is what was told before.
  await world.services.database.notify(['marks']);
  await world.eventually(() => Promise.resolve(told.includes('marks')));
  return told.filter((topic) => topic === 'onlookers').length;
};

beforeAll(async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { 'a.jpg': await realJpeg({}, 40), 'b.jpg': await realJpeg({}, 90) });
  await world.takeIn(drive);
  ids = [...(await world.ids()).values()];
  for (const [name, password] of Object.entries(PASSWORDS)) {
    const { headers } = await world.app.inject({ method: 'POST', url: '/api/session', payload: { name, password } });
    cookies.set(name, String(headers['set-cookie']).split(';')[0] ?? '');
  }
  world.services.events.subscribe(({ topics }) => told.push(...topics));
});
afterAll(() => world.close());

test('others see who looks at what; oneself is no onlooker', async () => {
  const [a = 0, b = 0] = ids;
  await lookAt('cataloguer', [a, b], 'describing');
  expect(await seenBy('keeper')).toEqual([{ name: 'The cataloguer', doing: 'describing', photoIds: [a, b] }]);
  expect(await seenBy('cataloguer')).toEqual([]);
});

test('nobody is told of what concerns nobody, and who meets is told', async () => {
  const [a = 0, b = 0] = ids;
  await lookAt('cataloguer', [a]);
  expect(await news(() => lookAt('keeper', [b]))).toBe(0);
  expect(await news(() => lookAt('keeper', [a]))).toBe(1);
  expect(await news(() => lookAt('keeper', [a]))).toBe(0);
  expect(await news(() => lookAt('keeper', [a], 'describing'))).toBe(1);
  expect(await news(() => lookAt('keeper', []))).toBe(1);
  expect(await seenBy('cataloguer')).toEqual([]);
});

test('of a photo that does not exist for somebody nothing is told, nor of who is gone', async () => {
  const [a = 0, b = 0] = ids;
  await world.apply({ kind: 'setPrivate', selection: { query: null, plus: [a] }, private: true });
  await lookAt('cataloguer', [a]);
  expect(await seenBy('viewer')).toEqual([]);
  await lookAt('cataloguer', [a, b]);
  expect(await seenBy('viewer')).toMatchObject([{ photoIds: [b] }]);
  await ask('DELETE', '/api/session', 'cataloguer');
  expect(await seenBy('viewer')).toEqual([]);
  await lookAt('keeper', [b]);
  await world.services.database.rows(`update onlooker set at = at - interval '1 minute'`, []);
  expect(await seenBy('viewer')).toEqual([]);
});
