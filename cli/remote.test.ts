import { openWorld, putFiles, realJpeg, type World } from '@stellin/server/testing/world';
import { changeCommand, queryCommand } from './remote';

let world: World;
let url: string;
let said: string[];
beforeAll(async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { 'kite.jpg': await realJpeg({ rating: 2 }, 40), 'dunes.jpg': await realJpeg({}, 60) });
  await world.takeIn(drive);
  url = await world.app.listen({ host: '127.0.0.1', port: 0 });
  const permissions = ['see', 'describe', 'private'] as const;
  const { token } = await world.services.tokens.make(world.keeperId, { name: 'A script', permissions, days: 1 });
  process.env['STELLIN_TOKEN'] = token;
});
beforeEach(() => {
  said = [];
  jest.spyOn(console, 'log').mockImplementation((line: string) => said.push(line));
});
afterEach(() => jest.restoreAllMocks());
afterAll(async () => {
  delete process.env['STELLIN_TOKEN'];
  await world.close();
});

test('what a query finds is listed, or as JSON; what is not understood is said', async () => {
  expect(await queryCommand('name:*.jpg', { url, json: false, limit: 1 })).toBe(0);
  expect(said).toHaveLength(2);
  expect(said[1]).toBe('2 found, the first 1 shown');
  said = [];
  await queryCommand('rating:2', { url, json: true, limit: 10 });
  expect(JSON.parse(said.join('\n'))).toMatchObject({ count: 1, photos: [{ name: 'kite.jpg', rating: 2 }] });
  await expect(queryCommand('foo:bar', { url, json: false, limit: 10 })).rejects.toThrow('foo');
});

test('a change is made in the name of whom the token is of, and refused in the server’s words', async () => {
  await changeCommand('setRating', '{"selection": {"query": "name:dunes.jpg"}, "rating": 5}', { url, json: false });
  expect(said.join('\n')).toMatch(/^\d+ {2}Rate 5: 1 photo$/);
  expect(await world.services.search.all.count('rating:5')).toBe(1);
  await expect(changeCommand('removeMark', '{"markId": 1}', { url, json: false })).rejects.toThrow('Only keepers');
  await expect(changeCommand('setRating', 'rating 5', { url, json: false })).rejects.toThrow('a JSON object');
  await expect(changeCommand('flyKite', '{}', { url, json: false })).rejects.toThrow('there is no change flyKite');
});

test('without a token, or where nothing answers, it says so', async () => {
  await expect(queryCommand('', { url: 'http://127.0.0.1:1', json: false, limit: 1 })).rejects.toThrow(
    'nothing answers',
  );
  delete process.env['STELLIN_TOKEN'];
  await expect(queryCommand('', { url, json: false, limit: 1 })).rejects.toThrow('has to hold a token');
});
