import { createHash } from 'node:crypto';
import { mkdir, mkdtemp, readdir, readFile, rm, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { copySettings, type CopySettings } from '@stellin/contract/delivering';
import { deliveryServerRoutes, serverShape, type ServerShape } from '@stellin/contract/deliveryServers';
import { secretsBy } from '../files/secrets';
import { openWorld, PASSWORDS, putFiles, realJpeg, type World } from '../testing/world';
import { s3StandIn } from './standIns/s3StandIn';
import { sftpStandIn } from './standIns/sftpStandIn';
import type { StandIn } from '../standIn';

const USER = 'northmere';
const SECRET = 'a long password';
let world: World;
let shelf: string;
let vault: string;
beforeEach(async () => {
  world = await openWorld();
  shelf = await mkdtemp(join(tmpdir(), 'stellin-servers-'));
  vault = await world.addDrive('Vault');
  await putFiles(vault, {
    'July/a.jpg': await realJpeg({ headline: 'Dunes' }, 20),
    'July/b.jpg': await realJpeg({ headline: 'Harbour' }, 90),
  });
  await world.takeIn(vault);
});
afterEach(async () => {
  await world.close();
  await rm(shelf, { recursive: true });
});

interface Kind {
  start: (port?: number) => Promise<StandIn>;
  shape: (port: number) => ServerShape;
}

const KINDS: Record<'sftp' | 's3', Kind> = {
  sftp: {
    start: (port = 0) => sftpStandIn({ folder: join(shelf, 'there'), port, user: USER, password: SECRET }),
    shape: (port) =>
      serverShape.parse({ kind: 'sftp', name: 'Northmere', host: '127.0.0.1', port, user: USER, root: 'in/' }),
  },
  s3: {
    start: (port = 0) => s3StandIn({ folder: join(shelf, 'there'), port, bucket: 'kites', user: USER, secret: SECRET }),
    shape: (port) =>
      serverShape.parse({
        ...{ kind: 's3', name: 'Northmere', endpoint: `http://127.0.0.1:${port}`, bucket: 'kites', user: USER },
        root: 'in',
      }),
  },
};

const keeper = () => world.services.rights.personOf(world.keeperId);
const begin = async (serverId: number, settings: Partial<CopySettings> = {}) =>
  world.services.deliveries.deliver(
    {
      selection: { query: 'drive:Vault', minus: [], plus: [] },
      sort: 'name',
      settings: copySettings.parse({ format: 'original', folders: 'mirror', ...settings }),
      ...{
        presetId: null,
        recipient: 'Ida',
        reason: '',
        target: { kind: 'server', serverId, folder: 'kites' } as const,
      },
    },
    await keeper(),
  );
const ended = async (
  delivery: Awaited<ReturnType<typeof begin>>,
  states: ('done' | 'failed')[] = ['done', 'failed'],
) => {
  await world.until(delivery.job?.id ?? '', states);
  return world.services.deliveries.show(delivery.id, await keeper());
};
/** What lies in a folder, with paths below it. */
const filesIn = async (folder: string) =>
  (await readdir(folder, { recursive: true, withFileTypes: true }))
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath, entry.name).slice(folder.length + 1))
    .sort();
const there = (path: string) => readFile(join(shelf, 'there', path));
const hash = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');

describe.each(['sftp', 's3'] as const)('%s', (kind) => {
  const { start, shape } = KINDS[kind];
  let standIn: StandIn;
  beforeEach(async () => {
    standIn = await start();
  });
  afterEach(() => standIn.close());
  const save = async (changes: Partial<ServerShape> = {}) => {
    const server = serverShape.parse({ ...shape(standIn.port), ...changes });
    return (await world.services.deliveryServers.save({ serverId: null, server, secret: SECRET })).id;
  };

  test('copies arrive whole, are passed over when they are there, and stand in the report', async () => {
    const id = await save();
    const done = await ended(await begin(id, { sidecars: true }));
    expect(done).toMatchObject({ photos: 2, written: 2, failed: 0, target: 'Northmere › kites' });
    expect(await filesIn(join(shelf, 'there'))).toEqual(
      ['a.jpg', 'a.xmp', 'b.jpg', 'b.xmp'].map((name) => `in/kites/July/${name}`),
    );
    expect(hash(await there('in/kites/July/a.jpg'))).toBe(hash(await readFile(join(vault, 'July/a.jpg'))));
    const { mtimeMs } = await stat(join(shelf, 'there/in/kites/July/a.jpg'));
    // Once more: nothing is sent again.
    expect(await ended(await begin(id, { sidecars: true }))).toMatchObject({ written: 2, failed: 0 });
    expect((await stat(join(shelf, 'there/in/kites/July/a.jpg'))).mtimeMs).toBe(mtimeMs);
  });

  test('another file of the name gets company, is replaced, or is left alone, as wanted', async () => {
    const id = await save();
    const path = join(shelf, 'there/in/kites/July');
    await mkdir(path, { recursive: true });
    await writeFile(join(path, 'a.jpg'), 'somebody else’s');
    await ended(await begin(id));
    expect((await filesIn(path)).sort()).toEqual(['a-2.jpg', 'a.jpg', 'b.jpg']);
    expect((await readFile(join(path, 'a.jpg'))).toString()).toBe('somebody else’s');
    await ended(await begin(id, { conflict: 'skip' }));
    expect((await readFile(join(path, 'a.jpg'))).toString()).toBe('somebody else’s');
    await ended(await begin(id, { conflict: 'overwrite' }));
    expect(hash(await readFile(join(path, 'a.jpg')))).toBe(hash(await readFile(join(vault, 'July/a.jpg'))));
  });

  test('a bag has its manifests, and a folder of its own', async () => {
    const id = await save();
    expect(await ended(await begin(id, { bag: true, sidecars: true }))).toMatchObject({ written: 2 });
    const manifest = (await there('in/kites/manifest-sha256.txt')).toString();
    for (const line of manifest.trim().split('\n')) {
      const [sum, path] = line.split(/\s+/, 2);
      expect(hash(await there(`in/kites/${path}`))).toBe(sum);
    }
    expect(manifest.trim().split('\n')).toHaveLength(4);
    const again = await begin(id, { bag: true });
    const job = await world.until(again.job?.id ?? '', ['failed']);
    expect(job.current).toContain('a bag needs a folder of its own');
  });

  test('a server that is away fails the delivery by name, and it goes on when it is tried again', async () => {
    const id = await save();
    const { port } = standIn;
    await standIn.close();
    const begun = await begin(id);
    const job = await world.until(begun.job?.id ?? '', ['failed']);
    expect(job.current).toContain('“Northmere”');
    standIn = await start(port);
    const again = await world.services.deliveries.retry(begun.id, await keeper());
    expect(await ended(again)).toMatchObject({ written: 2, failed: 0 });
  });

  test('a server that goes away midway leaves no half file, and gets the rest when it is back', async () => {
    await putFiles(
      vault,
      Object.fromEntries(
        await Promise.all(
          Array.from({ length: 30 }, async (_, i) => [`many/${i}.jpg`, await realJpeg({}, i)] as const),
        ),
      ),
    );
    await world.takeIn(vault);
    const id = await save();
    const { port } = standIn;
    const begun = await begin(id, { folders: 'flat' });
    // As soon as something has arrived.
    await world.eventually(async () => (await filesIn(join(shelf, 'there'))).some((name) => name.endsWith('.jpg')));
    await standIn.close();
    const job = await world.until(begun.job?.id ?? '', ['failed', 'done']);
    standIn = await start(port);
    const report = job.state === 'failed' ? await world.services.deliveries.retry(begun.id, await keeper()) : begun;
    expect(await ended(report)).toMatchObject({ photos: 32, written: 32, failed: 0 });
    const names = (await filesIn(join(shelf, 'there'))).filter((name) => !name.endsWith('.part'));
    expect(names).toHaveLength(32);
    for (const name of names) expect((await there(name)).subarray(-2).toString('hex')).toBe('ffd9');
  });

  test('it is tried before it is kept: a wrong password is said, a right one leaves nothing behind', async () => {
    const server = shape(standIn.port);
    const { deliveryServers } = world.services;
    expect((await deliveryServers.try({ serverId: null, server, secret: 'wrong' })).problem).not.toBeNull();
    const { problem, hostKey } = await deliveryServers.try({ serverId: null, server, secret: SECRET });
    expect(problem).toBeNull();
    expect(hostKey === null).toBe(kind === 's3');
    expect(await filesIn(join(shelf, 'there'))).toEqual([]);
  });
});

test('a server of files that shows another key than before is not signed in to', async () => {
  let standIn = await KINDS.sftp.start();
  const server = KINDS.sftp.shape(standIn.port);
  const { deliveryServers } = world.services;
  const { hostKey } = await deliveryServers.try({ serverId: null, server, secret: SECRET });
  expect(hostKey).toMatch(/^SHA256:/);
  const known = serverShape.parse({ ...server, hostKey });
  const { id } = await deliveryServers.save({ serverId: null, server: known, secret: SECRET });
  const { port } = standIn;
  await standIn.close();
  await rm(join(shelf, 'there.key'));
  standIn = await KINDS.sftp.start(port);
  const tried = await deliveryServers.try({ serverId: id, server: known, secret: null });
  expect(tried.problem).toContain('its key is another one than before');
  expect(tried.hostKey).not.toBe(hostKey);
  const job = await world.until((await begin(id)).job?.id ?? '', ['failed']);
  expect(job.current).toContain('its key is another one');
  await standIn.close();
});

test('passwords are kept encrypted and given to nobody; with another key they are asked for again', async () => {
  const { deliveryServers, database } = world.services;
  const server = KINDS.s3.shape(1);
  const { id } = await deliveryServers.save({ serverId: null, server, secret: SECRET });
  const kept = await database.rows<{ all: string; secret: Buffer }>(
    'select to_jsonb(s)::text as all, secret from delivery_server s',
  );
  expect(JSON.stringify(kept)).not.toContain(SECRET);
  expect(JSON.stringify(await deliveryServers.list())).not.toContain(SECRET);
  const other = secretsBy(join(shelf, 'other.key'));
  expect(await other.open(kept[0]?.secret ?? Buffer.alloc(0))).toBeUndefined();
  expect(await other.open(Buffer.alloc(3))).toBeUndefined();
  await database.rows(`update delivery_server set secret = '\\x00010203' where id = $1`, [id]);
  await expect(deliveryServers.destination(id, '')).rejects.toThrow('Type it again');
  // Who may deliver uses it, and does not change it.
  const { headers } = await world.app.inject({
    ...{ method: 'POST', url: '/api/session' },
    payload: { name: 'cataloguer', password: PASSWORDS.cataloguer },
  });
  const cookie = String(headers['set-cookie']).split(';')[0] ?? '';
  const listed = await world.app.inject({ url: deliveryServerRoutes.listDeliveryServers.path, headers: { cookie } });
  expect(listed.json()).toEqual({ servers: [{ id, server }] });
  const refused = await world.app.inject({
    ...{ method: 'DELETE', url: `/api/delivery-servers/${id}` },
    headers: { cookie },
  });
  expect(refused.statusCode).toBe(403);
});
