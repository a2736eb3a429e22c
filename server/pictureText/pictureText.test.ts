import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { drawLettering } from '../paper/lettering';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
let drive: string;
beforeEach(async () => {
  world = await openWorld({ connections: 3 });
  drive = await world.addDrive('Vault');
});
afterEach(() => world.close());

/** A sign with a text in black letters. */
const sign = async (text: string, orientation = 1) => {
  const { svg, width, height } = drawLettering(text, { size: 70, colour: 'black', opacity: 1, maxWidth: 3000 });
  return sharp({ create: { width: width + 160, height: height + 160, channels: 3, background: 'white' } })
    .composite([{ input: svg, left: 80, top: 80 }])
    .jpeg()
    .withMetadata({ orientation })
    .toBuffer();
};

const count = (query: string) => world.services.search.all.count(query);
const idOf = async (name: string) => (await world.ids()).get(name) ?? 0;
const driveId = async () => (await world.services.drives.list(PROGRAM))[0]?.id ?? '';

async function readAll() {
  await world.services.pictureTexts.readDrive(await driveId(), true, world.keeperId);
  const job = (await world.services.jobs.list()).find(({ kind }) => kind === 'pictureText');
  return world.until(job?.id ?? '', ['done']);
}

test('the text in pictures of a drive is read in the background, found like words of documents, and stays when files are read again', async () => {
  await putFiles(drive, {
    'sign.jpg': await sign('Kite Festival 1998'),
    'plain.jpg': await realJpeg({ title: 'Dunes' }),
  });
  await world.takeIn(drive);
  expect(await count('text:*festival*')).toBe(0);
  const job = await readAll();
  expect(job).toMatchObject({ failures: 0, result: { withText: 1 } });
  for (const query of ['text:*festival*', 'festival', 'has:text', '"kite festival"'])
    expect(await count(query)).toBe(1);
  // SQL must see what the index sees.
  await world.apply({
    kind: 'setRating',
    selection: { query: 'text:"kite festival 1998" festival has:text' },
    rating: 3,
  });
  expect(await count('rating:3')).toBe(1);
  await world.apply({
    kind: 'setFields',
    selection: { query: '' },
    edits: [{ target: 'city', mode: 'replace', value: 'Fenwick' }],
  });
  expect(await count('text:*festival* fenwick festival')).toBe(1);
  const { id } = await world.services.writeBack.run(world.services.jobs, { retryFailed: false }, world.keeperId);
  await world.until(id, ['done']);
  await world.takeIn(drive);
  expect(await count('text:*festival* festival is:written')).toBe(1);
  expect(await world.services.pictureTexts.follow(null)).toBeUndefined();
  expect((await world.services.jobs.list()).filter(({ kind }) => kind === 'pictureText')).toHaveLength(1);
});

test('where a line stands follows when the picture is turned; another picture is read anew', async () => {
  await putFiles(drive, { 'sign.jpg': await sign('Museum night') });
  await world.takeIn(drive);
  const photoId = await idOf('sign.jpg');
  expect(await world.services.pictureTexts.show(photoId)).toEqual({ state: 'unread', problem: '', lines: [] });
  const { state, lines } = await world.services.pictureTexts.readNow(photoId);
  expect([state, lines.map(({ text }) => text)]).toEqual(['read', ['Museum night']]);
  const [box] = lines.map((line) => line.box);
  expect(box && box.width > box.height * 2 && box.left > 0.02 && box.left + box.width < 0.98).toBe(true);
  await world.apply({ kind: 'turnPhotos', selection: { query: '' }, way: 'right' });
  const [turned] = (await world.services.pictureTexts.show(photoId)).lines;
  expect(turned?.box.width).toBeCloseTo(box?.height ?? 0, 6);
  expect(turned?.box.top).toBeCloseTo(box?.left ?? 0, 6);

  await world.services.ledger.undo(world.keeperId);
  await writeFile(join(drive, 'sign.jpg'), await sign('Open day'));
  await world.takeIn(drive);
  await readAll();
  expect((await world.services.pictureTexts.show(photoId)).lines.map(({ text }) => text)).toEqual(['Open day']);
  expect([await count('text:*museum*'), await count('text:*open*')]).toEqual([0, 1]);
});

test('a picture that can’t be read says why, one without text has none, and a drive that is away is named', async () => {
  const broken = (await sign('Kites')).subarray(0, 300);
  await putFiles(drive, { 'broken.jpg': broken, 'plain.jpg': await realJpeg({}, 90) });
  await world.takeIn(drive);
  const texts = world.services.pictureTexts;
  expect(await texts.readNow(await idOf('plain.jpg'))).toEqual({ state: 'read', problem: '', lines: [] });
  const unreadable = await texts.readNow(await idOf('broken.jpg'));
  expect(unreadable.state).toBe('unreadable');
  expect(unreadable.problem).not.toBe('');
  await world.unplug(drive);
  await expect(texts.readNow(await idOf('plain.jpg'))).rejects.toThrow('“Vault” is away');
  await expect(texts.readNow(99_999)).rejects.toThrow('no picture');
});
