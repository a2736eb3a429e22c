import { buildApp } from './app';
import { LOOPBACK, readConfig, type Network } from './config';
import { openWorld, PASSWORDS, type World } from './testing/world';

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

describe('an archive that is reached under a name of its own, behind a proxy', () => {
  const reached = (network: Partial<Network>) =>
    buildApp({
      ...world.services,
      config: { ...world.services.config, network: { ...LOOPBACK, names: ['archive.example'], ...network } },
    });
  const signIn = {
    method: 'POST',
    url: '/api/session',
    payload: { name: 'keeper', password: PASSWORDS.keeper },
  } as const;

  test('it answers under that name, to its own pages, and under no other', async () => {
    const app = await reached({});
    const status = async (host: string, origin?: string) =>
      (await app.inject({ url: '/api/session', headers: { host, ...(origin ? { origin } : {}) } })).statusCode;
    expect([
      await status('archive.example', 'https://archive.example'),
      await status('ARCHIVE.example:4170'),
      await status('localhost:4170'),
      await status('other.example'),
      await status('archive.example', 'https://other.example'),
    ]).toEqual([200, 200, 200, 403, 403]);
    await app.close();
  });

  test.each([
    [true, 'https', true],
    [true, 'http', false],
    // Whoever asks directly says what they like.
    [false, 'https', false],
  ])(
    'with a proxy that is trusted (%s) and says %s the cookie is for TLS only: %s',
    async (trustProxy, proto, secure) => {
      const app = await reached({ trustProxy });
      const { headers } = await app.inject({
        ...signIn,
        headers: { host: 'archive.example', 'x-forwarded-proto': proto, 'x-forwarded-for': '10.0.0.7' },
      });
      expect(/; Secure/i.test(String(headers['set-cookie']))).toBe(secure);
      await app.close();
    },
  );

  test('tries to sign in are counted by who asks, not by the proxy, and by account whoever asks', async () => {
    const app = await reached({ trustProxy: true });
    const tryFrom = async (address: string, name = 'keeper') =>
      (
        await app.inject({
          ...signIn,
          payload: { name, password: 'not this one' },
          headers: { host: 'archive.example', 'x-forwarded-for': address },
        })
      ).statusCode;
    for (let n = 0; n < 10; n++) expect(await tryFrom('10.0.0.8')).toBe(401);
    expect([await tryFrom('10.0.0.8'), await tryFrom('10.0.0.9', 'viewer')]).toEqual([429, 401]);
    for (let n = 0; n < 10; n++) expect(await tryFrom(`10.0.1.${n}`)).toBe(401);
    // Now from anywhere, with the right password too; other accounts are not in the way of it.
    expect(await tryFrom('10.0.2.1')).toBe(429);
    expect((await app.inject({ ...signIn, headers: { host: 'archive.example' } })).statusCode).toBe(429);
    expect(await tryFrom('10.0.2.2', 'viewer')).toBe(401);
    await app.close();
  });
});

test('a certificate needs its key; an address that is none is refused, and the demo listens here only', () => {
  expect(() => readConfig('archive', { STELLIN_TLS_CERT: 'cert.pem' })).toThrow('a certificate needs its key');
  expect(() => readConfig('archive', { STELLIN_BIND: 'everywhere' })).toThrow('STELLIN_BIND');
  const env = { STELLIN_BIND: '0.0.0.0', STELLIN_NAMES: 'Archive.example, 10.0.0.7' };
  expect(readConfig('archive', env).network).toMatchObject({ bind: '0.0.0.0', names: ['archive.example', '10.0.0.7'] });
  expect(readConfig('demo', env).network).toEqual(LOOPBACK);
  expect(readConfig('archive', { STELLIN_PUBLIC_URL: 'https://archive.example/stellin' }).network).toMatchObject({
    ...{ names: ['archive.example'], publicUrl: 'https://archive.example' },
  });
});
