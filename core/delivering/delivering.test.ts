import fc from 'fast-check';
import { nameProblem } from '../filing/names';
import { newTerm } from '../vocabulary/term';
import { TermTree } from '../vocabulary/tree';
import { copyMetadata, type MetadataPolicy, type SaidOfPhoto } from './metadata';
import { copyNaming, sidecarOf, uniqueNames, type Naming } from './names';
import { copySize, type SizingKind } from './sizing';
import { COPY_PLACEHOLDERS, type CopyNameFacts } from './placeholders';

const PHOTO = { width: 6000, height: 4000 };
const sized = (by: SizingKind, value: number, more = {}) =>
  copySize(PHOTO, { by, value, height: 1000, enlarge: false, ...more });

describe('the size of a copy', () => {
  test.each([
    ['whole', 1, { width: 6000, height: 4000 }],
    ['long', 2400, { width: 2400, height: 1600 }],
    ['short', 1000, { width: 1500, height: 1000 }],
    ['box', 1200, { width: 1200, height: 800 }],
    ['megapixels', 6, { width: 3000, height: 2000 }],
    ['percent', 25, { width: 1500, height: 1000 }],
  ] as const)('by %s', (by, value, size) => {
    expect(sized(by, value)).toEqual(size);
  });

  test('a smaller picture is enlarged only where that is asked for', () => {
    expect(sized('long', 9000)).toEqual(PHOTO);
    expect(sized('long', 9000, { enlarge: true })).toEqual({ width: 9000, height: 6000 });
  });

  test('there is at least one pixel each way', () => {
    expect(copySize({ width: 10_000, height: 1 }, { by: 'long', value: 10, height: 1, enlarge: false })).toEqual({
      width: 10,
      height: 1,
    });
  });
});

const FACTS: CopyNameFacts = {
  id: 7,
  name: 'DSC_1',
  takenAt: '2024-07-05T10:20:30',
  camera: 'X',
  folder: 'July',
  folders: 'Festivals/July',
  number: 3,
  title: 'Up / away',
  headline: '',
  event: 'Kite day',
  city: 'Saltmarsh',
  drive: 'Vault',
  preset: 'Web',
  recipient: 'Ida',
};
const named = (naming: Partial<Naming>, facts: Partial<CopyNameFacts> = {}) => {
  const name = copyNaming({ name: '{name}', folders: 'flat', folderPattern: '', ...naming });
  if (typeof name !== 'function') throw new Error(name.problem);
  const made = name({ ...FACTS, ...facts });
  return made.ok ? made.path : `! ${made.problem}`;
};

describe('names of copies', () => {
  test('patterns take what a photo and the delivery say; folders are flat, mirrored or by a pattern', () => {
    expect(named({ name: '{recipient}_{number:3}_{title}' })).toBe('Ida_003_Up - away');
    expect(named({ folders: 'mirror' })).toBe('Festivals/July/DSC_1');
    expect(named({ folders: 'pattern', folderPattern: '{year}/{event}' })).toBe('2024/Kite day/DSC_1');
    expect(copyNaming({ name: '{nonsense}', folders: 'flat', folderPattern: '' })).toMatchObject({
      problem: expect.stringContaining('nonsense') as string,
    });
  });

  test('whatever photos say, a name never leads out of the folder, nor is one that a file system refuses', () => {
    const facts = fc.record({
      title: fc.string({ unit: 'binary' }),
      event: fc.constantFrom('..', '../../etc', '/root', 'C:\\x', 'con', 'a\nb', '.', ' ', 'x'.repeat(900)),
      folders: fc.constantFrom('..', '../..', 'a/../../b', './x', '/abs', 'ok/fine'),
    });
    fc.assert(
      fc.property(facts, fc.constantFrom('flat', 'mirror', 'pattern' as const), (some, folders) => {
        const path = named({ name: '{title}-{event}', folders, folderPattern: '{event}/{title}' } as Naming, some);
        if (path.startsWith('! ')) return;
        for (const part of path.split('/')) {
          expect(nameProblem(part)).toBeUndefined();
        }
      }),
    );
  });

  test('every placeholder has a value for any photo', () => {
    for (const { value } of Object.values(COPY_PLACEHOLDERS)) expect(value(FACTS, 1)).not.toBe('');
  });

  test('names that file systems take for one get numbers, and so do those that stand there', () => {
    const unique = uniqueNames((path) => path === 'b.jpg');
    expect(['a.jpg', 'A.jpg', 'a.jpg', 'x/a.jpg', 'b.jpg'].map(unique)).toEqual([
      'a.jpg',
      'A-2.jpg',
      'a-3.jpg',
      'x/a.jpg',
      'b-2.jpg',
    ]);
    expect(sidecarOf('x.y/a.b.jpg')).toBe('x.y/a.b.xmp');
    const withSidecars = uniqueNames(undefined, (path) => [sidecarOf(path)]);
    expect(['a.raw', 'a.jpg', 'b.jpg'].map(withSidecars)).toEqual(['a.raw', 'a-2.jpg', 'b.jpg']);
  });
});

const TREE = new TermTree([
  newTerm({ id: 1, label: 'Kites', vocabularyId: 1 }),
  newTerm({
    id: 2,
    parentId: 1,
    label: 'Delta',
    uri: 'https://kites.example/delta',
    otherLabels: [{ kind: 'preferred', language: 'de', label: 'Deltadrachen' }],
  }),
]);
const SAID: SaidOfPhoto = {
  fields: {
    title: { 'x-default': 'Morning', de: 'Morgen' },
    creator: ['Tomas Rehak'],
    copyrightNotice: { 'x-default': '© Museum' },
    position: { latitude: 53.5, longitude: 8.1 },
    personInImage: ['Ida Brandt', 'Emil Stork'],
    locationShown: [{ City: 'Saltmarsh', GPSLatitude: 53.5, GPSLongitude: 8.1 }],
    regions: { RegionList: [{ Name: 'Emil Stork' }, { Name: 'Ida Brandt' }] },
    custom: [{ Name: 'Shelf', Value: ['B 12'] }],
  },
  freeKeywords: ['beach'],
  termKeywords: ['Delta', 'Kites'],
  termIds: [2],
  rating: 4,
  mark: 'Checked',
};
const POLICY: MetadataPolicy = {
  what: 'all',
  fields: [],
  position: true,
  people: true,
  terms: 'asWritten',
  language: '',
};
const says = (policy: Partial<MetadataPolicy>, secret: string[] = []) =>
  copyMetadata(SAID, { ...POLICY, ...policy }, { tree: TREE, vocabularies: [] }, new Set(secret));

describe('what copies say', () => {
  test('all, but for what is about work in the archive', () => {
    const all = says({});
    expect(all).toMatchObject({ rating: 4, keywords: ['beach', 'Delta', 'Kites'], creator: ['Tomas Rehak'] });
    expect(Object.keys(all)).not.toEqual(expect.arrayContaining(['mark']));
    expect(Object.keys(all)).not.toEqual(expect.arrayContaining(['custom']));
  });

  test('chosen fields, contact and rights, or nothing', () => {
    expect(Object.keys(says({ what: 'fields', fields: ['title', 'rating'] }))).toEqual(['title', 'rating']);
    expect(Object.keys(says({ what: 'rights' })).sort()).toEqual(['copyrightNotice', 'creator']);
    expect(says({ what: 'none' })).toEqual({});
  });

  test('without positions none stands in named places either; without people no names and no faces', () => {
    const said = says({ position: false, people: false });
    expect(JSON.stringify(said)).not.toMatch(/53\.5|Brandt|Stork/);
    expect(said.locationShown).toEqual([{ City: 'Saltmarsh' }]);
  });

  test('of private persons neither name nor face, in no field and no keyword', () => {
    const said = says({}, ['emil stork', 'delta']);
    expect(JSON.stringify(said)).not.toMatch(/Stork|Delta/);
    expect(said.personInImage).toEqual(['Ida Brandt']);
    expect(said.regions).toEqual({ RegionList: [{ Name: 'Ida Brandt' }] });
  });

  test('terms as broad or narrow as wanted, in the language wanted', () => {
    expect(says({ terms: 'narrow' }).keywords).toEqual(['beach', 'Delta']);
    expect(says({ terms: 'narrow' }).keywordHierarchy).toBeUndefined();
    expect(says({ terms: 'broad', language: 'de' }).keywords).toEqual(['beach', 'Kites', 'Deltadrachen']);
    expect(says({ terms: 'none' }).keywords).toBeUndefined();
    expect(says({ language: 'de' }).title).toEqual({ 'x-default': 'Morgen' });
    expect(says({ language: 'fr' }).title).toEqual({ 'x-default': 'Morning' });
  });
});
