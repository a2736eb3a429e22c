import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { memorySource } from '@stellin/core/metadata/bytes';
import { readMetadata } from '@stellin/core/metadata/read';
import { parseOutline, type OutlineTerm } from '@stellin/core/vocabulary/formats/indented';
import { blocksOf, withBlocks } from './describe';
import { exifBlock } from './exifBlock';
import { KITE_KINDS, kiteSvg, paletteOf } from './kites';
import { paintPhoto } from './paint';
import { DRIVES, PEOPLE, planArchive, type Mess, type PlannedPhoto } from './plan';
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
    expect(new Set(plan.photos.map(({ drive }) => drive))).toEqual(new Set(DRIVES.map(({ label }) => label)));
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
  test('the same plan gives the same picture, and tells where the faces are', async () => {
    const photo = plan.photos.find(({ people, distant }) => people.length === 2 && !distant);
    if (!photo) throw new Error('no photo shows two persons');
    const small = { ...photo, width: 480, height: 320 };
    const [first, second] = await Promise.all([paintPhoto(small), paintPhoto(small)]);
    expect((await first.picture.raw().toBuffer()).equals(await second.picture.raw().toBuffer())).toBe(true);
    expect(first.faces.map(({ person }) => person)).toEqual(small.people);
    for (const { x, y, w, h } of first.faces) {
      expect(Math.min(w, h)).toBeGreaterThan(0.02);
      expect(x + w / 2).toBeGreaterThan(0);
      expect(y + h / 2).toBeLessThan(1);
    }
  });

  test.each(KITE_KINDS)('a %s can be drawn', async (kind) => {
    const random = randomOf(kind);
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="200" height="200">${kiteSvg({ kind, x: 100, y: 100, size: 150, rotation: 0, colours: paletteOf(random) }, random)}</svg>`;
    const { channels } = await sharp(Buffer.from(svg)).stats();
    expect(channels[3]?.mean).toBeGreaterThan(5);
  });
});
