import fc from 'fast-check';
import { parseNamePattern, type NameFacts } from './namePattern';
import { parseRenamePattern, type RenameFacts } from './renamePlaceholders';
import { nameParts, nameProblem, numberedName } from './names';

const facts: NameFacts = {
  name: 'SKM_0042',
  takenAt: '1998-07-05T14:03:09',
  camera: 'Corvina/7',
  folder: 'Kite festival',
  number: 7,
};
const filled = (pattern: string, of: Partial<NameFacts> = {}) => {
  const parsed = parseNamePattern(pattern);
  return parsed.ok ? parsed.fill({ ...facts, ...of }) : parsed.problem;
};

test('a name is divided at its last dot, numbered before it', () => {
  expect(nameParts('a.b.jpg')).toEqual({ base: 'a.b', extension: '.jpg' });
  expect(nameParts('.hidden')).toEqual({ base: '.hidden', extension: '' });
  expect(numberedName('a.b.jpg', 1)).toBe('a.b.jpg');
  expect(numberedName('a.b.jpg', 12)).toBe('a.b-12.jpg');
  expect(numberedName('plain', 2)).toBe('plain-2');
});

test.each([
  ['', 'empty'],
  ['  ', 'empty'],
  ['a/b.jpg', '“/”'],
  ['a?.jpg', '“?”'],
  ['a\u0007.jpg', 'control'],
  ['.jpg', 'hidden'],
  ['..', 'hidden'],
  ['end. ', 'end in'],
  ['CON.jpg', 'reserved'],
  [`${'ä'.repeat(130)}.jpg`, '255 bytes'],
])('the name %j is refused', (name, why) => expect(nameProblem(name)).toContain(why));

test('names people use are taken', () => {
  for (const name of ['a.jpg', 'Möwe & Drache (2).tif', 'construct.png', '日本.webp', '1998'])
    expect(nameProblem(name)).toBeUndefined();
});

test('patterns are filled', () => {
  expect(filled('{year}-{month}-{day}_{hour}{minute}{second}_{number:4}')).toBe('1998-07-05_140309_0007');
  expect(filled('{folder}/{name}-{camera}')).toBe('Kite festival/SKM_0042-Corvina-7');
  expect(filled('{year}', { takenAt: null })).toBe('unknown');
  expect(filled('{number}', { number: 1234 })).toBe('1234');
});

test.each([
  ['', 'empty'],
  ['{yaer}', 'no placeholder {yaer}'],
  ['a{name', 'brace'],
  ['{constructor}', 'no placeholder'],
])('the pattern %j is not understood', (pattern, why) => expect(filled(pattern)).toContain(why));

test('any text is a pattern or refused, and no filling divides folders', () => {
  fc.assert(
    fc.property(fc.string(), fc.string(), (pattern, name) => {
      const parsed = parseNamePattern(pattern);
      if (!parsed.ok) return parsed.problem !== '';
      const count = (text: string) => text.split('/').length;
      return count(parsed.fill({ ...facts, name, folder: name })) === count(pattern);
    }),
  );
});

const renamed = (pattern: string, of: Partial<RenameFacts> = {}) => {
  const parsed = parseRenamePattern(pattern);
  const said: RenameFacts = {
    ...facts,
    fields: {
      title: { 'x-default': 'Kites: over / the dunes?' },
      creator: ['Ida Brandt', 'Mara Olt'],
      jobId: '2019-04',
    },
    ...{ terms: ['Rokkaku', 'Beach'], people: 2, hash: '0123456789abcdef' },
    ...of,
  };
  return parsed.ok ? parsed.fill(said) : parsed.problem;
};

test('new names say what the catalogue says: fields, terms, how many persons, a part of the hash', () => {
  expect(renamed('{title}_{number:3}')).toBe('Kites- over - the dunes-_007');
  expect(renamed('{creator} {jobId} {term} {people}')).toBe('Ida Brandt 2019-04 Rokkaku 2');
  expect([renamed('{hash}'), renamed('{hash:4}')]).toEqual(['01234567', '0123']);
  expect(renamed('{city}-{term}-{hash}', { terms: [], hash: null })).toBe('unknown-unknown-unknown');
  expect(renamed('{titel}')).toMatch(/^there is no placeholder \{titel\}; there are name, .*all fields by name$/);
});

test('whatever a field says, a name made of it can be given to a file', () => {
  fc.assert(
    fc.property(fc.string(), (title) => {
      const name = `a${renamed('{title}', { fields: { title: { 'x-default': title } } })}.jpg`;
      expect([title, nameProblem(name)]).toEqual([title, undefined]);
    }),
  );
});
