import { mkdtemp, readFile, rm, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pino from 'pino';
import { places } from './config';
import { writeSetting } from './database/settings';
import {
  adoptDatabase,
  contentsOf,
  markNewFolder,
  eraseDemo,
  kindOfDatabase,
  kindOfFolder,
  markFolder,
  protectFolder,
  requireDatabase,
  requireFolder,
} from './identity';
import { openServices } from './services';
import { openWorld, PASSWORDS, type World } from './testing/world';

const silent = pino({ level: 'silent' });

describe('a data folder', () => {
  let home: string;
  beforeEach(async () => (home = await mkdtemp(join(tmpdir(), 'stellin-identity-'))));
  afterEach(() => rm(home, { recursive: true, force: true }));

  test('says what it holds once it is marked, and is refused as anything else', () => {
    expect(kindOfFolder(home)).toBeUndefined();
    markFolder(home, 'demo');
    markFolder(home, 'demo');
    requireFolder(home, 'demo');
    expect(() => requireFolder(home, 'archive')).toThrow('holds the demo, which ./stellin demo opens');
    expect(() => markFolder(home, 'archive')).toThrow('Nothing was changed');
    expect(kindOfFolder(home)).toBe('demo');
  });

  test('is closed to others: they see neither what it holds nor any picture', async () => {
    const inside = join(home, 'new');
    protectFolder(inside);
    const modeOf = async (path: string) => (await stat(path)).mode & 0o777;
    expect((await modeOf(inside)) & 0o066).toBe(0);
    for (const path of [places.previews(inside), places.faces(inside), places.backups(inside)])
      expect(await modeOf(path)).toBe(0o700);
  });

  test('that is new is marked before anything is in it; one with something in it only once that is known', async () => {
    await writeFile(places.log(home), 'starting');
    markNewFolder(home, 'demo');
    expect(kindOfFolder(home)).toBe('demo');
    await rm(places.identity(home));
    await writeFile(join(home, 'mine.txt'), 'mine');
    markNewFolder(home, 'demo');
    expect(kindOfFolder(home)).toBeUndefined();
    expect(contentsOf(home)).toEqual(['mine.txt']);
  });

  test('that can’t be understood is opened as nothing', async () => {
    await writeFile(places.identity(home), '{"holds": "both"}');
    expect(() => requireFolder(home, 'archive')).toThrow('stellin-data.json can’t be read');
    expect(await readFile(places.identity(home), 'utf8')).toBe('{"holds": "both"}');
  });
});

describe('a database', () => {
  let world: World | undefined;
  afterEach(() => world?.close());

  test('of an archive is never opened as the demo, nor erased as one', async () => {
    world = await openWorld({ working: false });
    const { config, databaseUrl, services } = world;
    await expect(openServices({ ...config, kind: 'demo' }, databaseUrl, silent)).rejects.toThrow(
      'The database holds an archive, which ./stellin start opens. STELLIN_DATABASE_URL names another.',
    );
    await expect(eraseDemo(services.database)).rejects.toThrow('holds an archive');
    expect(await services.accounts.count()).toBe(3);
  });

  test('of the demo is never opened as an archive; only it is erased', async () => {
    world = await openWorld({ working: false, kind: 'demo' });
    const { config, databaseUrl, services } = world;
    await expect(openServices({ ...config, kind: 'archive' }, databaseUrl, silent)).rejects.toThrow('holds the demo');
    await eraseDemo(services.database);
    expect(await kindOfDatabase(services.database)).toBeUndefined();
  });

  test('in which an earlier version mixed both is recognised, told what to do, and can be adopted', async () => {
    world = await openWorld({ working: false });
    const { database } = world.services;
    await database.rows(`delete from setting where name = 'holds'`);
    await writeSetting(database, 'demo', ['index Vault 1']);
    for (const kind of ['archive', 'demo'] as const)
      await expect(requireDatabase(database, kind)).rejects.toThrow('./stellin start --adopt');
    await adoptDatabase(database);
    await requireDatabase(database, 'archive');
    await expect(requireDatabase(database, 'demo')).rejects.toThrow('holds an archive');
  });

  test('of an earlier version with an archive only is one', async () => {
    world = await openWorld({ working: false });
    const { database } = world.services;
    await database.rows(`delete from setting where name = 'holds'`);
    expect(await kindOfDatabase(database)).toBe('archive');
  });
});

describe('what is served', () => {
  test.each(['archive', 'demo'] as const)('of %s: the bay, its passwords and other folders', async (kind) => {
    const world = await openWorld({ working: false, kind });
    try {
      const { headers } = await world.app.inject({
        method: 'POST',
        url: '/api/session',
        payload: { name: 'keeper', password: PASSWORDS.keeper },
      });
      const cookie = String(headers['set-cookie']).split(';')[0];
      const bay = await world.app.inject({ url: '/api/bay', headers: { cookie } });
      expect(bay.statusCode).toBe(kind === 'demo' ? 200 : 404);
      const told = (await world.app.inject({ url: '/api/installation' })).json<{ kind: string; accounts: unknown[] }>();
      expect(told).toMatchObject({ kind });
      expect(told.accounts).toHaveLength(kind === 'demo' ? 3 : 0);
      const added = await world.app.inject({
        method: 'POST',
        url: '/api/drives/places',
        headers: { cookie },
        payload: { path: world.config.home },
      });
      expect(added.statusCode).toBe(kind === 'demo' ? 409 : 200);
    } finally {
      await world.close();
    }
  });
});
