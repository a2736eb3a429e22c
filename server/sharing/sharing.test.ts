import exifr from 'exifr';
import sharp from 'sharp';
import type { LinkRequest } from '@stellin/contract/sharing';
import type { Person } from '../catalogue/viewer';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { isEntry, entryCookie, photoOfKey, pictureKey } from './keys';

let world: World;
let keeper: Person;
beforeEach(async () => {
  world = await openWorld({ connections: 3 });
  keeper = await world.services.rights.personOf(world.keeperId);
  const drive = await world.addDrive('Vault');
  await putFiles(drive, {
    'inside/a.jpg': await realJpeg(
      { description: 'Over the <b>dunes</b>', creator: ['Ida Brandt'], personInImage: ['Tomas Rehak'] },
      10,
    ),
    'inside/b.jpg': await realJpeg({ description: 'Harbour' }, 20),
    'inside/c.jpg': await realJpeg({ description: 'Secret workshop' }, 30),
  });
  await world.takeIn(drive);
  await world.apply({ kind: 'setPrivate', selection: { query: 'name:c.jpg' }, private: true });
});
afterEach(() => world.close());

const make = (part: Partial<LinkRequest> = {}) =>
  world.services.viewLinks.make(
    { source: { kind: 'fixed', selection: { query: '' }, sort: 'name' }, settings: { title: 'Kites' }, ...part },
    keeper,
  );
const get = (url: string, cookie?: string) =>
  world.app.inject({ method: 'GET', url, ...(cookie ? { headers: { cookie } } : {}) });
const cookieOf = ({ headers }: Awaited<ReturnType<typeof get>>) => String(headers['set-cookie']).split(';')[0] ?? '';

/** Looks at a link as somebody who was given its address. */
async function view(path: string, query = '') {
  const first = await get(path + query);
  const cookie = cookieOf(first);
  const keys = [...first.body.matchAll(/href="\/v\/[^/"]+\/([\w-]+)"><img/g)].map(([, key]) => key ?? '');
  return { first, cookie, keys };
}

test('a link shows pictures to whoever has its address, without what is private, and tells nothing else', async () => {
  const { address: path } = await make({
    settings: { title: 'Kites & wind', words: 'For you', columns: ['field:creator'] },
  });
  const { first, cookie, keys } = await view(path);
  expect([first.statusCode, keys.length]).toEqual([200, 2]);
  expect(first.body).toContain('Kites &amp; wind');
  expect(first.body).toContain('2 pictures');
  expect(first.headers).toMatchObject({
    'content-security-policy': expect.stringContaining("default-src 'none'") as string,
    'x-robots-tag': 'noindex, nofollow',
    'referrer-policy': 'no-referrer',
    'cache-control': 'no-store',
  });
  const page = await get(`${path}/${keys[0]}`, cookie);
  expect(page.body).toContain('Over the &lt;b&gt;dunes&lt;/b&gt;');
  expect(page.body).toContain('Ida Brandt');
  const small = await get(`${path}/${keys[0]}/small.jpg`, cookie);
  const large = await get(`${path}/${keys[0]}/large.jpg`, cookie);
  for (const { rawPayload, headers } of [small, large]) {
    expect((await sharp(rawPayload).metadata()).format).toBe('jpeg');
    expect(headers['cache-control']).toMatch(/^private, max-age=\d+$/);
    expect(await exifr.parse(rawPayload, { xmp: true, iptc: true, icc: false, jfif: false })).toBeUndefined();
  }
  for (const { body } of [first, page]) expect(body).not.toMatch(/Secret|Rehak|Vault|inside|[abc]\.jpg/);
});

test('what becomes private, or is revoked, is gone at once; all that is not there gets one answer', async () => {
  const { id, address: path } = await make();
  const { cookie, keys } = await view(path);
  await world.apply({ kind: 'setPrivate', selection: { query: 'name:b.jpg' }, private: true });
  expect((await get(path, cookie)).body).toContain('1 picture');
  const gone = await get(`${path}/${keys[1]}`, cookie);
  const picture = await get(`${path}/${keys[1]}/large.jpg`, cookie);
  const other = (await make()).address;
  const { keys: others } = await view(other);
  const foreign = await get(`${path}/${others[0]}`, cookie);
  const guessed = await get(`${path}/1`, cookie);
  const unknown = await get('/v/AAAAAAAAAAAAAAAAAAAAAA');
  await world.services.viewLinks.revoke([id], keeper);
  const revoked = await get(path, cookie);
  const inside = await get(`${path}/${keys[0]}/small.jpg`, cookie);
  for (const answer of [gone, picture, foreign, guessed, unknown, revoked, inside])
    expect([answer.statusCode, answer.body]).toEqual([404, unknown.body]);
  expect((await world.services.viewLinks.list(keeper)).map(({ state }) => state)).toEqual(['open', 'revoked']);
});

test('a password is asked for, wrong ones are slowed down, and without it nothing inside is had', async () => {
  const { address: path } = await make({ password: 'tern over dunes' });
  const asked = await get(path);
  expect(asked.body).toContain('have a password');
  expect(asked.headers['set-cookie']).toBeUndefined();
  const free = await view((await make()).address);
  expect((await get(`${path}/${free.keys[0]}`, free.cookie)).statusCode).toBe(404);
  const tell = (password: string) =>
    world.app.inject({
      ...{ method: 'POST', url: path, payload: `password=${encodeURIComponent(password)}` },
      headers: { 'content-type': 'application/x-www-form-urlencoded', origin: 'http://localhost', host: 'localhost' },
    });
  const wrong = await tell('kite');
  expect([wrong.statusCode, wrong.body]).toEqual([403, expect.stringContaining('not the password')]);
  const right = await tell('tern over dunes');
  expect([right.statusCode, right.headers.location]).toEqual([303, path]);
  expect((await get(path, cookieOf(right))).body).toContain('2 pictures');
  const tries = [];
  for (let i = 0; i < 10; i++) tries.push((await tell('kite')).statusCode);
  expect(tries.at(-1)).toBe(429);
  await world.services.access.flush();
  const recorded = await world.services.database.rows<{ kind: string; about: string }>(
    `select distinct kind, about from access_entry where kind in ('viewedLink', 'linkRefused') order by kind`,
  );
  expect(recorded).toEqual(['linkRefused', 'viewedLink'].map((kind) => ({ kind, about: 'Kites' })));
  const row = await world.services.database.row<{ hash: string }>(
    'select password_hash as hash from view_link where password_hash is not null',
  );
  expect(row?.hash).toMatch(/^\$argon2id\$/);
});

test('a link ends with its day, and after as many viewings as it may have; who is in stays', async () => {
  const { address: path } = await make({ mostViews: 1, endsOn: '2999-01-01' });
  const { cookie } = await view(path);
  expect((await get(path)).statusCode).toBe(404);
  expect((await get(path, cookie)).statusCode).toBe(200);
  const [link] = await world.services.viewLinks.list(keeper);
  expect(link).toMatchObject({ views: 1, mostViews: 1, state: 'used', by: expect.any(String) as string });
  await world.services.database.rows(`update view_link set ends_at = now() - interval '1 second'`);
  expect((await get(path, cookie)).statusCode).toBe(404);
});

test('a link that follows shows what its query finds; a fixed one what it was made for', async () => {
  const following = await make({ source: { kind: 'following', query: 'rating:>=4', sort: 'name' } }).catch(
    (error: Error) => error,
  );
  expect(following).toMatchObject({ message: expect.stringContaining('there are none') as string });
  await world.apply({ kind: 'setRating', selection: { query: 'name:a.jpg' }, rating: 5 });
  const { address: path } = await make({ source: { kind: 'following', query: 'rating:>=4', sort: 'name' } });
  const fixed = await make({ source: { kind: 'fixed', selection: { query: 'rating:>=4' }, sort: 'name' } });
  await world.apply({ kind: 'setRating', selection: { query: 'name:b.jpg' }, rating: 4 });
  await world.services.linksFollow.run();
  const { keys, cookie } = await view(path);
  expect(keys).toHaveLength(2);
  expect((await view(fixed.address)).keys).toHaveLength(1);
  // What is not found any more has no picture any more.
  expect((await get(`${path}/${keys[0]}/small.jpg`, cookie)).statusCode).toBe(200);
  await world.apply({ kind: 'setRating', selection: { query: 'name:a.jpg' }, rating: 1 });
  await world.services.linksFollow.run();
  expect((await get(`${path}/${keys[0]}/small.jpg`, cookie)).statusCode).toBe(404);
  // What somebody shows ends with them.
  await world.services.database.rows('update account set disabled_at = now() where id = $1', [world.keeperId]);
  expect((await get(path, cookie)).statusCode).toBe(404);
});

test('a new address takes the place of the old one; only who made a link, or administers, may change it', async () => {
  const { id, address: path } = await make();
  const renewed = await world.services.viewLinks.renew(id, keeper);
  expect([(await get(path)).statusCode, (await get(renewed.address)).statusCode]).toEqual([404, 200]);
  const stranger: Person = { ...keeper, accountId: keeper.accountId + 1000, everywhere: ['see', 'deliver'] };
  await expect(world.services.viewLinks.revoke([id], stranger)).rejects.toThrow('no such view link');
  expect(await world.services.viewLinks.list(stranger)).toEqual([]);
  const kept = await world.services.database.row<{ row: string }>('select to_jsonb(l)::text as row from view_link l');
  expect(kept?.row).not.toContain(renewed.address.slice(3));
});

test('who looks may answer where that is wanted; answers wait for who made the link, and a photo that is private later takes its along', async () => {
  const { address } = await make({ settings: { title: 'Kites', answers: true } });
  const silent = (await make()).address;
  const { cookie, keys } = await view(address);
  const send = (base: string, key: string | undefined, payload: string, by = cookie) =>
    world.app.inject({
      ...{ method: 'POST', url: `${base}/${key}/answer`, payload },
      headers: {
        'content-type': 'application/x-www-form-urlencoded',
        cookie: by,
        host: 'localhost',
        origin: 'http://localhost',
      },
    });
  expect((await get(`${address}/${keys[0]}`, cookie)).body).toContain('Tell us something about it');
  const sent = await send(address, keys[0], 'kind=remark&text=%3Cb%3EIn+1962%3C%2Fb%3E&sender=Ida');
  expect([sent.statusCode, sent.headers.location]).toEqual([303, `${address}/${keys[0]}?sent#answer`]);
  // The same once more is the same.
  await send(address, keys[0], 'kind=remark&text=%3Cb%3EIn+1962%3C%2Fb%3E&sender=Ida');
  expect((await send(address, keys[1], 'kind=favourite&sender=Ida')).statusCode).toBe(303);
  const refused = await send(address, keys[0], 'kind=name&text=&sender=Ida');
  expect([refused.statusCode, refused.body]).toEqual([400, expect.stringContaining('say it in words')]);
  expect((await send(address, keys[0], 'kind=remark&text=x&sender=')).statusCode).toBe(400);
  expect((await send(address, keys[0], 'kind=remark&text=x&sender=Ida', '')).statusCode).toBe(404);
  const other = await view(silent);
  expect((await send(silent, other.keys[0], 'kind=favourite&sender=Ida', other.cookie)).statusCode).toBe(404);

  const { viewLinks } = world.services;
  const answers = await viewLinks.answers(keeper);
  expect(answers.map(({ kind, text, sender, name, link }) => [kind, text, sender, name, link])).toEqual([
    ['favourite', '', 'Ida', 'b.jpg', 'Kites'],
    ['remark', '<b>In 1962</b>', 'Ida', 'a.jpg', 'Kites'],
  ]);
  const stranger: Person = { ...keeper, accountId: keeper.accountId + 1000, everywhere: ['see', 'deliver'] };
  expect(await viewLinks.answers(stranger)).toEqual([]);
  await viewLinks.settle(
    answers.map(({ id }) => id),
    true,
    stranger,
  );
  expect(await viewLinks.answers(keeper)).toHaveLength(2);
  await viewLinks.settle([answers[0]?.id ?? 0], false, keeper);
  expect(await viewLinks.answers(keeper)).toHaveLength(1);
});

test('names of people are shown only where that is wanted', async () => {
  const with_ = await make({ settings: { title: 'Kites', people: true } });
  const { cookie, keys } = await view(with_.address);
  expect((await get(`${with_.address}/${keys[0]}`, cookie)).body).toContain('Tomas Rehak');
});

test('keys name photos of one link only, and cookies hold for one link and some hours', () => {
  const [one, other] = [Buffer.alloc(32, 1), Buffer.alloc(32, 2)];
  const key = pictureKey(one, 88);
  expect([photoOfKey(one, key), photoOfKey(other, key), photoOfKey(one, 'x'), photoOfKey(one, `${key}=`)]).toEqual([
    ...[88, undefined, undefined, undefined],
  ]);
  const cookie = entryCookie(one, 1000);
  expect([isEntry(one, cookie, 2000), isEntry(other, cookie, 2000), isEntry(one, cookie, 1e12)]).toEqual([
    true,
    false,
    false,
  ]);
  expect([isEntry(one, undefined, 0), isEntry(one, '9999999999999.', 0), isEntry(one, `9${cookie}`, 0)]).toEqual([
    false,
    false,
    false,
  ]);
});

test('a page of others may show a link that allows it, and only that page; nobody has to be let in', async () => {
  const { address: path } = await make({ settings: { title: 'Kites', embedOn: ['https://museum.example'] } });
  const { first, keys } = await view(path);
  expect(first.headers['content-security-policy']).toContain('frame-ancestors https://museum.example');
  expect(first.headers['x-frame-options']).toBeUndefined();
  // Frames of other sites send no cookies.
  expect((await get(`${path}/${keys[0]}`)).statusCode).toBe(200);
  expect((await get(`${path}/${keys[0]}/large.jpg`)).statusCode).toBe(200);
  const told = await get(`/v/-/oembed?url=${encodeURIComponent(`http://localhost${path}`)}&maxwidth=500`);
  expect(told.json()).toMatchObject({ type: 'rich', version: '1.0', width: 500, title: 'Kites' });
  expect(told.json<{ html: string }>().html).toContain(`src="http://localhost${path}"`);
  expect((await get(`/v/-/oembed?url=${encodeURIComponent(`http://localhost${path}`)}&format=xml`)).statusCode).toBe(
    501,
  );

  const plain = await make();
  const closed = await view(plain.address);
  expect(closed.first.headers['content-security-policy']).toContain("frame-ancestors 'none'");
  expect((await get(`${plain.address}/${closed.keys[0]}`)).statusCode).toBe(404);
  expect((await get(`/v/-/oembed?url=${encodeURIComponent(`http://localhost${plain.address}`)}`)).statusCode).toBe(404);
  await expect(
    make({ settings: { title: 'Kites', embedOn: ['https://museum.example'] }, password: 'x' }),
  ).rejects.toThrow('no password');
});

test('a fixed link gives a manifest and its pictures by parts and sizes; what is private later is gone from both', async () => {
  const { address: path } = await make({ settings: { title: 'Kites', iiif: true, columns: ['field:creator'] } });
  const manifest = await get(`${path}/manifest.json`);
  expect(manifest.headers).toMatchObject({
    'access-control-allow-origin': '*',
    'content-type': expect.stringContaining('application/ld+json') as string,
  });
  const { items } = manifest.json<{ items: { items: { items: { body: { service: { id: string }[] } }[] }[] }[] }>();
  expect(items).toHaveLength(2);
  expect(manifest.body).toContain('Ida Brandt');
  expect(manifest.body).not.toMatch(/Vault|inside|a\.jpg/);
  const service = new URL(items[0]?.items[0]?.items[0]?.body.service[0]?.id ?? '').pathname;
  expect((await get(service)).statusCode).toBe(303);
  const info = await get(`${service}/info.json`);
  expect(info.json()).toMatchObject({ type: 'ImageService3', profile: 'level1', width: 320, height: 200 });
  const sizeOf = async (asked: string) => {
    const answer = await get(`${service}/${asked}`);
    const { width, height } = await sharp(answer.rawPayload).metadata();
    return [width, height];
  };
  expect(await sizeOf('full/max/0/default.jpg')).toEqual([320, 200]);
  expect(await sizeOf('square/100,/0/default.jpg')).toEqual([100, 100]);
  expect(await sizeOf('0,0,160,100/80,/90/gray.jpg')).toEqual([50, 80]);
  for (const wrong of [
    'full/max/0/default.png',
    'full/9000,/0/default.jpg',
    'full/max/45/default.jpg',
    '999,0,1,1/max/0/default.jpg',
  ])
    expect((await get(`${service}/${wrong}`)).statusCode).toBe(400);
  await world.apply({ kind: 'setPrivate', selection: { query: 'name:a.jpg' }, private: true });
  expect((await get(`${service}/full/max/0/default.jpg`)).statusCode).toBe(404);
  expect((await get(`${path}/manifest.json`)).json<{ items: unknown[] }>().items).toHaveLength(1);

  const other = await make();
  const { cookie, keys } = await view(other.address);
  expect((await get(`${other.address}/manifest.json`, cookie)).statusCode).toBe(404);
  expect((await get(`${other.address}/iiif/${keys[0]}/info.json`, cookie)).statusCode).toBe(404);
  await expect(
    make({ source: { kind: 'following', query: '' }, settings: { title: 'Kites', iiif: true } }),
  ).rejects.toThrow('Only fixed links');
});

test('where pictures were taken is on a map where that is wanted, and told nowhere else', async () => {
  await world.apply({
    kind: 'setFields',
    selection: { query: 'name:a.jpg' },
    edits: [{ target: 'position', mode: 'replace', value: { latitude: 54.3, longitude: 8.6 } }],
  });
  const { address: path } = await make({ settings: { title: 'Kites', map: true } });
  const { first, cookie, keys } = await view(path);
  expect(first.body).toContain(`href="${path}/map"`);
  const map = await get(`${path}/map`, cookie);
  expect(map.body).toContain(`<a href="${path}/${keys[0]}"`);
  expect(map.body).toContain('Where 1 of 2 pictures were taken is not known.');
  expect((await get(`${path}/map`)).statusCode).toBe(404);
  const plain = await make();
  const other = await view(plain.address);
  expect(other.first.body).not.toContain('/map');
  expect((await get(`${plain.address}/map`, other.cookie)).statusCode).toBe(404);
});
