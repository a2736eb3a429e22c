import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { memorySource } from '@stellin/core/metadata/bytes';
import { readMetadata } from '@stellin/core/metadata/read';
import { overlap } from '@stellin/core/people/boxes';
import { regionBoxes } from '@stellin/core/people/regions';
import { written } from '@stellin/core/metadata/testing';
import type { FieldChanges } from '@stellin/core/metadata/write';
import { places } from '../config';
import type { Person } from '../catalogue/viewer';
import { openWorld, putFiles, startWorker, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
let drive: string;
let keeper: Person;
beforeEach(async () => {
  world = await openWorld();
  keeper = await world.services.rights.personOf(world.keeperId);
  drive = await world.addDrive('Vault');
});
afterEach(() => world.close());

const PORTRAITS = join(__dirname, '..', '..', 'demo', 'portraits');
const HEIGHT = 360;

/** A JPEG of some portraits side by side, described as wanted; with `turned` its pixels lie as a camera held upright stores them. */
async function picture(
  shots: readonly string[],
  { changes = {}, turned = false }: { changes?: FieldChanges; turned?: boolean } = {},
) {
  const parts = await Promise.all(
    shots.map((shot) =>
      sharp(join(PORTRAITS, `${shot}.webp`))
        .resize({ height: HEIGHT })
        .png()
        .toBuffer(),
    ),
  );
  const widths = await Promise.all(parts.map(async (part) => (await sharp(part).metadata()).width));
  const lefts = widths.map((_, i) => widths.slice(0, i).reduce((sum, width) => sum + width, 0));
  const width = widths.reduce((sum, each) => sum + each, 0);
  const upright = await sharp({ create: { width, height: HEIGHT, channels: 3, background: '#9fb8c4' } })
    .composite(parts.map((input, i) => ({ input, left: lefts[i] ?? 0, top: 0 })))
    .png()
    .toBuffer();
  // Orientation 6: seen upright when turned a quarter clockwise.
  const jpeg = turned
    ? await sharp(upright).rotate(270).withMetadata({ orientation: 6 }).jpeg({ quality: 92 }).toBuffer()
    : await sharp(upright).jpeg({ quality: 92 }).toBuffer();
  return Object.keys(changes).length > 0 ? written(jpeg, changes) : jpeg;
}

async function look() {
  await world.services.scanning.start(world.keeperId);
  const job = (await world.services.jobs.list()).find(({ title }) => title === 'Look for faces');
  const { result } = await world.until(job?.id ?? '', ['done']);
  const { looked, waiting } = await world.services.scanning.state();
  return { ...result, looked, waiting, problems: await world.services.jobs.failures(job?.id ?? '') };
}

const groups = () => world.services.people.groups({ strictness: 'close', offset: 0, limit: 50 });
const persons = async () =>
  new Map((await world.services.people.listPersons(PROGRAM)).map((person) => [person.name, person]));
const count = (query: string) => world.services.search.all.count(query);
const fieldsOf = async (name: string) => {
  const id = (await world.ids()).get(name) ?? 0;
  return (await world.services.photos.find(PROGRAM, id)).fields;
};

test('faces are found, gather by person, are named as a group, stand in the files, and all of it is undone', async () => {
  await putFiles(drive, {
    'a.jpg': await picture(['p01/s01', 'p02/s01']),
    'b.jpg': await picture(['p02/s02', 'p01/s02'], { turned: true }),
    'c.jpg': await picture(['p01/s03']),
    'none.jpg': await sharp({ create: { width: 400, height: 300, channels: 3, background: '#456' } })
      .jpeg()
      .toBuffer(),
  });
  await world.takeIn(drive);
  expect(await look()).toEqual({ faces: 5, looked: 4, waiting: 0, problems: [] });
  const found = await groups();
  expect([found.total, found.groups.map(({ faceIds }) => faceIds.length)]).toEqual([2, [3, 2]]);
  const [first, second] = found.groups;
  expect(new Set(first?.faces.map(({ photoName }) => photoName))).toEqual(new Set(['a.jpg', 'b.jpg', 'c.jpg']));
  expect(first?.guess).toBeNull();

  await world.apply({ kind: 'nameFaces', faceIds: first?.faceIds ?? [], who: { name: 'Ida Brandt' } });
  expect([await count('person:"Ida Brandt"'), await count('unnamed:>0'), await count('faces:2')]).toEqual([3, 2, 2]);
  expect((await fieldsOf('c.jpg'))['personInImage']).toEqual(['Ida Brandt']);
  await world.apply({ kind: 'nameFaces', faceIds: second?.faceIds ?? [], who: { name: 'Tomas Rehak' } });
  expect((await groups()).total).toBe(0);

  const { writeBack, jobs } = world.services;
  await world.until((await writeBack.run(jobs, { retryFailed: false }, world.keeperId)).id, ['done']);
  const bytes = await readFile(join(drive, 'b.jpg'));
  const { fields } = readMetadata(memorySource(bytes));
  expect(new Set(fields.personInImage as string[])).toEqual(new Set(['Ida Brandt', 'Tomas Rehak']));
  expect(fields.regions).toMatchObject({ AppliedToDimensions: { unit: 'pixel', w: HEIGHT } });
  const upright = await sharp(bytes).rotate().metadata();
  const boxes = regionBoxes(fields.regions, {
    orientation: 6,
    width: upright.autoOrient.width,
    height: upright.autoOrient.height,
  });
  const ida = boxes.find(({ name }) => name === 'Ida Brandt');
  expect([ida?.doubtful, (ida?.left ?? 0) > 0.5]).toEqual([false, true]);

  await world.services.ledger.undo(world.keeperId);
  await world.services.ledger.undo(world.keeperId);
  expect([await count('has:people'), (await groups()).total, (await persons()).size]).toEqual([0, 2, 0]);
});

test('photos that stand on their side are told by the faces in them, and turned upright in one step', async () => {
  const lying = async (degrees: number) =>
    sharp(await picture(['p01/s01', 'p02/s01']))
      .rotate(degrees)
      .jpeg({ quality: 92 })
      .toBuffer();
  await putFiles(drive, {
    'upright.jpg': await picture(['p01/s03']),
    // Turned by so much, the other way puts them upright.
    'left.jpg': await lying(270),
    'right.jpg': await lying(90),
    'none.jpg': await sharp({ create: { width: 400, height: 300, channels: 3, background: '#456' } })
      .jpeg()
      .toBuffer(),
  });
  await world.takeIn(drive);
  await look();
  expect(await count('is:sideways')).toBe(2);
  expect(await count('is:sideways name:upright*')).toBe(0);
  const { title, photos } = await world.apply({ kind: 'turnUpright', selection: { query: '' } });
  expect([title, photos]).toEqual(['Turn upright, as faces say: 2 photos', 2]);
  const orientations = await Promise.all(
    ['left.jpg', 'right.jpg'].map(async (name) => (await fieldsOf(name))['orientation']),
  );
  expect(orientations).toEqual([6, 8]);
  expect(await count('is:sideways')).toBe(0);
  // Faces that lay were seen badly: now they are looked for once more.
  expect((await world.services.scanning.state()).waiting).toBe(2);
  await world.services.ledger.undo(world.keeperId);
  expect(await fieldsOf('left.jpg')).not.toHaveProperty('orientation');
});

test('names and regions of files become persons once they are settled, and are recognised from then on', async () => {
  const region = (name: string, x: number) => ({
    Name: name,
    Type: 'Face',
    Area: { x, y: 0.35, w: 0.17, h: 0.42, unit: 'normalized' },
  });
  const regions = {
    AppliedToDimensions: { w: 680, h: 360, unit: 'pixel' },
    RegionList: [region('ida brandt', 0.25), region('A stranger', 0.75)],
  };
  await putFiles(drive, {
    'a.jpg': await picture(['p01/s01', 'p02/s01'], {
      changes: { regions, personInImage: ['ida brandt', 'A stranger'] },
    }),
    'far.jpg': await picture(['p03/s10'], { changes: { personInImage: ['Ida Brandt'] } }),
    'word.jpg': await picture(['p06/s01'], { changes: { keywords: ['Ida Brandt', 'Kites'] } }),
  });
  await world.takeIn(drive);
  await look();
  const names = await world.services.people.names();
  expect(names.map(({ name, photos }) => [name.toLowerCase(), photos])).toEqual([
    ['ida brandt', 2],
    ['a stranger', 1],
  ]);
  await world.apply({
    kind: 'settleNames',
    decisions: [
      { name: 'ida brandt', who: { name: 'Ida Brandt' } },
      { name: 'A stranger', who: null },
    ],
  });
  expect(await world.services.people.names()).toEqual([]);
  const ida = (await persons()).get('Ida Brandt');
  expect([ida?.photos, ida?.faces]).toEqual([3, 1]);
  expect((await fieldsOf('word.jpg'))['personInImage']).toEqual(['Ida Brandt']);
  const fields = await fieldsOf('a.jpg');
  expect(fields['personInImage']).toEqual(['A stranger', 'Ida Brandt']);
  const named = regionBoxes(fields['regions'], { orientation: 1, width: 680, height: 360 });
  expect(named.map(({ name }) => name)).toEqual(['A stranger', 'Ida Brandt']);
  // The rectangle of another program stays where it fits.
  expect(
    overlap(named[1] ?? { left: 0, top: 0, width: 0, height: 0 }, {
      left: 0.165,
      top: 0.14,
      width: 0.17,
      height: 0.42,
    }),
  ).toBeGreaterThan(0.95);

  await putFiles(drive, { 'later.jpg': await picture(['p04/s10'], { changes: { personInImage: ['IDA BRANDT'] } }) });
  await world.takeIn(drive);
  expect((await persons()).get('Ida Brandt')?.photos).toBe(4);
});

test('refusals last, suggestions are asked one by one, persons merge, split, are renamed and kept private', async () => {
  await putFiles(drive, {
    '1.jpg': await picture(['p01/s01']),
    '2.jpg': await picture(['p01/s02']),
    '3.jpg': await picture(['p01/s03'], { changes: { dateCreated: '1950-06-01T10:00:00' } }),
    '4.jpg': await picture(['p05/s01']),
  });
  await world.takeIn(drive);
  await look();
  const { people, search, ledger } = world.services;
  const faces = new Map(
    (await people.ofSelection(PROGRAM, { query: '', minus: [], plus: [] })).faces.map((face) => [
      face.photoName,
      face.id,
    ]),
  );
  const face = (name: string) => faces.get(name) ?? 0;
  await world.apply({ kind: 'nameFaces', faceIds: [face('1.jpg')], who: { name: 'Ida' } });
  const ida = (await persons()).get('Ida')?.id ?? 0;
  expect((await people.show(PROGRAM, ida)).suggested.map(({ photoName }) => photoName).sort()).toEqual([
    '2.jpg',
    '3.jpg',
  ]);
  await world.apply({ kind: 'refuseFaces', faceIds: [face('2.jpg')], personId: ida });
  // What may be hers can be searched, too, and follows what is said meanwhile.
  await world.eventually(async () => (await count('suggested:Ida')) === 1);
  expect([await count('name:3.jpg suggested:Ida'), await count('confirmed:Ida')]).toEqual([1, 1]);
  await world.apply({ kind: 'savePerson', personId: ida, name: 'Ida', born: '1960~' });
  await world.eventually(async () => (await count('has:suggested')) === 0);
  expect((await people.show(PROGRAM, ida)).suggested).toEqual([]);
  await ledger.undo(world.keeperId);
  await world.eventually(async () => (await count('suggested:Ida')) === 1);
  const shown = await people.show(PROGRAM, ida);
  expect([shown.suggested.map(({ photoName }) => photoName), shown.refused.map(({ photoName }) => photoName)]).toEqual([
    ['3.jpg'],
    ['2.jpg'],
  ]);

  await world.apply({ kind: 'nameFaces', faceIds: [face('2.jpg'), face('4.jpg')], who: { name: 'Noor' } });
  const noor = (await persons()).get('Noor')?.id ?? 0;
  await world.apply({ kind: 'splitPerson', personId: noor, faceIds: [face('4.jpg')], name: 'Greta' });
  await world.apply({ kind: 'saveSearch', name: 'Noor alone', query: 'person:Noor', sort: 'taken' });
  await world.apply({ kind: 'mergePersons', personIds: [noor], intoId: ida });
  expect([...(await persons()).values()].map(({ name, otherNames, photos }) => [name, otherNames, photos])).toEqual([
    ['Greta', [], 1],
    ['Ida', ['Noor'], 2],
  ]);
  expect([await count('person:Noor'), await count('person:Ida'), await search.all.list()]).toMatchObject([
    2,
    2,
    [{ query: 'person:Ida' }],
  ]);
  expect((await fieldsOf('2.jpg'))['personInImage']).toEqual(['Ida']);

  const entry = (await persons()).get('Ida');
  await world.apply({
    kind: 'savePerson',
    personId: ida,
    name: 'Ida Brandt',
    otherNames: entry?.otherNames ?? [],
    born: '1932~',
  });
  expect((await fieldsOf('2.jpg'))['personInImage']).toEqual(['Ida Brandt']);
  const told = { kind: 'savePerson', personId: ida, name: 'Ida Brandt', note: 'Kite maker' } as const;
  await world.apply({ ...told, detailed: true });
  expect((await fieldsOf('2.jpg'))['personInImageDetails']).toEqual([
    { PersonName: { 'x-default': 'Ida Brandt' }, PersonDescription: { 'x-default': 'Kite maker' } },
  ]);
  await world.apply({ ...told, detailed: false });
  expect((await fieldsOf('2.jpg'))['personInImageDetails']).toBeUndefined();
  for (let i = 0; i < 2; i++) await ledger.undo(world.keeperId);
  await world.apply({ kind: 'savePerson', personId: ida, name: 'Ida Brandt', private: true });
  expect([(await fieldsOf('2.jpg'))['personInImage'], await count('person:"Ida Brandt"')]).toEqual([undefined, 2]);
  await expect(world.apply({ kind: 'savePerson', personId: ida, name: 'greta' })).rejects.toThrow(
    'There is a person called',
  );
  for (let i = 0; i < 3; i++) await ledger.undo(world.keeperId);
  expect([[...(await persons()).keys()], await count('person:Noor')]).toEqual([['Greta', 'Ida', 'Noor'], 1]);
});

test('a face is drawn, moved and removed; somebody is in a photo without one; like faces are found', async () => {
  await putFiles(drive, {
    'a.jpg': await picture(['p01/s01']),
    'b.jpg': await picture(['p01/s04']),
    'back.jpg': await picture(['p02/s01']),
  });
  await world.takeIn(drive);
  await look();
  const ids = await world.ids();
  const { people } = world.services;
  const photoId = ids.get('back.jpg') ?? 0;
  await world.apply({
    kind: 'drawFace',
    photoId,
    box: { left: 0.7, top: 0.1, width: 0.2, height: 0.2 },
    who: { name: 'Somebody' },
  });
  const drawn = (await people.ofPhoto(keeper, photoId)).faces.find((face) => face.drawn);
  expect(drawn).toMatchObject({ state: 'named', person: { name: 'Somebody' } });
  await world.apply({
    kind: 'moveFace',
    faceId: drawn?.id ?? 0,
    box: { left: 0.6, top: 0.6, width: 0.9, height: 0.2 },
  });
  expect((await people.ofPhoto(keeper, photoId)).faces.find((face) => face.drawn)?.box.width).toBeCloseTo(0.4);
  await world.apply({ kind: 'setFaces', faceIds: [drawn?.id ?? 0], state: 'removed' });
  expect((await people.ofPhoto(keeper, photoId)).faces.some((face) => face.drawn)).toBe(false);
  expect(await count('person:Somebody')).toBe(0);
  await world.apply({ kind: 'namePhotos', selection: { query: null, plus: [photoId] }, who: { name: 'Somebody' } });
  expect([(await people.ofPhoto(keeper, photoId)).persons, await count('person:Somebody')]).toMatchObject([
    [{ name: 'Somebody' }],
    1,
  ]);

  const [one] = (await people.ofPhoto(keeper, ids.get('a.jpg') ?? 0)).faces;
  const wanted = {
    smiling: false,
    eyesOpen: false,
    sharp: false,
    frontal: false,
    named: 'all' as const,
    limit: 10,
    strictness: 0.4,
  };
  const like = await people.findLike({ ...wanted, faceId: one?.id, query: '' });
  expect(like.map(({ photoName }) => photoName)).toEqual(['a.jpg', 'b.jpg']);
  const within = await people.findLike({
    ...wanted,
    picture: Buffer.from(await picture(['p01/s05'])).toString('base64'),
    query: 'name:b.jpg',
  });
  expect(within.map(({ photoName }) => photoName)).toEqual(['b.jpg']);
  await expect(people.findLike({ ...wanted, picture: 'AAAA', query: '' })).rejects.toThrow('No face can be seen there');

  const pictures = async () =>
    (await readdir(places.faces(world.config.home), { recursive: true })).filter((name) => name.endsWith('.webp'));
  expect((await pictures()).length).toBeGreaterThan(0);
  expect(await people.forget(null)).toBeGreaterThan(2);
  expect(await pictures()).toEqual([]);
  expect([(await groups()).faces, await count('faces:>0')]).toEqual([0, 0]);
});

test('a worker that is killed is taken up again; broken pictures and switched-off folders are left out', async () => {
  await putFiles(drive, {
    ...Object.fromEntries(
      await Promise.all(Array.from({ length: 9 }, async (_, i) => [`${i}.jpg`, await picture([`p0${i + 1}/s01`])])),
    ),
    'off/x.jpg': await picture(['p01/s02']),
    'broken.jpg': (await picture(['p01/s03'])).subarray(0, 900),
  });
  await world.takeIn(drive);
  const driveId = (await world.services.drives.list(PROGRAM))[0]?.id ?? '';
  await world.services.people.setException({ driveId, folder: 'off', off: true });
  await world.rest();
  await world.services.scanning.start(world.keeperId);
  const killed = startWorker(world, 'faces:batch');
  expect(await killed.ended).toBe('SIGKILL');
  const before = (await world.services.scanning.state()).looked;
  expect(before).toBeGreaterThan(0);
  await world.services.start();
  const job = (await world.services.jobs.list()).find(({ title }) => title === 'Look for faces');
  await world.until(job?.id ?? '', ['done']);
  const { faces, waiting, looked } = await world.services.scanning.state();
  expect([faces, waiting, looked >= 9]).toEqual([9, 0, true]);
});
