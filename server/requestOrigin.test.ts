import { openWorld, type World } from './testing/world';

let world: World;
beforeAll(async () => (world = await openWorld({ working: false })));
afterAll(() => world.close());

const ask = async (headers: Record<string, string>, url = '/api/session') => {
  const response = await world.app.inject({ url, headers });
  return response.statusCode === 200 ? 'answered' : response.json<{ error: { code: string } }>().error.code;
};

test.each(['localhost:4170', '127.0.0.1:4170', '[::1]:4170', 'LOCALHOST'])(
  'a request to %s is answered',
  async (host) => {
    expect(await ask({ host })).toBe('answered');
    expect(await ask({ host, origin: `http://${host}` })).toBe('answered');
  },
);

test.each([
  'kites.example',
  'kites.example:4170',
  '127.0.0.1.kites.example',
  'localhost.kites.example',
  '10.0.0.7',
  '@',
])('a request to “%s” is refused, whatever it asks for', async (host) => {
  expect(await ask({ host })).toBe('foreignHost');
  expect(await ask({ host }, '/')).toBe('foreignHost');
  expect(await ask({ host, origin: `http://${host}` })).toBe('foreignHost');
});

test.each(['http://kites.example', 'http://localhost:8080', 'null', 'http://127.0.0.1:4170'])(
  'a request that a page of %s makes is refused',
  async (origin) => {
    expect(await ask({ host: 'localhost:4170', origin })).toBe('foreignOrigin');
  },
);
