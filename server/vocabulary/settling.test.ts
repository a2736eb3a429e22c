import { join } from 'node:path';
import { textsOf } from '@stellin/core/metadata/values';
import { readMetadata } from '@stellin/core/metadata/read';
import { withSource } from '../files/source';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
let drive: string;
beforeEach(async () => {
  world = await openWorld();
  drive = await world.addDrive('Vault');
  await putFiles(drive, {
    '2019-06 Kite festival/a.jpg': await realJpeg({ keywords: ['rokaku', 'Strand', 'zzz'] }, 20),
    '2019-06 Kite festival/b.jpg': await realJpeg({ keywords: ['rokaku', 'Rokkaku', 'own'] }, 60),
    'c.jpg': await realJpeg({ keywords: ['Strand'] }, 100),
  });
  await world.takeIn(drive);
  await world.apply({
    kind: 'addTerms',
    parentId: null,
    terms: [
      { label: 'Kites', narrower: [{ label: 'Rokkaku' }] },
      { label: 'Beach', otherLabels: [{ kind: 'alternative', language: 'de', label: 'Strand' }] },
    ],
  });
});
afterEach(() => world.close());

const count = (query: string) => world.services.search.all.count(query);
const incoming = async () =>
  (await world.services.vocabulary.incoming({ source: 'keywords', levels: 1, limit: 1000 })).keywords;
const idOf = async (label: string) =>
  (await world.services.vocabulary.list()).find((term) => term.label === label)?.id ?? 0;

test('what is to be settled comes with counts, samples and the term it probably means', async () => {
  const [rokkaku, beach] = [await idOf('Rokkaku'), await idOf('Beach')];
  expect(
    (await incoming()).map(({ keyword, photos, samples, proposal }) => [
      keyword,
      photos,
      samples.length,
      proposal && { termId: proposal.term.id, why: proposal.why },
    ]),
  ).toEqual([
    ['Strand', 2, 2, { termId: beach, why: 'other language' }],
    ['rokaku', 2, 2, { termId: rokkaku, why: 'spelling' }],
    ['Rokkaku', 1, 1, { termId: rokkaku, why: 'label' }],
    ['own', 1, 1, null],
    ['zzz', 1, 1, null],
  ]);
});

test('one step makes terms, keeps and drops; the files follow; it is undone as one', async () => {
  const rokkaku = await idOf('Rokkaku');
  const entry = await world.apply({
    kind: 'settleKeywords',
    decisions: [
      { keyword: 'rokaku', decision: 'term', termId: rokkaku },
      { keyword: 'Rokkaku', decision: 'term', termId: rokkaku },
      { keyword: 'Strand', decision: 'new', label: 'Shore', parentId: null },
      { keyword: 'own', decision: 'keep' },
      { keyword: 'zzz', decision: 'drop' },
    ],
  });
  expect(entry).toMatchObject({ title: 'Settle 5 keywords: 3 photos', photos: 3 });
  expect(await incoming()).toEqual([]);
  expect(await count('term:Kites')).toBe(2);
  expect(await count('term:Shore')).toBe(2);
  expect(await count('keyword:own')).toBe(1);
  expect(await count('keyword:zzz or keyword:rokaku')).toBe(0);

  const job = await world.services.writeBack.run(world.services.jobs, { retryFailed: false }, world.keeperId);
  await world.until(job.id, ['done']);
  const keywordsOf = (path: string) =>
    textsOf(withSource(join(drive, path), (source) => readMetadata(source)).fields.keywords).sort();
  expect(keywordsOf('2019-06 Kite festival/a.jpg')).toEqual(['Kites', 'Rokkaku', 'Shore']);
  expect(keywordsOf('2019-06 Kite festival/b.jpg')).toEqual(['Kites', 'Rokkaku', 'own']);
  expect(keywordsOf('c.jpg')).toEqual(['Shore']);

  await world.services.ledger.undo(world.keeperId);
  expect((await incoming()).map(({ keyword }) => keyword).sort()).toEqual([
    'Rokkaku',
    'Strand',
    'own',
    'rokaku',
    'zzz',
  ]);
  expect(await count('term:Kites')).toBe(0);
  expect(await idOf('Shore')).toBe(0);
  const again = await world.services.writeBack.run(world.services.jobs, { retryFailed: false }, world.keeperId);
  await world.until(again.id, ['done']);
  expect(keywordsOf('2019-06 Kite festival/a.jpg')).toEqual(['Strand', 'rokaku', 'zzz']);
});

test('decisions hold for the next accession; those for this time only do not', async () => {
  const rokkaku = await idOf('Rokkaku');
  await world.apply({ kind: 'settleKeywords', decisions: [{ keyword: 'rokaku', decision: 'term', termId: rokkaku }] });
  await world.apply({ kind: 'settleKeywords', decisions: [{ keyword: 'zzz', decision: 'drop' }], remember: false });
  await putFiles(drive, { 'later/d.jpg': await realJpeg({ keywords: ['rokaku', 'zzz'] }, 140) });
  await world.takeIn(drive);
  expect(await count('name:d.jpg only:Rokkaku is:waiting')).toBe(1);
  expect(await count('name:d.jpg keyword:zzz')).toBe(1);
  expect(await count('name:d.jpg keyword:rokaku')).toBe(0);
});

test('a decision can be kept to one accession', async () => {
  await putFiles(drive, { 'later/d.jpg': await realJpeg({ keywords: ['Strand'] }, 140) });
  const job = await world.takeIn(drive);
  const accession = Number(job.result['accession']);
  expect(
    (await world.services.vocabulary.incoming({ source: 'keywords', levels: 1, limit: 1000, accession })).keywords,
  ).toMatchObject([{ keyword: 'Strand', photos: 1 }]);
  await world.apply({
    kind: 'settleKeywords',
    accession,
    remember: false,
    decisions: [{ keyword: 'Strand', decision: 'term', termId: await idOf('Beach') }],
  });
  expect(await count('term:Beach')).toBe(1);
  expect(await count('keyword:Strand')).toBe(2);
});

test('names of folders become terms of the photos in them, dates left out', async () => {
  const listed = await world.services.vocabulary.incoming({ source: 'folders', levels: 1, limit: 1000 });
  expect(listed.keywords).toMatchObject([{ keyword: 'Kite festival', photos: 2, proposal: null }]);
  await world.apply({
    kind: 'settleKeywords',
    source: 'folders',
    decisions: [{ keyword: 'Kite festival', decision: 'new', label: 'Kite festival', parentId: null }],
  });
  expect(await count('term:"Kite festival"')).toBe(2);
  expect((await world.services.vocabulary.incoming({ source: 'folders', levels: 1, limit: 1000 })).keywords).toEqual(
    [],
  );
});

test('a keyword that names somebody puts them into the photos, for files still to come too, and stays in the files', async () => {
  await world.apply({ kind: 'savePerson', personId: null, name: 'Ida Brandt' });
  await putFiles(drive, {
    'later/d.jpg': await realJpeg({ keywords: ['People|Ida Brandt', 'Tomas Rehak'] }, 140),
    'later/e.jpg': await realJpeg({ keywords: ['Idda Brandt'] }, 150),
  });
  await world.takeIn(drive);
  const { keywords } = await world.services.vocabulary.incoming({ source: 'keywords', levels: 1, limit: 1000 });
  const named = new Map(keywords.map(({ keyword, person }) => [keyword, person && [person.name, person.same]]));
  expect(['People|Ida Brandt', 'Idda Brandt', 'Tomas Rehak'].map((keyword) => named.get(keyword))).toEqual([
    ['Ida Brandt', true],
    ['Ida Brandt', false],
    null,
  ]);
  const personId = (await world.services.people.listPersons(PROGRAM))[0]?.id ?? 0;
  await world.apply({
    kind: 'settleKeywords',
    decisions: [
      { keyword: 'People|Ida Brandt', decision: 'person', who: { personId } },
      { keyword: 'Tomas Rehak', decision: 'person', who: { name: 'Tomas Rehak' } },
    ],
  });
  expect(await count('name:d.jpg person:"Ida Brandt" person:"Tomas Rehak" keyword:"Tomas Rehak"')).toBe(1);
  expect(await count('personInImage:"Ida Brandt" is:waiting')).toBe(1);
  await putFiles(drive, { 'later/f.jpg': await realJpeg({ keywords: ['Tomas Rehak'] }, 160) });
  await world.takeIn(drive);
  expect(await count('person:"Tomas Rehak"')).toBe(2);
  const after = await world.services.vocabulary.incoming({ source: 'keywords', levels: 1, limit: 1000 });
  expect(after.keywords.map(({ keyword }) => keyword)).not.toContain('Tomas Rehak');
  await world.services.ledger.undo(world.keeperId);
  expect(await count('name:d.jpg has:people')).toBe(0);
});

test('headings, unknown terms and labels that are taken are refused, and nothing changes', async () => {
  const settle = (decision: object) =>
    world.apply({ kind: 'settleKeywords', decisions: [{ keyword: 'own', ...decision } as never] });
  await expect(settle({ decision: 'term', termId: 9999 })).rejects.toThrow('no such term');
  await expect(settle({ decision: 'new', label: 'Beach', parentId: null })).rejects.toThrow('stands there already');
  expect(await incoming()).toHaveLength(5);
});
