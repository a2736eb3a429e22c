import { rename } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import type { TurnWay } from '@stellin/core/metadata/orientation';
import { openWorld, putFiles, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
let drive: string;
beforeEach(async () => {
  world = await openWorld({ connections: 3 });
  drive = await world.addDrive('Vault');
  await putFiles(drive, {
    'kite.jpg': await leaning(6),
    'flat.png': await picture().png().toBuffer(),
    'moving.gif': await picture().gif().toBuffer(),
  });
  await world.takeIn(drive);
});
afterEach(() => world.close());

/** Red on the left as stored. */
const picture = () =>
  sharp({ create: { width: 300, height: 200, channels: 3, background: { r: 20, g: 20, b: 200 } } }).composite([
    {
      input: { create: { width: 100, height: 200, channels: 3, background: { r: 200, g: 20, b: 20 } } },
      left: 0,
      top: 0,
    },
  ]);
const leaning = (orientation: number) => picture().jpeg().withMetadata({ orientation }).toBuffer();

async function photoNamed(name: string) {
  return world.services.photos.find(PROGRAM, (await world.ids()).get(name) ?? 0);
}

/** Where the preview is red, and its size. */
async function seen(name: string) {
  await world.services.turner.run();
  const photo = await photoNamed(name);
  const path = await world.services.previews.fileOf(photo.id, photo.previewVersion);
  const { data, info } = await sharp(path ?? '')
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const isRed = (x: number, y: number) => (data[(y * info.width + x) * 3] ?? 0) > 120;
  const { width, height } = info;
  const sides = {
    left: isRed(5, height / 2),
    right: isRed(width - 5, height / 2),
    top: isRed(width / 2, 5),
    bottom: isRed(width / 2, height - 5),
  };
  return {
    size: [width, height],
    said: [photo.width, photo.height],
    red: Object.entries(sides).flatMap(([side, is]) => (is ? [side] : [])),
  };
}

const turn = (way: TurnWay, query = '') => world.apply({ kind: 'turnPhotos', selection: { query }, way });
const orientationIn = async (name: string) => (await sharp(join(drive, name)).metadata()).orientation;

async function write() {
  const { id } = await world.services.writeBack.run(world.services.jobs, { retryFailed: false }, world.keeperId);
  await world.until(id, ['done']);
}

test('photos are turned in one step that can be undone, their previews follow, and only the orientation is written', async () => {
  expect(await seen('kite.jpg')).toEqual({ size: [200, 300], said: [200, 300], red: ['top'] });
  const before = await sharp(join(drive, 'kite.jpg'), { autoOrient: false }).raw().toBuffer();
  const { title, photos } = await turn('right');
  // A GIF has no word for it.
  expect([title, photos]).toEqual(['Turn to the right: 2 photos', 2]);
  expect(await seen('kite.jpg')).toEqual({ size: [300, 200], said: [300, 200], red: ['right'] });
  expect(await seen('flat.png')).toEqual({ size: [200, 300], said: [200, 300], red: ['top'] });
  expect((await seen('moving.gif')).red).toEqual(['left']);
  expect(await world.services.search.all.count('shape:portrait')).toBe(1);

  await write();
  expect([await orientationIn('kite.jpg'), await orientationIn('flat.png')]).toEqual([3, 6]);
  expect(Buffer.compare(await sharp(join(drive, 'kite.jpg')).raw().toBuffer(), before)).toBe(0);

  await world.services.ledger.undo(world.keeperId);
  expect(await seen('kite.jpg')).toEqual({ size: [200, 300], said: [200, 300], red: ['top'] });
  await write();
  expect(await orientationIn('kite.jpg')).toBe(6);
});

test('to show a picture as it is stored is a word of its own, also where the file says nothing else', async () => {
  await turn('stored', 'kind:jpeg');
  expect(await seen('kite.jpg')).toMatchObject({ size: [300, 200], red: ['left'] });
  await write();
  expect(await orientationIn('kite.jpg')).toBe(1);
  await world.services.jobs.find((await world.takeIn(drive)).id);
  expect(await seen('kite.jpg')).toMatchObject({ said: [300, 200], red: ['left'] });
});

test('boxes of faces follow, also when another program has turned the file', async () => {
  const { id } = await photoNamed('flat.png');
  await world.apply({
    kind: 'drawFace',
    photoId: id,
    box: { left: 0.1, top: 0.2, width: 0.2, height: 0.4 },
    who: null,
  });
  const box = async () => {
    const row = await world.services.database.row<Record<'l' | 't' | 'w' | 'h', number>>(
      'select box_left as l, box_top as t, box_width as w, box_height as h from face where photo_id = $1',
      [id],
    );
    return [row?.l, row?.t, row?.w, row?.h].map((part) => Math.round((part ?? 0) * 1000) / 1000);
  };
  const turned: [TurnWay, number[]][] = [
    ['right', [0.4, 0.1, 0.4, 0.2]],
    ['over', [0.2, 0.7, 0.4, 0.2]],
    ['right', [0.1, 0.2, 0.2, 0.4]],
  ];
  for (const [way, wanted] of turned) {
    await turn(way, 'kind:png');
    expect(await box()).toEqual(wanted);
  }
  await write();
  await putFiles(drive, {
    'new.png': await sharp(join(drive, 'flat.png')).withMetadata({ orientation: 6 }).png().toBuffer(),
  });
  await rename(join(drive, 'new.png'), join(drive, 'flat.png'));
  await world.takeIn(drive);
  expect(await box()).toEqual([0.4, 0.1, 0.4, 0.2]);
  expect(await seen('flat.png')).toEqual({ size: [200, 300], said: [200, 300], red: ['top'] });
});

test('while a drive is away its pictures are turned, and written when it is back', async () => {
  const shelf = await world.unplug(drive);
  await turn('left', 'kind:jpeg');
  expect(await seen('kite.jpg')).toEqual({ size: [300, 200], said: [300, 200], red: ['left'] });
  await world.plugIn(shelf, 'Vault');
  await write();
  expect(await orientationIn('kite.jpg')).toBe(1);
});
