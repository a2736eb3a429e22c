import { join } from 'node:path';
import { readFile } from 'node:fs/promises';
import { memorySource } from '@stellin/core/metadata/bytes';
import { readMetadata } from '@stellin/core/metadata/read';
import type { FieldValue, FieldValues } from '@stellin/core/metadata/fields';
import { description as descriptionSchema, saysOf } from '@stellin/contract/describing';
import { change as changeSchema } from '@stellin/contract/ledger';
import { selection as selectionSchema } from '@stellin/contract/photos';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
let drive: string;
const count = (query: string) => world.services.search.all.count(query);
const everything = { query: '' };

beforeEach(async () => {
  // Several previews at once, each of which takes its time.
  world = await openWorld({ connections: 5 });
  drive = await world.addDrive('Vault');
  await putFiles(drive, {
    'Festival/SKM_001.jpg': await realJpeg({
      title: 'Kite  festival',
      creator: ['Ida Brandt'],
      dateCreated: '1998-07-05T14:03:09',
    }),
    'Festival/SKM_002.jpg': await realJpeg({ title: 'Kite festival', city: 'Fenwick', keywords: ['kite'] }),
    'Beach/SKM_003.jpg': await realJpeg({ description: 'A kite , low over the sands' }),
  });
  await world.takeIn(drive);
});
afterEach(() => world.close());

async function fieldsOf(name: string): Promise<FieldValues> {
  const id = (await world.ids()).get(name) ?? 0;
  return (await world.services.photos.find(PROGRAM, id)).fields as FieldValues;
}

async function preview(given: object, query = '') {
  return world.services.describing.preview(
    {
      selection: selectionSchema.parse({ query }),
      description: descriptionSchema.parse(given),
      offset: 0,
      limit: 50,
    },
    await world.services.rights.personOf(world.keeperId),
  );
}

async function write() {
  const { id } = await world.services.writeBack.run(world.services.jobs, { retryFailed: false }, world.keeperId);
  await world.until(id, ['done']);
}

test('a field set on many photos is found at once, is one step that can be undone, and gets into the files', async () => {
  const { title, photos } = await world.apply({
    kind: 'setFields',
    selection: everything,
    edits: [{ target: 'city', mode: 'fill', value: 'Saltmarsh' }],
  });
  expect([title, photos]).toEqual(['Set “City”: 2 photos', 2]);
  expect(await count('city:Saltmarsh is:waiting')).toBe(2);
  expect(await count('has:location')).toBe(3);
  expect(await count('Saltmarsh')).toBe(2);
  // SQL must see what the index sees.
  await world.apply({ kind: 'setRating', selection: { query: 'city:Saltmarsh Saltmarsh place:Saltmarsh' }, rating: 3 });
  expect(await count('rating:3')).toBe(2);
  await world.services.ledger.undo(world.keeperId);
  await world.services.ledger.undo(world.keeperId);
  expect(await count('city:Saltmarsh')).toBe(0);
  expect(await count('is:waiting')).toBe(0);
  await world.services.ledger.redo(world.keeperId);
  await write();
  const { fields } = readMetadata(memorySource(await readFile(join(drive, 'Beach/SKM_003.jpg'))));
  expect(fields.city).toBe('Saltmarsh');
  expect(await count('city:Saltmarsh is:written')).toBe(2);
  // Reading the files again finds nothing to change.
  await world.takeIn(drive);
  expect(await count('city:Saltmarsh is:written')).toBe(2);
});

test('what would change nothing is refused, and so is what a field can’t take', async () => {
  const set = (value: FieldValue, target: 'countryCode' | 'dateCreated' | 'city') =>
    world.apply({ kind: 'setFields', selection: everything, edits: [{ target, mode: 'replace', value }] });
  await expect(set('Germany', 'countryCode')).rejects.toThrow('Country code: “Germany” is not two or three');
  await expect(set('1998-02-30', 'dateCreated')).rejects.toThrow('no date');
  await set('Saltmarsh', 'city');
  await expect(set(' Saltmarsh ', 'city')).rejects.toThrow('Nothing would change');
  const rated = {
    kind: 'setFields' as const,
    selection: everything,
    edits: [{ target: 'rating' as 'city', mode: 'replace' as const, value: 1 }],
  };
  expect(() => world.apply(rated)).toThrow('no such field');
});

test('the preview says of every photo what the change then does, and photos can be left out', async () => {
  const replace = {
    kind: 'replaceText',
    targets: ['title', 'description'],
    find: '\\b(k)ite',
    how: 'pattern',
    replace: '$1ite-shaped',
  };
  const shown = await preview(replace);
  expect(shown).toMatchObject({ problem: null, looked: 3, meant: 3, changing: 3, cuts: 0 });
  expect(shown.photos.map(({ name, fields }) => [name, fields[0]?.label, fields[0]?.after])).toEqual([
    ['SKM_001.jpg', 'Title', 'Kite-shaped  festival'],
    ['SKM_003.jpg', 'Description', 'A kite-shaped , low over the sands'],
    ['SKM_002.jpg', 'Title', 'Kite-shaped festival'],
  ]);
  const left = shown.photos.find(({ name }) => name === 'SKM_003.jpg')?.photoId ?? 0;
  const { kind, targets, ...rest } = replace;
  await world.apply({
    kind: kind as 'replaceText',
    targets: targets as ['title', 'description'],
    ...rest,
    how: 'pattern',
    selection: { query: '', minus: [left] },
  });
  expect((await fieldsOf('SKM_001.jpg')).title).toBe('Kite-shaped  festival');
  expect((await fieldsOf('SKM_003.jpg')).description).toBe('A kite , low over the sands');
  expect(await preview({ ...replace, find: '(' })).toMatchObject({
    problem: expect.stringContaining('no regular expression') as string,
  });
});

test('tidying, and capture times of one camera or by EDTF', async () => {
  await world.apply({
    kind: 'tidyText',
    selection: everything,
    targets: ['title', 'description'],
    rules: ['space', 'fullStop'],
  });
  expect((await fieldsOf('SKM_001.jpg')).title).toBe('Kite festival.');
  expect((await fieldsOf('SKM_003.jpg')).description).toBe('A kite, low over the sands.');

  await world.apply({ kind: 'changeTime', selection: everything, change: { how: 'shift', seconds: -3600 } });
  expect(await count('taken:1998-07-05T13:03')).toBe(1);
  await world.apply({
    kind: 'changeTime',
    selection: { query: 'name:SKM_003.jpg' },
    change: { how: 'date', date: '193X' },
  });
  expect(await count('taken:1935')).toBe(1);
  expect(await count('taken:1925')).toBe(0);
  await write();
  const { fields } = readMetadata(memorySource(await readFile(join(drive, 'Beach/SKM_003.jpg'))));
  expect(fields.dateUncertain).toBe('193X');
  await expect(
    world.apply({ kind: 'changeTime', selection: everything, change: { how: 'date', date: 'long ago' } }),
  ).rejects.toThrow('is no date');
});

test('a template fills placeholders and gives terms in one step, and keeps its versions', async () => {
  await world.apply({ kind: 'addTerms', parentId: null, terms: [{ label: 'Festivals' }] });
  const [term] = await world.services.vocabulary.list();
  const shape = {
    name: 'Festival',
    edits: [
      { target: 'headline' as const, mode: 'replace' as const, value: '{folder} {year}, {part:2}' },
      { target: 'jobId' as const, mode: 'fill' as const, value: 'SKM-{number:3}' },
      { target: 'custom:Roll' as const, mode: 'replace' as const, value: ['{match:\\d(\\d+)$}'] },
    ],
    termIds: [term?.id ?? 0],
  };
  const { objectId } = await world.apply({ kind: 'saveTemplate', templateId: null, ...shape });
  await world.apply({ kind: 'applyTemplate', selection: everything, templateId: objectId ?? 0 });
  expect(await fieldsOf('SKM_001.jpg')).toMatchObject({
    headline: 'Festival 1998, 001',
    jobId: 'SKM-001',
    custom: [{ Name: 'Roll', Value: ['01'] }],
  });
  // Nothing is known of its year: that field stays unsaid, the others are filled.
  expect((await fieldsOf('SKM_003.jpg')).headline).toBeUndefined();
  expect(await count('term:Festivals has:jobId')).toBe(3);
  await write();
  const { fields } = readMetadata(memorySource(await readFile(join(drive, 'Festival/SKM_002.jpg'))));
  expect(fields).toMatchObject({ keywords: ['kite', 'Festivals'], custom: [{ Name: 'Roll', Value: ['02'] }] });
  await world.services.ledger.undo(world.keeperId);
  expect(await count('term:Festivals')).toBe(0);
  expect(await count('has:jobId')).toBe(0);

  await world.apply({ kind: 'saveTemplate', templateId: objectId, ...shape, note: 'For July' });
  expect(await world.services.describing.templateVersions(objectId ?? 0, world.keeperId)).toMatchObject([
    { by: 'The keeper', template: { name: 'Festival', note: '' } },
  ]);
  await expect(
    world.apply({
      kind: 'saveTemplate',
      templateId: null,
      name: 'Wrong',
      edits: [{ target: 'title', mode: 'replace', value: '{yaer}' }],
    }),
  ).rejects.toThrow('no placeholder {yaer}');
});

test('what photos say together: how many, how many different values, which', async () => {
  const { photos, fields } = await world.services.describing.agreement(PROGRAM, { query: '', minus: [], plus: [] });
  expect(photos).toBe(3);
  expect(fields.find(({ target }) => target === 'title')).toEqual({
    target: 'title',
    photos: 2,
    distinct: 2,
    values: [
      { value: 'Kite  festival', photos: 1 },
      { value: 'Kite festival', photos: 1 },
    ],
  });
});

test('a regular expression that never ends is given up, and nothing has changed', async () => {
  await world.apply({
    kind: 'setFields',
    selection: everything,
    edits: [{ target: 'title', mode: 'replace', value: `${'a'.repeat(60)}!` }],
  });
  await expect(
    world.apply({
      kind: 'replaceText',
      selection: everything,
      targets: ['title'],
      find: '(a+)+$',
      how: 'pattern',
      replace: 'b',
    }),
  ).rejects.toThrow('takes too long');
  expect(await count(`title:${'a'.repeat(60)}!`)).toBe(3);
});

test('what waits behind patterns that never end has all of its own time', async () => {
  await world.apply({
    kind: 'setFields',
    selection: everything,
    edits: [{ target: 'title', mode: 'replace', value: `${'a'.repeat(60)}!` }],
  });
  const replace = (find: string) =>
    preview({ kind: 'replaceText', targets: ['title'], find, how: 'pattern', replace: 'b' });
  const endless = ['(a+)+$', '(a|aa)+$', '(a*)*$'].map((find) => replace(find));
  const good = replace('!$');
  const outcomes = await Promise.allSettled(endless);
  expect(outcomes.map(({ status }) => status)).toEqual(['rejected', 'rejected', 'rejected']);
  expect((await good).photos).toHaveLength(3);
});

test('two people describe the same photos at once: every photo has what one of them said, and both are in the ledger', async () => {
  const other = (await world.services.accounts.find('cataloguer'))?.id ?? 0;
  const set = (accountId: number, value: string) =>
    world.services.ledger.apply(
      {
        kind: 'setFields',
        selection: { query: '', minus: [], plus: [] },
        edits: [{ target: 'headline', mode: 'replace', value }],
      },
      accountId,
    );
  await Promise.all([set(world.keeperId, 'One'), set(other, 'Two')]);
  // Whoever came second saw what the first had said.
  const append = (accountId: number, replace: string) =>
    world.services.ledger.apply(
      {
        kind: 'replaceText',
        selection: { query: '', minus: [], plus: [] },
        targets: ['headline'],
        find: '$',
        how: 'pattern',
        matchCase: false,
        replace,
      },
      accountId,
    );
  await Promise.all([append(world.keeperId, '+a'), append(other, '+b')]);
  expect((await fieldsOf('SKM_001.jpg')).headline).toMatch(/^(One|Two)(\+a\+b|\+b\+a)$/);
  const said = await Promise.all(['SKM_001.jpg', 'SKM_002.jpg', 'SKM_003.jpg'].map(fieldsOf));
  expect(new Set(said.map(({ headline }) => headline)).size).toBe(1);
  const entries = await world.services.ledger.list(PROGRAM, { limit: 10 });
  expect(entries.filter(({ title }) => title.startsWith('Set “Headline”'))).toHaveLength(2);
});

test('new photos get a template as they come in, once', async () => {
  const { objectId } = await world.apply({
    kind: 'saveTemplate',
    templateId: null,
    name: 'Incoming',
    edits: [{ target: 'source', mode: 'fill', value: 'Field disk, {folder}' }],
  });
  const other = await world.addDrive('Field');
  await putFiles(other, {
    'Day 1/a.jpg': await realJpeg({}, 90),
    'Day 1/b.jpg': await realJpeg({ source: 'Known' }, 91),
  });
  await world.services.drives.refresh();
  const key = (await world.services.drives.list(PROGRAM)).find(({ label }) => label === 'Field')?.key ?? '';
  const { id } = await world.services.intake.takeIn({ driveKey: key, templateId: objectId }, world.keeperId);
  await world.until(id, ['done']);
  expect(await count('source:"Field disk, Day 1"')).toBe(1);
  expect(await count('source:Known')).toBe(1);
  expect((await world.services.ledger.list(PROGRAM, { limit: 1 }))[0]).toMatchObject({
    title: 'Template “Incoming”: 1 photo',
    by: 'The keeper',
  });
});

test('private photos are found, and the check before a delivery names them and what others lack', async () => {
  await world.apply({
    kind: 'saveQualityRule',
    ruleId: null,
    name: 'Of cameras',
    query: 'folder:Vault/Festival',
    requires: ['caption', 'headline'],
  });
  const before = await world.services.describing.check(PROGRAM, { query: '', minus: [], plus: [] });
  const [rule] = before.rules;
  expect(before.private).toBe(0);
  expect(rule?.lacking.map(({ part }) => part)).toEqual(['caption', 'headline']);
  const lacking = rule?.lacking[1];
  expect(lacking?.photos).toBe(await count('folder:Vault/Festival missing:headline'));
  expect(lacking?.photos).toBeGreaterThan(0);
  expect(lacking?.first).toHaveLength(lacking?.photos ?? 0);

  const [first = 0, ...others] = lacking?.first ?? [];
  await world.apply({ kind: 'setPrivate', selection: { query: null, plus: [first] }, private: true });
  expect(await count('is:private')).toBe(1);
  expect((await world.services.photos.find(PROGRAM, first)).private).toBe(true);
  const few = await world.services.describing.check(PROGRAM, { query: null, minus: [], plus: [first] });
  expect(few).toMatchObject({ photos: 1, private: 1, ready: 0 });
  await world.apply({
    kind: 'setFields',
    selection: { query: null, plus: others },
    edits: [{ target: 'headline', mode: 'replace', value: 'Said' }],
  });
  const after = await world.services.describing.check(PROGRAM, { query: '', minus: [], plus: [] });
  expect(after.rules[0]?.lacking[1]).toMatchObject({ photos: 1, first: [first] });
  await world.services.ledger.undo(world.keeperId);
  await world.services.ledger.undo(world.keeperId);
  expect(await count('is:private')).toBe(0);
});

test('what counts as described is asked for by rule', async () => {
  await world.apply({
    kind: 'saveQualityRule',
    ruleId: null,
    name: 'Festival',
    query: 'folder:Vault/Festival',
    requires: ['caption', 'city'],
  });
  expect(await count('described:Festival')).toBe(1);
  expect(await count('not described:all')).toBe(2);
  const shown = await world.services.photos.list(PROGRAM, { query: '', sort: 'name', offset: 0, limit: 10 });
  expect(shown.map(({ described }) => described)).toEqual([false, false, true]);
  await world.apply({
    kind: 'setFields',
    selection: { query: 'not described:all' },
    edits: [
      { target: 'description', mode: 'fill', value: 'On the sands' },
      { target: 'city', mode: 'fill', value: 'Saltmarsh' },
    ],
  });
  expect(await count('described:Festival')).toBe(3);
  const { rules } = await world.services.describing.prepared(await world.services.rights.personOf(world.keeperId));
  expect(rules[0]?.lacking).toEqual([
    { part: 'caption', query: '(folder:Vault/Festival) missing:caption' },
    { part: 'city', query: '(folder:Vault/Festival) missing:city' },
  ]);
  expect(await count('described:Nobody')).toBe(0);
  await expect(
    world.apply({ kind: 'saveQualityRule', ruleId: null, name: 'Wrong', query: '', requires: ['nonsense'] }),
  ).rejects.toThrow('can’t be asked for');
});

describe('two who describe the same', () => {
  const selection = () => ({ query: `name:${FIRST}`, minus: [], plus: [] });
  const FIRST = 'SKM_001.jpg';
  const says = async () =>
    saysOf(
      (await world.services.describing.agreement(PROGRAM, selection())).fields.find(
        ({ target }) => target === 'headline',
      ),
    );
  const set = (value: string, seen: string, accountId = world.keeperId) =>
    world.services.ledger.apply(
      changeSchema.parse({
        kind: 'setFields',
        selection: selection(),
        edits: [{ target: 'headline', mode: 'replace', value }],
        seen: [{ target: 'headline', says: seen }],
      }),
      accountId,
    );

  test('the second learns who was quicker, and nothing is written over', async () => {
    const cataloguer = (await world.services.accounts.find('cataloguer'))?.id ?? 0;
    const seen = await says();
    await set('Hers', seen, cataloguer);
    await expect(set('Mine', seen)).rejects.toThrow('“Headline” has been changed meanwhile by The cataloguer');
    expect(await says()).toContain('Hers');
    await set('Mine', await says());
    expect(await says()).toContain('Mine');
  });

  test('also when both come at the same moment: one of them is refused', async () => {
    const cataloguer = (await world.services.accounts.find('cataloguer'))?.id ?? 0;
    const seen = await says();
    const results = await Promise.allSettled([set('One', seen), set('Other', seen, cataloguer)]);
    expect(results.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    const written = results[0]?.status === 'fulfilled' ? 'One' : 'Other';
    expect(await says()).toContain(written);
  });

  test('what others did to another field stands in nobody’s way', async () => {
    const seen = await says();
    await world.apply({
      kind: 'setFields',
      selection: selection(),
      edits: [{ target: 'creditLine', mode: 'replace', value: 'Lent' }],
    });
    await set('Still mine', seen);
  });
});

test('a template for everybody is changed by who made it, and by who keeps the vocabulary', async () => {
  const cataloguer = (await world.services.accounts.find('cataloguer'))?.id ?? 0;
  const by = (accountId: number, name: string, templateId: number | null) =>
    world.services.ledger.apply(
      changeSchema.parse({
        kind: 'saveTemplate',
        templateId,
        name,
        edits: [{ target: 'city', mode: 'fill', value: 'Saltmarsh' }],
      }),
      accountId,
    );
  const theirs = (await by(world.keeperId, 'Of the keeper', null)).objectId ?? 0;
  const own = (await by(cataloguer, 'Of the cataloguer', null)).objectId ?? 0;
  await expect(by(cataloguer, 'Mine now', theirs)).rejects.toMatchObject({ code: 'notYours' });
  await expect(
    world.services.ledger.apply({ kind: 'removeTemplate', templateId: theirs }, cataloguer),
  ).rejects.toMatchObject({ code: 'notYours' });
  await by(cataloguer, 'Still of the cataloguer', own);
  await by(world.keeperId, 'As the keeper has it', own);
  const { templates } = await world.services.describing.prepared(await world.services.rights.personOf(cataloguer));
  expect(templates.map(({ name, mayChange }) => [name, mayChange])).toEqual([
    ['As the keeper has it', true],
    ['Of the keeper', false],
  ]);
});
