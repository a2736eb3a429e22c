import { openWorld, PASSWORDS, putFiles, realJpeg, type World } from './testing/world';
import { previewPath } from './files/preview';
import { places } from './config';
import { existsSync } from 'node:fs';
import { PROGRAM } from './catalogue/viewer';

let world: World;
beforeAll(async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { '2019/one.jpg': await realJpeg({ description: 'At the harbour', keywords: ['boxkite'] }) });
  await world.takeIn(drive);
});
afterAll(() => world.close());

async function cookieOf(name: keyof typeof PASSWORDS): Promise<string> {
  const { headers } = await world.app.inject({
    method: 'POST',
    url: '/api/session',
    payload: { name, password: PASSWORDS[name] },
  });
  return String(headers['set-cookie']).split(';')[0] ?? '';
}

describe('signing in', () => {
  test('sets an http-only, same-site cookie and tells who one is', async () => {
    const response = await world.app.inject({
      method: 'POST',
      url: '/api/session',
      payload: { name: 'Keeper ', password: PASSWORDS.keeper },
    });
    expect(response.statusCode).toBe(200);
    expect(response.headers['set-cookie']).toMatch(/HttpOnly.*SameSite=Strict/);
    const me = await world.app.inject({
      url: '/api/session',
      headers: { cookie: String(response.headers['set-cookie']).split(';')[0] },
    });
    expect(me.json()).toMatchObject({ name: 'keeper', role: 'Keeper' });
  });

  test('passwords are kept as argon2 hashes, tokens as hashes', async () => {
    const cookie = await cookieOf('viewer');
    const hashes = await world.services.database.rows<{ hash: string }>(
      'select password_hash as hash from account union all select token_hash from session',
    );
    expect(hashes.filter(({ hash }) => hash.startsWith('$argon2id$'))).toHaveLength(3);
    expect(hashes.some(({ hash }) => cookie.includes(hash))).toBe(false);
  });

  test('a wrong password and an unknown name get the same answer', async () => {
    const answers = await Promise.all(
      [
        { name: 'keeper', password: 'wrong' },
        { name: 'nobody', password: 'wrong' },
      ].map((payload) => world.app.inject({ method: 'POST', url: '/api/session', payload })),
    );
    expect(answers.map(({ statusCode }) => statusCode)).toEqual([401, 401]);
    expect(answers[0]?.json()).toEqual(answers[1]?.json());
  });

  test('signing out ends the session', async () => {
    const cookie = await cookieOf('viewer');
    await world.app.inject({ method: 'DELETE', url: '/api/session', headers: { cookie } });
    expect((await world.app.inject({ url: '/api/drives', headers: { cookie } })).statusCode).toBe(401);
  });

  test('too many tries are turned away for a while', async () => {
    const codes: number[] = [];
    for (let i = 0; i < 14; i++) {
      codes.push(
        (
          await world.app.inject({
            method: 'POST',
            url: '/api/session',
            remoteAddress: '10.0.0.9',
            payload: { name: 'x', password: 'y' },
          })
        ).statusCode,
      );
    }
    expect(codes.slice(-2)).toEqual([429, 429]);
  });
});

describe('who may do what', () => {
  test('every route of the API but signing in, what is served and its description asks who is asking', async () => {
    const { paths } = (await world.app.inject({ url: '/api/openapi.json' })).json<{
      paths: Record<string, Record<string, unknown>>;
    }>();
    const routes = Object.entries(paths).flatMap(([path, methods]) =>
      Object.keys(methods).map((method) => ({ method: method.toUpperCase(), path })),
    );
    expect(routes.length).toBeGreaterThan(20);
    for (const { method, path } of routes) {
      if (path === '/api/installation' || path.startsWith('/api/invitation')) continue;
      if (path === '/api/session' && method !== 'DELETE') continue;
      const url = path.replace(/\{\w+\}/g, '1');
      const { statusCode } = await world.app.inject({
        method: method as 'GET',
        url,
        ...(method === 'POST' ? { payload: {} } : {}),
      });
      expect({ method, path, statusCode }).toEqual({ method, path, statusCode: 401 });
    }
  });

  test('a viewer sees but changes nothing', async () => {
    const headers = { cookie: await cookieOf('viewer') };
    expect((await world.app.inject({ url: '/api/photos', headers })).statusCode).toBe(200);
    const refused = await world.app.inject({
      method: 'POST',
      url: '/api/changes',
      headers,
      payload: { change: { kind: 'addTerms', parentId: null, terms: [{ label: 'x' }] } },
    });
    expect(refused.statusCode).toBe(403);
    expect(refused.json()).toEqual({
      error: { code: 'notAllowed', message: 'Your account (Viewer) may not do this.' },
    });
  });

  test('a route that does not say who may call it is not registered', () => {
    expect(() => world.app.route({ method: 'GET', url: '/api/open', handler: () => 'x' })).toThrow();
  });
});

describe('requests', () => {
  test('a wrong body is answered in the one form of errors, with the place', async () => {
    const headers = { cookie: await cookieOf('cataloguer') };
    const response = await world.app.inject({
      method: 'POST',
      url: '/api/changes',
      headers,
      payload: { change: { kind: 'setRating', selection: { query: '' }, rating: 9 } },
    });
    expect(response.statusCode).toBe(400);
    expect(response.json<{ error: { code: string; message: string } }>().error).toMatchObject({
      code: 'badRequest',
      message: expect.stringContaining('rating') as string,
    });
  });

  test('bodies have a limit', async () => {
    const headers = { cookie: await cookieOf('cataloguer') };
    const response = await world.app.inject({
      method: 'POST',
      url: '/api/changes',
      headers,
      payload: { change: 'x'.repeat(3_000_000) },
    });
    expect(response.statusCode).toBe(413);
  });

  test('an unknown route of the API is an error, not a page', async () => {
    expect((await world.app.inject({ url: '/api/nothing' })).json()).toMatchObject({ error: { code: 'notFound' } });
  });

  test('no path leads out of a drive', async () => {
    const headers = { cookie: await cookieOf('cataloguer') };
    const [drive] = await world.services.drives.list(PROGRAM);
    for (const folder of ['../..', '/etc', '2019/../../..', '..']) {
      const response = await world.app.inject({
        method: 'POST',
        url: '/api/intake',
        headers,
        payload: { driveKey: drive?.key, folder },
      });
      expect({ folder, refused: [400, 404].includes(response.statusCode), body: response.body }).toMatchObject({
        folder,
        refused: true,
      });
    }
    for (const driveKey of ['/etc', '..', places.shelf(world.config.home)]) {
      expect(
        (await world.app.inject({ method: 'POST', url: '/api/intake', headers, payload: { driveKey } })).statusCode,
      ).toBe(404);
    }
  });

  test('security headers stand on every answer', async () => {
    const { headers } = await world.app.inject({ url: '/api/session' });
    expect(headers['content-security-policy']).toContain("default-src 'self'");
    expect(headers['x-content-type-options']).toBe('nosniff');
  });

  test('a preview is served, and made on demand when it is not there', async () => {
    const headers = { cookie: await cookieOf('viewer') };
    const id = (await world.ids()).get('one.jpg') ?? 0;
    await world.services.database.rows('update photo set preview_state = 0, preview_version = 5 where id = $1', [id]);
    const response = await world.app.inject({ url: `/api/photos/${id}/preview`, headers });
    expect(response.headers['content-type']).toBe('image/webp');
    expect(existsSync(previewPath(places.previews(world.config.home), id, 6))).toBe(true);
  });
});
