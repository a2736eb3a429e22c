import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, readdir, readFile, rm, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { parse } from 'csv-parse/sync';
import { load } from 'exifreader';
import readXlsxFile from 'read-excel-file/node';
import sharp from 'sharp';
import { fromBuffer, type Entry } from 'yauzl';
import { memorySource } from '@stellin/core/metadata/bytes';
import { readMetadata } from '@stellin/core/metadata/read';
import {
  copySettings,
  deliveringRoutes,
  gallerySettings,
  originalPath,
  sheetSettings,
  type CopySettings,
  type DeliverySettings,
  type SheetSettings,
  type TableSettings,
} from '@stellin/contract/delivering';
import { checkBagFolder } from '../files/bagFolder';
import { personShape } from '@stellin/contract/people';
import { openWorld, PASSWORDS, putFiles, realJpeg, startWorker, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
let vault: string;
let out: string;
beforeEach(async () => {
  world = await openWorld();
  [vault, out] = [await world.addDrive('Vault'), await world.addDrive('Out')];
  await putFiles(vault, {
    'July/a.jpg': await realJpeg({ headline: 'Dunes', keywords: ['beach'], creator: ['Tomas Rehak'] }, 20),
    'July/b.jpg': await realJpeg({ headline: 'Harbour', position: { latitude: 53.5, longitude: 8.1 } }, 90),
    'c.jpg': await realJpeg({ headline: 'Secret' }, 200),
  });
  await world.takeIn(vault);
  await putFiles(out, { 'something.jpg': await realJpeg({}, 7) });
  await world.takeIn(out);
});
afterEach(() => world.close());

const driveId = async (label = 'Out') =>
  (await world.services.drives.list(PROGRAM)).find((drive) => drive.label === label)?.id ?? '';
const keeper = () => world.services.rights.personOf(world.keeperId);
const request = (settings: Partial<CopySettings> = {}, query = 'drive:Vault') => ({
  selection: { query, minus: [], plus: [] },
  sort: 'name' as const,
  settings: copySettings.parse({ sharpen: 'none', ...settings }),
  presetId: null,
  recipient: 'Ida',
});
const begin = async (settings: Partial<CopySettings> = {}, query?: string, folder = 'to Ida') =>
  world.services.deliveries.deliver(
    { ...request(settings, query), target: { kind: 'drive', driveId: await driveId(), folder }, reason: 'a talk' },
    await keeper(),
  );
const deliver = async (settings: Partial<CopySettings> = {}, query?: string) => {
  const { id, job } = await begin(settings, query);
  await world.until(job?.id ?? '', ['done', 'failed']);
  return world.services.deliveries.show(id, await keeper());
};
const delivered = (path: string) => readFile(join(out, 'to Ida', path));
const files = async () => (await readdir(join(out, 'to Ida'), { recursive: true })).sort();
const states = async (id: string) =>
  (await world.services.deliveries.files(id, { offset: 0, limit: 100 }, await keeper())).files.map(
    ({ original, path, state, problem }) => [original, path, state, problem],
  );

test('copies go to a folder: pixels as the library makes them, and what is said of the photo, nothing else', async () => {
  const done = await deliver({ size: { by: 'long', value: 160, height: 1, enlarge: false }, quality: 80 });
  expect(done).toMatchObject({ photos: 3, written: 3, failed: 0, title: '3 photos for Ida', target: 'Out › to Ida' });
  expect(await files()).toEqual(['a.jpg', 'b.jpg', 'c.jpg']);
  const copy = await delivered('a.jpg');
  expect(await sharp(copy).metadata()).toMatchObject({ width: 160, height: 100, density: 300, hasProfile: true });
  const own = await sharp(join(vault, 'July/a.jpg')).resize(160, 100, { fit: 'fill' }).removeAlpha().raw().toBuffer();
  const theirs = await sharp(copy).removeAlpha().raw().toBuffer();
  expect(Math.max(...own.map((value, i) => Math.abs(value - (theirs[i] ?? 999))))).toBeLessThan(12);
  const judged = load(copy, { expanded: true });
  expect(judged.iptc?.Headline?.description).toBe('Dunes');
  expect(judged.xmp?.['subject']?.description).toBe('beach');
  expect(judged.xmp?.['creator']?.description).toBe('Tomas Rehak');
  expect(readMetadata(memorySource(await delivered('b.jpg'))).fields.position).toMatchObject({ latitude: 53.5 });
});

test('what is private never leaves, whoever asks, also when it becomes so after the delivery was begun', async () => {
  await world.apply({ kind: 'setPrivate', selection: { query: 'name:c.jpg' }, private: true });
  const plan = await world.services.deliveries.plan({ ...request(), offset: 0, limit: 10 }, await keeper());
  expect(plan).toMatchObject({ photos: 2, private: 1 });
  const prepared = await world.services.deliveries.deliver(
    { ...request(), target: { kind: 'download' }, reason: '' },
    await keeper(),
  );
  await world.apply({ kind: 'setPrivate', selection: { query: 'name:b.jpg' }, private: true });
  const entries = await unzip(prepared.id);
  expect([...entries.keys()]).toEqual(['a.jpg', 'Not delivered.txt']);
  expect(entries.get('Not delivered.txt')?.toString()).toBe(
    'Vault/July/b.jpg: it was marked private meanwhile, and stays\n',
  );
});

test('policies hold back positions, people and fields; texts that are withheld from files stay too', async () => {
  await deliver({
    metadata: { what: 'fields', fields: ['headline'], position: false, people: false, terms: 'none', language: '' },
    sidecars: true,
  });
  const { fields } = readMetadata(memorySource(await delivered('a.jpg')));
  expect(fields).toEqual({ headline: 'Dunes' });
  const sidecar = (await delivered('a.xmp')).toString();
  expect(sidecar).toContain('Dunes');
  expect(sidecar).not.toMatch(/Rehak|beach/);
  await rm(join(out, 'to Ida'), { recursive: true });
  await deliver({
    metadata: { what: 'none', fields: [], position: true, people: true, terms: 'asWritten', language: '' },
  });
  const bare = load(await delivered('b.jpg'), { expanded: true });
  expect([bare.iptc, bare.xmp, bare.gps]).toEqual([undefined, undefined, undefined]);
});

test.each([
  ['tiff', 16, 'tif'],
  ['png', 8, 'png'],
  ['webp', 8, 'webp'],
  ['avif', 8, 'avif'],
] as const)('%s with %i bits', async (format, bits, extension) => {
  const done = await deliver({ format, bits }, 'name:a.jpg');
  expect(done).toMatchObject({ written: 1, failed: 0 });
  const made = await sharp(await delivered(`a.${extension}`)).metadata();
  expect(made).toMatchObject({ width: 320, height: 200, depth: bits === 16 ? 'ushort' : 'uchar' });
});

test('colours of a wider space become sRGB as the library makes them, or stay as they are with their profile', async () => {
  const wide = await sharp({ create: { width: 60, height: 40, channels: 3, background: '#e01020' } })
    .withIccProfile('p3')
    .jpeg({ quality: 95 })
    .toBuffer();
  await writeFile(join(vault, 'July/a.jpg'), wide);
  await world.takeIn(vault);
  const settings = { size: { by: 'whole', value: 1, height: 1, enlarge: false }, quality: 95 } as const;
  const pixel = async (bytes: Buffer) => [...(await sharp(bytes).removeAlpha().raw().toBuffer()).subarray(0, 3)];
  const asLibrary = await pixel(await sharp(wide).withIccProfile('srgb').jpeg({ quality: 95 }).toBuffer());
  for (const border of [0, 5]) {
    await deliver({ ...settings, border: { pixels: border, colour: '#000000' } }, 'name:a.jpg');
    const copy = await delivered('a.jpg');
    const inner = await sharp(copy).extract({ left: border, top: border, width: 60, height: 40 }).toBuffer();
    (await pixel(inner)).forEach((value, i) => expect(Math.abs(value - (asLibrary[i] ?? 999))).toBeLessThan(4));
    await rm(join(out, 'to Ida'), { recursive: true });
  }
  await deliver({ ...settings, colours: 'keep' }, 'name:a.jpg');
  const kept = load(await delivered('a.jpg'), { expanded: true });
  expect(kept.icc?.['ICC Description']?.description).not.toContain('sRGB');
});

test('a watermark, a border and the description below are drawn; a file is no larger than it may be', async () => {
  await world.apply({
    kind: 'setFields',
    selection: { query: 'name:a.jpg' },
    edits: [{ target: 'description', mode: 'replace', value: { 'x-default': 'Kites above the dunes – Übung' } }],
  });
  const settings = {
    watermark: { text: 'Saltmarsh', picture: '', place: 'centre', opacity: 1, percent: 20 },
    border: { pixels: 10, colour: '#000000' },
    caption: true,
    maxBytes: 24_000,
    quality: 100,
  } as const;
  await deliver(settings, 'name:a.jpg');
  const copy = await delivered('a.jpg');
  expect(copy.length).toBeLessThanOrEqual(24_000);
  const { width, height } = await sharp(copy).metadata();
  expect(width).toBe(340);
  expect(height).toBeGreaterThan(240);
  const { channels } = await sharp(copy).extract({ left: 60, top: 60, width: 220, height: 100 }).stats();
  // The picture is of one colour; letters are not.
  expect(channels[0]?.max).toBeGreaterThan(200);
});

test('the original goes as it is, byte for byte, with its time', async () => {
  await deliver({ format: 'original', folders: 'mirror' }, 'name:a.jpg');
  expect((await delivered('July/a.jpg')).equals(await readFile(join(vault, 'July/a.jpg')))).toBe(true);
});

test.each([
  ['number', ['a-2.jpg', 'a.jpg'], 'written', false],
  ['skip', ['a.jpg'], 'skipped', false],
  ['overwrite', ['a.jpg'], 'written', true],
  ['newer', ['a.jpg'], 'written', true],
] as const)('where a file stands already: %s', async (conflict, names, state, isReplaced) => {
  await mkdir(join(out, 'to Ida'));
  await writeFile(join(out, 'to Ida', 'a.jpg'), 'theirs');
  await utimes(join(out, 'to Ida', 'a.jpg'), 1_000_000_000, 1_000_000_000);
  const done = await deliver({ conflict }, 'name:a.jpg');
  expect(await files()).toEqual(names);
  expect((await states(done.id)).map(([, , each]) => each)).toEqual([state]);
  expect((await delivered('a.jpg')).toString() !== 'theirs').toBe(isReplaced);
  if (conflict === 'newer') {
    // The one that stands there is newer than the original now.
    await writeFile(join(out, 'to Ida', 'a.jpg'), 'theirs again');
    expect(await deliver({ conflict }, 'name:a.jpg')).toMatchObject({ written: 0, skipped: 1 });
  }
});

test('a sidecar that stands there is nobody’s to write over', async () => {
  await mkdir(join(out, 'to Ida'));
  await writeFile(join(out, 'to Ida', 'a.xmp'), 'of another file');
  const done = await deliver({ sidecars: true, format: 'png' }, 'name:a.jpg');
  expect(done).toMatchObject({ written: 1 });
  expect(await files()).toEqual(['a-2.png', 'a-2.xmp', 'a.xmp']);
  expect((await delivered('a.xmp')).toString()).toBe('of another file');
});

test('of a broken file the others go out; it is named, and tried again when it is mended', async () => {
  const good = await readFile(join(vault, 'July/b.jpg'));
  await writeFile(join(vault, 'July/b.jpg'), good.subarray(0, good.length >> 1));
  const done = await deliver();
  expect(done).toMatchObject({ written: 2, failed: 1 });
  const failed = (await states(done.id)).filter(([, , state]) => state === 'failed');
  expect(failed).toEqual([['Vault/July/b.jpg', 'b.jpg', 'failed', expect.any(String)]]);
  await writeFile(join(vault, 'July/b.jpg'), good);
  const again = await world.services.deliveries.retry(done.id, await keeper());
  await world.until(again.job?.id ?? '', ['done']);
  expect(await world.services.deliveries.show(done.id, await keeper())).toMatchObject({ written: 3, failed: 0 });
});

test('a delivery waits for the drive it goes to, and for those that photos are on', async () => {
  const outAway = await world.unplug(out);
  const { id, job } = await begin({}, undefined, 'to Ida');
  await world.until(job?.id ?? '', ['waiting']);
  const vaultAway = await world.unplug(vault);
  out = await world.plugIn(outAway, 'Out');
  await world.eventually(async () => (await world.services.jobs.find(job?.id ?? '')).current.includes('Vault'));
  await world.plugIn(vaultAway, 'Vault');
  await world.until(job?.id ?? '', ['done']);
  expect(await world.services.deliveries.show(id, await keeper())).toMatchObject({ written: 3 });
});

test.each(['file:moved', 'file:moved:2'] as const)(
  'a process that is killed at %s: the next one goes on',
  async (fault) => {
    await world.close();
    world = await openWorld({ working: false });
    [vault, out] = [await world.addDrive('Vault'), await world.addDrive('Out')];
    const many = Array.from({ length: 30 }, async (_, i) => [`${i}.jpg`, await realJpeg({}, i * 5)] as const);
    await putFiles(vault, Object.fromEntries(await Promise.all(many)));
    await putFiles(out, { 'something.jpg': await realJpeg({}, 7) });
    await world.services.start();
    await world.takeIn(vault);
    await world.takeIn(out);
    await world.rest();
    const { id, job } = await begin();
    await startWorker(world, fault).ended;
    await world.services.start();
    await world.until(job?.id ?? '', ['done']);
    expect(await world.services.deliveries.show(id, await keeper())).toMatchObject({ written: 30, failed: 0 });
    expect((await files()).length).toBe(30);
  },
);

test('a delivery as a bag can be checked by other programs', async () => {
  await deliver({ bag: true, sidecars: true });
  const root = join(out, 'to Ida');
  expect((await checkBagFolder(root)).problems).toEqual([]);
  expect(execFileSync('sha256sum', ['-c', 'manifest-sha256.txt'], { cwd: root }).toString()).toContain(
    'data/a.xmp: OK',
  );
  await expect(begin({ bag: true })).rejects.toThrow('a bag needs a folder of its own');
});

test('a download is a ZIP that other programs read; nothing of it is kept', async () => {
  const { id } = await world.services.deliveries.deliver(
    { ...request({ bag: true, name: '{recipient}-{number:2}' }), target: { kind: 'download' }, reason: '' },
    await keeper(),
  );
  const entries = await unzip(id);
  expect([...entries.keys()]).toEqual([
    'data/Ida-01.jpg',
    'data/Ida-02.jpg',
    'data/Ida-03.jpg',
    'bagit.txt',
    'bag-info.txt',
    'manifest-sha256.txt',
    'tagmanifest-sha256.txt',
  ]);
  const first = entries.get('data/Ida-01.jpg') ?? Buffer.of();
  expect(entries.get('manifest-sha256.txt')?.toString()).toContain(
    `${createHash('sha256').update(first).digest('hex')}  data/Ida-01.jpg`,
  );
  expect(await world.services.deliveries.show(id, await keeper())).toMatchObject({ written: 3, download: true });
});

test('presets are shared or own, keep their versions, and are undone by name', async () => {
  const settings = copySettings.parse({ format: 'webp' });
  const { objectId } = await world.apply({ kind: 'savePreset', name: 'Web', settings });
  await world.apply({
    kind: 'savePreset',
    presetId: objectId ?? 0,
    name: 'Web',
    settings: { ...settings, quality: 70 },
  });
  const [preset] = await world.services.deliveries.presets(world.keeperId);
  expect(preset).toMatchObject({ name: 'Web', version: 2, shared: true, settings: { format: 'webp', quality: 70 } });
  expect(await world.services.deliveries.presetVersions(objectId ?? 0, world.keeperId)).toMatchObject([
    { preset: { settings: { quality: 88 } } },
  ]);
  await expect(world.apply({ kind: 'savePreset', name: 'Web', settings })).rejects.toThrow('Web');
  expect((await world.services.ledger.undo(world.keeperId)).title).toBe('Undo: Change the preset “Web”');
  await world.apply({ kind: 'savePreset', name: 'Mine', shared: false, settings });
  const cataloguer = (await world.services.accounts.find('cataloguer'))?.id ?? 0;
  expect((await world.services.deliveries.presets(cataloguer)).map(({ name }) => name)).toEqual(['Web']);
});

test('who did not make a delivery does not know it, unless they administer', async () => {
  const { app } = world;
  const payload = { name: 'cataloguer', password: PASSWORDS.cataloguer };
  const { headers } = await app.inject({ method: 'POST', url: '/api/session', payload });
  const cookie = String(headers['set-cookie']).split(';')[0] ?? '';
  const { id } = await begin();
  const asked = await app.inject({ url: `/api/deliveries/${id}`, headers: { cookie } });
  expect(asked.statusCode).toBe(404);
  const zip = await app.inject({ url: `/api/deliveries/${id}/download`, headers: { cookie } });
  expect(zip.statusCode).toBe(404);
  const listed = await app.inject({ url: deliveringRoutes.listDeliveries.path, headers: { cookie } });
  expect(listed.json()).toEqual({ deliveries: [], total: 0 });
});

test('the original of a photo is downloaded as it is; a private one is not, nor one whose drive is away', async () => {
  const { app } = world;
  const payload = { name: 'cataloguer', password: PASSWORDS.cataloguer };
  const { headers } = await app.inject({ method: 'POST', url: '/api/session', payload });
  const cookie = String(headers['set-cookie']).split(';')[0] ?? '';
  const ids = await world.ids();
  const ask = (name: string) => app.inject({ url: originalPath(ids.get(name) ?? 0), headers: { cookie } });
  const asked = await ask('a.jpg');
  expect(asked.rawPayload).toEqual(await readFile(join(vault, 'July/a.jpg')));
  expect(asked.headers['content-disposition']).toContain('filename="a.jpg"');
  await world.apply({ kind: 'setPrivate', selection: { query: 'name:c.jpg' }, private: true });
  // A private photo does not exist for who may not see it; for who may, it stays.
  expect((await ask('c.jpg')).statusCode).toBe(409);
  await rm(join(vault, 'July/b.jpg'));
  expect((await ask('b.jpg')).json()).toMatchObject({ error: { code: 'originalRefused' } });
  await world.unplug(vault);
  await world.services.drives.refresh();
  expect((await ask('a.jpg')).json()).toMatchObject({ error: { code: 'driveAway' } });
  await world.services.access.flush();
  const recorded = await world.services.database.rows<{ photoId: number }>(
    `select photo_id as "photoId" from access_entry where kind = 'tookOriginal'`,
  );
  expect(recorded).toEqual([{ photoId: ids.get('a.jpg') }]);
});

test('a picture is drawn on copies as strong as wanted; one that is none is named', async () => {
  const dot = await sharp({ create: { width: 40, height: 40, channels: 3, background: '#ff0000' } })
    .png()
    .toBuffer();
  const mark = (picture: string) => ({
    ...{ format: 'png' as const, size: { by: 'whole' as const, value: 1, height: 1, enlarge: false } },
    watermark: { ...copySettings.parse({}).watermark, picture, place: 'northwest' as const, opacity: 0.5, percent: 50 },
  });
  await deliver(mark(`data:image/png;base64,${dot.toString('base64')}`), 'name:b.jpg');
  const pixel = async (bytes: Buffer, at: number) => {
    const { data, info } = await sharp(bytes).raw().toBuffer({ resolveWithObject: true });
    const start = (at * info.width + at) * info.channels;
    return [data[start], data[start + 1], data[start + 2]].map(Number);
  };
  const original = await readFile(join(vault, 'July/b.jpg'));
  const [before, after] = [await pixel(original, 20), await pixel(await delivered('b.png'), 20)];
  const half = (value: number, at: number) => (value + (at === 0 ? 255 : 0)) / 2;
  after.forEach((value, at) => expect(Math.abs(value - half(before[at] ?? 0, at))).toBeLessThan(6));
  const broken = await deliver(mark('data:image/png;base64,AAAA'), 'name:a.jpg');
  expect((await states(broken.id))[0]?.[3]).toContain('the picture that is to be drawn on it can’t be read');
});

test('a folder that leads out of its drive is refused, and so is a pattern that nobody understands', async () => {
  await expect(begin({}, undefined, '../outside')).rejects.toThrow();
  expect(existsSync(join(out, '..', 'outside'))).toBe(false);
  await expect(begin({ name: '{nonsense}' })).rejects.toThrow('nonsense');
});

const downloaded = async (settings: DeliverySettings, query = 'drive:Vault') => {
  const { id } = await world.services.deliveries.deliver(
    { ...request(), selection: { query, minus: [], plus: [] }, settings, target: { kind: 'download' }, reason: '' },
    await keeper(),
  );
  return bytesOf(id);
};
const table = (given: Partial<TableSettings>): TableSettings => ({
  kind: 'table',
  format: 'csv',
  columns: ['name', 'field:headline', 'terms', 'field:personInImage', 'taken', 'bytes'],
  rows: 'photo',
  language: '',
  ...given,
});

describe('tables', () => {
  beforeEach(async () => {
    await world.apply({
      kind: 'setFields',
      selection: { query: 'name:a.jpg' },
      edits: [{ target: 'headline', mode: 'replace', value: '=1+1; "quoted"\nand\ttab' }],
    });
    for (const name of ['Ida Brandt', 'Emil Stork'])
      await world.apply({ kind: 'namePhotos', selection: { query: 'name:a.jpg' }, who: { name } });
    const persons = await world.services.people.listPersons(await keeper());
    const emil = persons.find(({ name }) => name === 'Emil Stork');
    expect(emil).toBeDefined();
    if (emil) await world.apply({ ...personShape.parse(emil), kind: 'savePerson', personId: emil.id, private: true });
    await world.apply({ kind: 'setPrivate', selection: { query: 'name:c.jpg' }, private: true });
  });

  test('as CSV other readers take it for what it is; formulas are none, private photos and persons are not there', async () => {
    const rows = parse((await downloaded(table({}))).toString(), { bom: true }) as string[][];
    expect(rows.map((row) => row.slice(0, 4))).toEqual([
      ['File name', 'Headline', 'Terms', 'Person shown'],
      ['a.jpg', '\'=1+1; "quoted"\nand\ttab', '', 'Ida Brandt'],
      ['b.jpg', 'Harbour', '', ''],
    ]);
  });

  test('as TSV no value breaks a row; a row a value', async () => {
    const lines = (await downloaded(table({ format: 'tsv' }))).toString().split('\r\n');
    expect(lines.map((line) => line.split('\t').length)).toEqual([6, 6, 6, 1]);
    const values = (await downloaded(table({ format: 'tsv', rows: 'value', columns: ['field:headline'] }))).toString();
    expect(values).toContain('Vault/July/b.jpg\tHeadline\tHarbour\r\n');
  });

  test('as XLSX and as JSON Lines', async () => {
    const rows = await readXlsxFile(await downloaded(table({ format: 'xlsx' })));
    expect(rows[0]?.data[1]?.slice(0, 2)).toEqual(['a.jpg', '=1+1; "quoted"\nand\ttab']);
    const [first] = (await downloaded(table({ format: 'jsonl' }))).toString().split('\n');
    expect(JSON.parse(first ?? '')).toMatchObject({ 'File name': 'a.jpg', 'Person shown': 'Ida Brandt' });
  });
});

describe('sheets', () => {
  const sheet = (given: Partial<SheetSettings>) =>
    sheetSettings.parse({ kind: 'sheet', title: 'Übung am Deich', ...given });
  const textOf = async (bytes: Buffer) => {
    const path = join(out, 'sheet.pdf');
    await writeFile(path, bytes);
    return execFileSync('pdftotext', ['-layout', path, '-']).toString();
  };

  test('a contact sheet shows the photos with their fields, a title and numbers of pages', async () => {
    const bytes = await downloaded(sheet({ rows: 1, columns: 2, fields: ['name', 'field:headline'] }));
    const text = await textOf(bytes);
    expect(text).toMatch(/Übung am Deich[\s\S]*a\.jpg\s+b\.jpg[\s\S]*Dunes\s+Harbour[\s\S]*Page 1 of 2/);
    expect(text.split('\f').filter(Boolean)).toHaveLength(2);
    const images = execFileSync('pdfimages', ['-list', join(out, 'sheet.pdf')]).toString();
    expect(images.match(/ jpeg /g)).toHaveLength(3);
  });

  test('a caption sheet names the fields; headings begin pages and are bookmarks', async () => {
    const bytes = await downloaded(
      sheet({ layout: 'caption', rows: 4, fields: ['name', 'field:headline'], headings: 'folder' }),
    );
    const text = await textOf(bytes);
    expect(text.split('\f').filter(Boolean)).toHaveLength(2);
    expect(text).toContain('Headline: Dunes');
    expect(bytes.toString('latin1')).toContain('/Outlines');
  });

  test('the first page alone, and labels by their measures', async () => {
    const stream = await world.services.deliveries.firstPage(
      {
        ...request(),
        settings: sheet({ rows: 1, columns: 1, fields: ['name'] }),
        target: { kind: 'download' },
        reason: '',
      },
      await keeper(),
    );
    const parts: Buffer[] = [];
    for await (const part of stream) parts.push(part as Buffer);
    const text = await textOf(Buffer.concat(parts));
    expect(text).toContain('Page 1 of 3');
    expect(text).not.toContain('b.jpg');
    expect(await textOf(await downloaded(sheet({ layout: 'labels', fields: ['name'] })))).toMatch(/a\.jpg\s+b\.jpg/);
  });
});

test('a gallery stands by itself: pages, pictures in two sizes, captions in all languages, terms; texts from outside are no HTML', async () => {
  await world.apply({
    kind: 'setFields',
    selection: { query: 'name:a.jpg' },
    edits: [
      {
        target: 'description',
        mode: 'replace',
        value: { 'x-default': '<script>alert("dunes")</script>', de: 'Dünen' },
      },
    ],
  });
  await world.apply({ kind: 'setPrivate', selection: { query: 'name:c.jpg' }, private: true });
  await writeFile(join(vault, 'July/b.jpg'), 'broken');
  const { id } = await world.services.deliveries.deliver(
    {
      ...request(),
      settings: gallerySettings.parse({ kind: 'gallery', title: 'Kites & dunes', fields: ['field:creator'] }),
      target: { kind: 'download' },
      reason: '',
    },
    await keeper(),
  );
  const entries = await unzip(id);
  expect([...entries.keys()]).toEqual([
    'large/00001.jpg',
    'small/00001.jpg',
    'style.css',
    'script.js',
    'index.html',
    'photo-00001.html',
  ]);
  const page = entries.get('photo-00001.html')?.toString() ?? '';
  expect(page).toContain('&lt;script&gt;alert(&quot;dunes&quot;)&lt;/script&gt;');
  expect(page).toContain('<p lang="de" data-said>Dünen</p>');
  expect(page).toContain('<dt>Creator</dt><dd>Tomas Rehak</dd>');
  expect(entries.get('index.html')?.toString()).toContain('<h1>Kites &amp; dunes</h1>');
  expect(load(entries.get('large/00001.jpg') ?? Buffer.of(), { expanded: true }).xmp).toBeUndefined();
  expect((await states(id)).map(([, path, state]) => [path, state])).toEqual([
    ['a.jpg', 'written'],
    ['b.jpg', 'failed'],
  ]);
});

test('a gallery has a map only where it is wanted, and only of positions that may leave', async () => {
  const gallery = async (map: boolean) => {
    const settings = gallerySettings.parse({ kind: 'gallery', map });
    const { id } = await world.services.deliveries.deliver(
      { ...request(), settings, target: { kind: 'download' }, reason: '' },
      await keeper(),
    );
    return unzip(id);
  };
  expect([...(await gallery(false)).keys()]).not.toContain('map.html');
  const pages = await gallery(true);
  expect(pages.get('map.html')?.toString()).toMatch(/<path class="land" d="M[\d. L-]+Z/);
  expect(pages.get('map.html')?.toString()).toContain('<a href="photo-00002.html"');
  expect(pages.get('map.html')?.toString()).toContain('Where 2 of 3 pictures were taken is not known.');
});

/** What a delivery comes to. */
async function bytesOf(id: string): Promise<Buffer> {
  const { stream } = await world.services.deliveries.download(id, await keeper());
  const parts: Buffer[] = [];
  for await (const part of stream) parts.push(part as Buffer);
  return Buffer.concat(parts);
}

/** The entries of the ZIP of a delivery by name. */
async function unzip(id: string): Promise<Map<string, Buffer>> {
  const bytes = await bytesOf(id);
  return new Promise((resolve, reject) => {
    fromBuffer(bytes, { lazyEntries: true }, (error, zip) => {
      if (error) return reject(error);
      const found = new Map<string, Buffer>();
      zip.on('end', () => resolve(found));
      zip.on('entry', (entry: Entry) => {
        zip.openReadStream(entry, (problem, content) => {
          if (problem) return reject(problem);
          const chunks: Buffer[] = [];
          content.on('data', (chunk: Buffer) => chunks.push(chunk));
          content.on('end', () => {
            found.set(entry.fileName, Buffer.concat(chunks));
            zip.readEntry();
          });
        });
      });
      zip.readEntry();
    });
  });
}
