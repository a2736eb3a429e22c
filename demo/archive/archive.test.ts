import { existsSync, readFileSync } from 'node:fs';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createCanvas } from '@napi-rs/canvas';
import sharp from 'sharp';
import { memorySource } from '@stellin/core/metadata/bytes';
import { readMetadata } from '@stellin/core/metadata/read';
import { parseOutline, type OutlineTerm } from '@stellin/core/vocabulary/formats/indented';
import { places } from '@stellin/server/config';
import { readMarker } from '@stellin/server/drives/marker';
import { blocksOf, withBlocks } from './describe';
import { turned } from './development';
import { exifBlock } from './exifBlock';
import { KITE_KINDS, kiteSvg, paletteOf } from './kites';
import { makeDrive, readManifest } from './make';
import { paintPhoto } from './paint';
import { DRIVES, PEOPLE, planArchive, type ArchivePlan, type Mess, type PlannedPhoto } from './plan';
import { randomOf } from './random';

const plan = planArchive();
const ofMess = (mess: Mess): PlannedPhoto => {
  const photo = plan.photos.find(
    (candidate) => candidate.mess === mess && candidate.format === 'jpeg' && candidate.caption,
  );
  if (!photo) throw new Error(`no photo is described so: ${mess}`);
  return photo;
};
const plain = sharp({ create: { width: 32, height: 24, channels: 3, background: 'teal' } });

async function readBack(photo: PlannedPhoto) {
  const blocks = blocksOf(photo, [{ person: 'p01', x: 0.2, y: 0.1, w: 0.1, h: 0.2 }]);
  return readMetadata(memorySource(withBlocks(await plain.clone().jpeg().toBuffer(), blocks)), blocks.sidecar);
}

describe('the plan', () => {
  test('is the same every time, about 700 photos on all drives, no two at one place', () => {
    expect(planArchive()).toEqual(plan);
    expect(plan.photos.length).toBeGreaterThan(650);
    const places = [...plan.photos, ...plan.copies, ...plan.broken].map(({ drive, path }) => `${drive}/${path}`);
    expect(new Set(places).size).toBe(places.length);
    expect(new Set(plan.photos.map(({ drive }) => drive))).toEqual(new Set(DRIVES));
  });

  test('has the variety and the mess that docs/demo.md tells of', () => {
    const messes = new Set(plan.photos.map(({ mess }) => mess));
    for (const mess of [
      'nothing',
      'iimLatin1',
      'xmpOnly',
      'both',
      'disagree',
      'iimNewer',
      'oldFields',
      'sidecar',
      'regions',
    ])
      expect(messes).toContain(mess);
    expect(new Set(plan.photos.map(({ orientation }) => orientation))).toEqual(new Set([1, 3, 6, 8]));
    expect(new Set(plan.photos.flatMap(({ kites }) => kites))).toEqual(new Set(KITE_KINDS));
    expect(new Set(plan.photos.flatMap(({ people }) => people))).toEqual(new Set(Object.keys(PEOPLE)));
    for (const look of ['blurred', 'dark', 'scan']) expect(plan.photos.some((photo) => photo.look === look)).toBe(true);
    expect(plan.photos.some(({ width, height }) => Math.max(width, height) === 6000)).toBe(true);
    const keywords = new Set(plan.photos.flatMap((photo) => photo.keywords));
    for (const spelling of ['Rokkaku', 'rokaku', 'Rokakku', 'Strand', 'Country|Norland'])
      expect(keywords).toContain(spelling);
  });

  test('names only terms that the vocabulary has, which has about 250 in five levels', () => {
    const { terms, errors } = parseOutline(readFileSync(join(__dirname, '..', 'vocabulary.txt'), 'utf8'));
    expect(errors).toEqual([]);
    const labels = new Set<string>();
    let deepest = 0;
    const visit = (list: OutlineTerm[], level: number) => {
      for (const term of list) {
        if (!term.heading) labels.add(term.label);
        deepest = Math.max(deepest, level);
        visit(term.narrower, level + 1);
      }
    };
    visit(terms, 1);
    expect(deepest).toBe(5);
    expect(labels.size).toBeGreaterThan(240);
    for (const term of new Set(plan.photos.flatMap((photo) => photo.terms))) expect(labels).toContain(term);
  });
});

describe('what the files say', () => {
  test.each(['iimLatin1', 'xmpOnly', 'both', 'sidecar'] as const)(
    '%s: caption and keywords are read as they were meant',
    async (mess) => {
      const photo = mess === 'sidecar' ? { ...ofMess('xmpOnly'), mess } : ofMess(mess);
      const { fields, issues } = await readBack({
        ...photo,
        keywords: ['für Web', 'Rokkaku'],
        caption: 'Mit Björn Askel',
      });
      expect(issues).toEqual([]);
      expect(fields).toMatchObject({ description: 'Mit Björn Askel', keywords: ['für Web', 'Rokkaku'] });
    },
  );

  test('blocks that disagree are noticed, and a stale digest lets IIM win', async () => {
    expect((await readBack(ofMess('disagree'))).disagreements).toEqual(expect.arrayContaining(['description']));
    expect((await readBack(ofMess('iimNewer'))).fields.description).toContain('mended at the picture desk');
  });

  test('captions in old fields are found where they stand', async () => {
    const photo = ofMess('oldFields');
    const { fields, blocks } = await readBack(photo);
    expect(blocks.exif?.description).toBe(photo.caption);
    expect(fields.headline).toBe(photo.caption.slice(0, 120));
  });

  test('face regions of another program stand in the packet beside the names', async () => {
    const photo = { ...ofMess('regions'), people: ['p20'] };
    expect((await readBack(photo)).fields.personInImage).toEqual(['Björn Askel']);
    expect(new TextDecoder().decode(blocksOf(photo, [{ person: 'p20', x: 0, y: 0, w: 0.5, h: 0.5 }]).xmp)).toContain(
      'reg:Name="Björn Askel"',
    );
  });

  test('EXIF is what the camera knew, with the error of its clock', async () => {
    const block = exifBlock({
      make: 'Corvina',
      model: 'Corvina R2',
      lens: 'a lens',
      takenAt: '2019-06-15T10:20:30',
      orientation: 6,
      exposure: { seconds: [1, 500], fNumber: [56, 10], iso: 200, focalLength: 35 },
      position: { latitude: -53.5, longitude: 7.25 },
      artist: 'Ida Brandt',
    });
    const { facts, blocks } = readMetadata(
      memorySource(withBlocks(await plain.clone().jpeg().toBuffer(), { exif: block })),
    );
    expect(facts).toEqual({
      make: 'Corvina',
      model: 'Corvina R2',
      lens: 'a lens',
      takenAt: '2019-06-15T10:20:30',
      orientation: 6,
      exposureTime: 1 / 500,
      fNumber: 5.6,
      iso: 200,
      focalLength: 35,
      latitude: -53.5,
      longitude: 7.25,
      bitDepth: 8,
      colour: 'rgb',
    });
    expect(blocks.exif).toEqual({
      creator: ['Ida Brandt'],
      dateCreated: '2019-06-15T10:20:30',
      orientation: 6,
      position: { latitude: -53.5, longitude: 7.25 },
    });
    const late = plan.photos.find(({ camera }) => camera?.clockOff === 3600 && camera);
    if (!late) throw new Error('no camera is an hour ahead');
    const clock = (await readBack(late)).facts.takenAt ?? '';
    expect((Date.parse(`${clock}Z`) - Date.parse(`${late.takenAt}Z`)) / 1000).toBe(3600);
  });

  test.each(['tiff', 'png'] as const)('XMP in a %s is read', async (format) => {
    const { xmp } = blocksOf({ ...ofMess('xmpOnly'), caption: 'In another container' }, []);
    const described = plain.clone().withXmp(new TextDecoder().decode(xmp));
    const bytes = await (format === 'tiff' ? described.tiff() : described.png()).toBuffer();
    const metadata = readMetadata(memorySource(bytes));
    expect(metadata).toMatchObject({
      kind: format,
      width: 32,
      height: 24,
      damaged: false,
      fields: { description: 'In another container' },
    });
    const cut = readMetadata(memorySource(bytes.subarray(0, 20)));
    expect(cut.damaged).toBe(true);
  });
});

describe('the pictures', () => {
  const small = (photo: PlannedPhoto): PlannedPhoto => ({
    ...photo,
    width: Math.round(photo.width / 4),
    height: Math.round(photo.height / 4),
  });

  test('the same plan gives the same picture, and tells where the faces are', async () => {
    const photo = plan.photos.find(({ people, distance }) => people.length === 2 && distance === 'near');
    if (!photo) throw new Error('no photo shows two persons');
    const [first, second] = await Promise.all([paintPhoto(small(photo)), paintPhoto(small(photo))]);
    expect(first.canvas.toBuffer('image/png').equals(second.canvas.toBuffer('image/png'))).toBe(true);
    expect(first.faces.map(({ person }) => person)).toEqual(photo.people);
  });

  test('people are as large as people are from there, and their faces are inside the picture', async () => {
    const heights: Record<PlannedPhoto['distance'], number[]> = { near: [], middle: [], far: [] };
    const some = plan.photos.filter(
      ({ people, setting }, i) => people.length > 0 && setting.kind !== 'paper' && i % 9 === 0,
    );
    for (const photo of some) {
      const { faces } = await paintPhoto(small(photo));
      expect(faces).toHaveLength(photo.people.length);
      for (const { x, y, w, h } of faces) {
        expect(Math.min(x, y, 1 - x - w, 1 - y - h)).toBeGreaterThanOrEqual(0);
        if (photo.setting.kind === 'outdoors') heights[photo.distance].push(h);
      }
    }
    expect(Math.max(...heights.near)).toBeLessThan(0.3);
    expect(Math.max(...heights.middle)).toBeLessThan(0.14);
    expect(Math.min(...heights.middle)).toBeGreaterThan(0.03);
    expect(Math.max(...heights.far)).toBeLessThan(Math.min(...heights.near));
  });

  test('a picture is developed: a print is grey on warm paper, a dark frame is dark', async () => {
    const meanOf = async (look: PlannedPhoto['look']) => {
      const photo = plan.photos.find((candidate) => candidate.look === look && candidate.setting.kind === 'outdoors');
      if (!photo) throw new Error(`no photo looks so: ${look}`);
      const { channels } = await sharp((await paintPhoto(small(photo))).canvas.toBuffer('image/png')).stats();
      return channels.map(({ mean }) => mean);
    };
    const [print, dark, colour] = [await meanOf('scan'), await meanOf('dark'), await meanOf('colour')];
    expect(print[0]).toBeGreaterThan((print[2] ?? 0) + 8);
    expect(dark[1]).toBeLessThan((colour[1] ?? 0) / 2);
  });

  test.each([
    [1, 60, 40],
    [3, 60, 40],
    [6, 40, 60],
    [8, 40, 60],
  ] as const)('with orientation %i it is stored turned, %i wide and %i high', (orientation, width, height) => {
    const stored = turned(createCanvas(60, 40), orientation);
    expect([stored.width, stored.height]).toEqual([width, height]);
  });

  test.each(KITE_KINDS)('a %s can be drawn', async (kind) => {
    const random = randomOf(kind);
    const { channels } = await sharp(Buffer.from(kiteSvg(kind, paletteOf(random), random, 150))).stats();
    expect(channels[3]?.mean).toBeGreaterThan(5);
  });
});

describe('making drives', () => {
  let home: string;
  beforeEach(async () => (home = await mkdtemp(join(tmpdir(), 'stellin-archive-'))));
  afterEach(() => rm(home, { recursive: true, force: true }));
  const tiny: ArchivePlan = {
    photos: plan.photos
      .filter(({ drive, format }) => drive === 'Camera card A' && format === 'jpeg')
      .slice(0, 3)
      .map((photo) => ({ ...photo, width: 240, height: 160 })),
    copies: [],
    broken: [{ drive: 'Camera card A', path: 'DCIM/empty.jpg', of: undefined }],
  };
  const [original] = tiny.photos;
  if (!original) throw new Error('the card has no photos');
  const making = { progress: () => undefined, isStopped: () => false };

  test('a drive is on the shelf as a whole, and then in the manifest; made again it stays as it is', async () => {
    const withCopy: ArchivePlan = {
      ...tiny,
      copies: [{ drive: 'Camera card A', path: 'DCIM/copy.jpg', of: original }],
    };
    await makeDrive(home, withCopy, 'Camera card A', making);
    const folder = join(places.shelf(home), 'camera-card-a');
    expect(await readMarker(folder)).toMatchObject({ label: 'Camera card A' });
    expect((await readManifest(home)).photos.map(({ path }) => path)).toEqual(tiny.photos.map(({ path }) => path));
    expect(await readFile(join(folder, 'DCIM/copy.jpg'))).toEqual(await readFile(join(folder, original.path)));
    await writeFile(join(folder, 'mine.txt'), 'put there later');
    await makeDrive(home, withCopy, 'Camera card A', making);
    expect(await readFile(join(folder, 'mine.txt'), 'utf8')).toBe('put there later');
  });

  test('stopped half-way nothing is on the shelf, and the next try makes it whole', async () => {
    await expect(makeDrive(home, tiny, 'Camera card A', { ...making, isStopped: () => true })).rejects.toThrow(
      'stopped',
    );
    expect(existsSync(join(places.shelf(home), 'camera-card-a'))).toBe(false);
    expect((await readManifest(home)).drives).toEqual([]);
    await makeDrive(home, tiny, 'Camera card A', making);
    expect((await readManifest(home)).drives).toEqual(['Camera card A']);
  });
});
