import fc from 'fast-check';
import { type ChangeInput, change as changeSchema } from '@stellin/contract/ledger';
import type { Impact } from '@stellin/contract/vocabulary';
import { openWorld, PASSWORDS, putFiles, realJpeg, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
let drive: string;

beforeAll(async () => {
  world = await openWorld();
  drive = await world.addDrive('Vault');
  for (let i = 0; i < 12; i++)
    await putFiles(drive, { [`${i < 6 ? 'a' : 'b'}/${i}.jpg`]: await realJpeg({}, 30 + i * 9) });
  await world.takeIn(drive);
});
afterAll(() => world.close());

const list = () => world.services.vocabulary.list();
const idOf = async (label: string) => (await list()).find((term) => term.label === label)?.id ?? 0;
const count = (query: string) => world.services.search.all.count(query);
const undo = () => world.services.ledger.undo(world.keeperId);
const impact = (change: ChangeInput): Promise<Impact> =>
  world.services.vocabulary.impact(changeSchema.parse(change), world.keeperId);
const give = (label: string, query: string) =>
  idOf(label).then((id) => world.apply({ kind: 'giveTerms', selection: { query }, termIds: [id] }));

/** Adds a tree of its own below a heading, so that tests do not meet each other's labels. */
async function grow(heading: string, terms: Extract<ChangeInput, { kind: 'addTerms' }>['terms']): Promise<void> {
  await world.apply({ kind: 'addTerms', parentId: null, terms: [{ label: heading, heading: true, narrower: terms }] });
}

/** Everything that is kept of the vocabularies, as it stands in the tables. */
async function everything(): Promise<unknown> {
  const { database } = world.services;
  const tables: Record<string, string> = {
    term: 'select * from term order by id',
    relation: 'select kind, from_id, to_id from term_relation order by 1, 2, 3',
    above: 'select * from term_above order by 1, 2',
    keyword: 'select * from term_keyword order by 1, 2',
    use: 'select term_id, photos, photos_within from term_use order by 1',
    given: 'select term_id, photo_id, origin from photo_term order by 1, 2',
    search: 'select * from saved_search order by id',
    pad: 'select * from term_pad order by id',
    decision: 'select * from keyword_decision order by id',
  };
  const found: Record<string, unknown> = {};
  for (const [name, sql] of Object.entries(tables)) found[name] = await database.rows(sql);
  return found;
}

/** What is derived must be what counting anew gives. */
async function expectDerived(): Promise<void> {
  const { database } = world.services;
  const wrong = await database.rows(
    `with recursive up as (select id as term_id, parent_id as above_id from term where parent_id is not null
         union select from_id, to_id from term_relation where kind = 'broader'),
       walk as (select id as term_id, id as above_id from term union select w.term_id, u.above_id from walk w join up u on u.term_id = w.above_id),
       counted as (select t.id, (select count(*) from photo_term g where g.term_id = t.id)::int as photos,
         (select count(distinct g.photo_id) from walk w join photo_term g on g.term_id = w.term_id where w.above_id = t.id)::int as within from term t)
     select c.id, c.photos, c.within, u.photos as kept, u.photos_within as kept_within from counted c left join term_use u on u.term_id = c.id
     where u.term_id is null or u.photos <> c.photos or u.photos_within <> c.within
     union all
     select coalesce(w.term_id, a.term_id), 0, 0, 0, 0 from walk w full join term_above a on a.term_id = w.term_id and a.above_id = w.above_id
     where w.term_id is null or a.term_id is null`,
  );
  expect(wrong).toEqual([]);
}

describe('merging', () => {
  test('photos, searches, pads and decisions follow, files wait, and one undo brings back all of it exactly', async () => {
    await grow('Merging', [{ label: 'Rokkaku' }, { label: 'Rokaku', narrower: [{ label: 'Large rokaku' }] }]);
    const [rokkaku, rokaku] = [await idOf('Rokkaku'), await idOf('Rokaku')];
    await give('Rokkaku', 'name:1.jpg or name:2.jpg');
    await give('Rokaku', 'name:2.jpg or name:3.jpg');
    await world.apply({ kind: 'saveSearch', name: 'Doubled', query: 'term:Rokaku rating:>=3', sort: 'taken' });
    await world.apply({ kind: 'definePad', padId: null, name: 'Kites', shared: true, keys: { q: rokaku, w: rokkaku } });
    await world.services.database.rows(
      `insert into keyword_decision (keyword, decision, term_id) values ('rokaku kite', 'term', $1)`,
      [rokaku],
    );
    const before = await everything();
    const keeping: ChangeInput = { kind: 'mergeTerms', termIds: [rokaku], intoId: rokkaku };
    // With its label kept the search means the same as before and stays as it was typed.
    expect(await impact(keeping)).toMatchObject({ searches: [], keptLabels: ['Rokaku'] });
    const merging: ChangeInput = { ...keeping, keepLabels: 'none' };
    const foretold = await impact(merging);
    expect(foretold).toMatchObject({
      title: 'Merge “Rokaku” into “Rokkaku”',
      photos: 2,
      both: 1,
      drives: [{ label: 'Vault', away: false, files: 2 }],
      searches: [{ name: 'Doubled', before: 'term:Rokaku rating:>=3', after: 'term:Rokkaku rating:>=3' }],
      pads: ['Kites'],
      keptLabels: [],
    });
    // Looking at what it touches has changed nothing.
    expect(await everything()).toEqual(before);

    const entry = await world.apply(merging);
    expect(entry.photos).toBe(foretold.photos);
    expect([await count('only:Rokkaku'), await count('term:rokaku')]).toEqual([3, 0]);
    expect(
      (await world.services.vocabulary.pads(await world.services.rights.personOf(world.keeperId)))[0]?.keys.map(
        ({ key, term }) => [key, term.id],
      ),
    ).toEqual([
      ['q', rokkaku],
      ['w', rokkaku],
    ]);
    expect((await world.services.search.all.list()).find(({ name }) => name === 'Doubled')?.query).toBe(
      'term:Rokkaku rating:>=3',
    );
    expect(await world.services.database.row('select term_id from keyword_decision')).toEqual({ term_id: rokkaku });
    expect(await count('is:waiting term:Rokkaku')).toBe(3);
    await expectDerived();

    await undo();
    expect(await everything()).toEqual(before);
    await expectDerived();
  });
});

test('moving a sub-tree is found by its new broader terms at once, and its files are to be written', async () => {
  await grow('Moving', [
    { label: 'From here', narrower: [{ label: 'Sub', narrower: [{ label: 'Leaf' }] }] },
    { label: 'To there' },
  ]);
  await give('Leaf', 'within:Vault/a');
  const [sub, there] = [await idOf('Sub'), await idOf('To there')];
  const moving: ChangeInput = { kind: 'moveTerms', termIds: [sub], parentId: there };
  expect(await impact(moving)).toMatchObject({ photos: 0, within: 6, drives: [{ files: 6 }], query: 'term:Sub' });
  await world.apply(moving);
  expect([await count('term:"To there"'), await count('term:"From here"')]).toEqual([6, 0]);
  await expectDerived();
  await undo();
  expect([await count('term:"To there"'), await count('term:"From here"')]).toEqual([0, 6]);
  await expectDerived();
});

test('a further broader term finds the photos, too, and is drawn where it leads', async () => {
  await grow('Twice', [{ label: 'By shape', narrower: [{ label: 'Hexagonal' }] }, { label: 'By origin' }]);
  await give('Hexagonal', 'name:7.jpg');
  const [origin, hexagonal] = [await idOf('By origin'), await idOf('Hexagonal')];
  await world.apply({ kind: 'relateTerms', relation: 'broader', fromId: hexagonal, toId: origin });
  expect(await count('term:"By origin"')).toBe(1);
  expect(await world.services.vocabulary.column(origin, PROGRAM)).toMatchObject([
    { id: hexagonal, elsewhere: true, photosWithin: 1 },
  ]);
  expect((await world.services.vocabulary.card(hexagonal, PROGRAM)).broader).toMatchObject([{ label: 'By origin' }]);
  await expectDerived();
});

test('splitting divides the photos by searches; those that none finds keep the term', async () => {
  await grow('Splitting', [{ label: 'Festivals' }]);
  await give('Festivals', 'name:0.jpg or name:1.jpg or name:8.jpg');
  const festivals = await idOf('Festivals');
  const splitting: ChangeInput = {
    kind: 'splitTerm',
    termId: festivals,
    into: [
      { label: 'First', selection: { query: 'within:Vault/a name:0.jpg' } },
      { label: 'Second', selection: { query: 'within:Vault/a' } },
    ],
  };
  expect(await impact(splitting)).toMatchObject({ photos: 2, drives: [{ label: 'Vault', files: 2 }] });
  await world.apply(splitting);
  expect([
    await count('only:First'),
    await count('only:Second'),
    await count('only:Festivals'),
    await count('term:Festivals'),
  ]).toEqual([1, 1, 1, 3]);
  await undo();
  expect(await count('only:Festivals')).toBe(3);
});

test('a deprecated term is no longer given, and says what is', async () => {
  await grow('Deprecating', [{ label: 'Old word' }, { label: 'New word' }]);
  await give('Old word', 'name:4.jpg');
  const [old, now] = [await idOf('Old word'), await idOf('New word')];
  await world.apply({ kind: 'deprecateTerm', termId: old, replacedBy: now, movePhotos: true });
  expect([await count('only:"Old word"'), await count('only:"New word"')]).toEqual([0, 1]);
  await expect(give('Old word', 'name:5.jpg')).rejects.toThrow('“Old word” is no longer given; give “New word”.');
});

test('a term that is created while describing is given to the photos in the same step', async () => {
  const made = await world.apply({
    kind: 'addTerms',
    parentId: null,
    terms: [{ label: 'Storm kites', heading: true, narrower: [{ label: 'Gale kite' }] }],
    selection: { query: 'name:9.jpg' },
  });
  expect([made.title, made.photos]).toEqual([expect.stringContaining('given to 1 photo'), 1]);
  // Headings are no terms to be given.
  expect([await count('only:"Gale kite"'), await count('only:"Storm kites"')]).toEqual([1, 0]);
  await world.services.ledger.undo(world.keeperId);
  expect(await count('keyword:"Gale kite" or term:"Gale kite"')).toBe(0);
});

describe('proposals', () => {
  const as = (role: 'keeper' | 'cataloguer') => world.services.accounts.find(role).then((account) => account?.id ?? 0);
  const propose = async (label: string, query: string) =>
    world.services.ledger.apply(
      changeSchema.parse({ kind: 'proposeTerm', parentId: null, label, scopeNote: 'why', selection: { query } }),
      await as('cataloguer'),
    );

  test('photos have a proposed term at once, files only when it is accepted', async () => {
    await propose('Ray kite', 'name:9.jpg');
    expect(await count('only:"Ray kite"')).toBe(1);
    const before = await count('is:waiting name:9.jpg');
    const { proposals } = await world.services.vocabulary.proposals(await as('cataloguer'));
    expect(proposals).toMatchObject([{ label: 'Ray kite', by: 'The cataloguer', photos: 1, scopeNote: 'why' }]);
    expect((await world.services.vocabulary.card(proposals[0]?.id ?? 0, PROGRAM)).keywords).toEqual([]);
    await world.apply({ kind: 'acceptTerms', termIds: [proposals[0]?.id ?? 0] });
    expect([before, await count('is:waiting name:9.jpg')]).toEqual([0, 1]);
    const { proposals: left, settled } = await world.services.vocabulary.proposals(await as('cataloguer'));
    expect([left.length, settled[0]?.title]).toEqual([0, 'Accept “Ray kite”']);
  });

  test('refused with a word, it goes off its photos, and the one who proposed it can read why', async () => {
    const entry = await propose('Thingy', 'name:10.jpg');
    await world.apply({ kind: 'refuseTerm', termId: entry.objectId ?? 0, word: 'say what it is' });
    expect(await count('term:Thingy')).toBe(0);
    expect((await world.services.vocabulary.proposals(await as('cataloguer'))).settled[0]).toMatchObject({
      word: 'say what it is',
    });
    await undo();
    expect(await count('term:Thingy')).toBe(1);
  });

  test('mapped to a term that is there, its photos get that one', async () => {
    await grow('Mapping', [{ label: 'Sled' }]);
    const entry = await propose('Sledge', 'name:11.jpg');
    await world.apply({ kind: 'mergeTerms', termIds: [entry.objectId ?? 0], intoId: await idOf('Sled') });
    expect(await count('only:Sled')).toBe(1);
  });
});

describe('two keepers', () => {
  test('what one changed meanwhile, the other does not write over', async () => {
    await grow('Editing', [{ label: 'Shared term' }]);
    const termId = await idOf('Shared term');
    await world.apply({ kind: 'editTerm', termId, facts: { scopeNote: 'first' }, seen: { scopeNote: '' } });
    await expect(
      world.apply({ kind: 'editTerm', termId, facts: { scopeNote: 'second' }, seen: { scopeNote: '' } }),
    ).rejects.toThrow('Somebody has changed the scope note of “Shared term” meanwhile.');
    // Another part of the card is none of that.
    await world.apply({ kind: 'editTerm', termId, facts: { notation: 'S1' }, seen: { notation: '' } });
    expect(await world.services.vocabulary.card(termId, PROGRAM)).toMatchObject({ scopeNote: 'first', notation: 'S1' });
  });

  test('changing at once they come one after the other: no circle, no lost term', async () => {
    await grow('At once', [{ label: 'One' }, { label: 'Two' }]);
    const [one, two] = [await idOf('One'), await idOf('Two')];
    const results = await Promise.allSettled([
      world.apply({ kind: 'moveTerms', termIds: [one], parentId: two }),
      world.apply({ kind: 'moveTerms', termIds: [two], parentId: one }),
      ...Array.from({ length: 6 }, (_, i) =>
        world.apply({ kind: 'addTerms', parentId: one, terms: [{ label: `n${i}` }] }),
      ),
    ]);
    expect(results.slice(0, 2).filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    expect(
      (await world.services.vocabulary.column(one, PROGRAM)).filter(({ label }) => /^n\d$/.test(label)),
    ).toHaveLength(6);
    await expectDerived();
  });

  test('two who give terms at once are both counted', async () => {
    await grow('Counting', [{ label: 'Left' }, { label: 'Right' }]);
    const [left, right] = [await idOf('Left'), await idOf('Right')];
    for (let round = 0; round < 5; round++) {
      await Promise.all(
        [left, right].map((id) =>
          world.apply({ kind: 'giveTerms', selection: { query: `name:${round}.jpg` }, termIds: [id] }),
        ),
      );
    }
    await expectDerived();
    expect((await list()).find(({ label }) => label === 'Counting')?.photosWithin).toBe(5);
  });
});

test('photos that are set aside are not counted', async () => {
  await grow('Hiding', [{ label: 'Seen' }]);
  await give('Seen', 'name:6.jpg or name:7.jpg');
  await world.apply({ kind: 'removePhotos', selection: { query: 'name:6.jpg' } });
  const within = async () =>
    (await list()).filter(({ label }) => ['Hiding', 'Seen'].includes(label)).map(({ photosWithin }) => photosWithin);
  expect(await within()).toEqual([1, 1]);
  await undo();
  expect(await within()).toEqual([2, 2]);
});

test('terms are suggested that photos of the same folder and with the same terms have, with the reason', async () => {
  await grow('Suggesting', [{ label: 'Workshop' }, { label: 'Sewing' }]);
  await give('Workshop', 'within:Vault/b');
  await give('Sewing', 'within:Vault/b not name:11.jpg');
  const suggested = await world.services.vocabulary.suggest({ query: 'name:11.jpg', minus: [], plus: [] });
  expect(suggested.find(({ label }) => label === 'Sewing')).toMatchObject({ share: 1, path: ['Suggesting'] });
  expect(suggested.some(({ label }) => label === 'Workshop')).toBe(false);
  // Photos that show the same person count, too, wherever they are.
  const faces = await world.addDrive('Faces');
  for (let i = 0; i < 5; i++)
    await putFiles(faces, { [`${i}/face${i}.jpg`]: await realJpeg({ personInImage: ['Ida Brandt'] }, 150 + i * 7) });
  await world.takeIn(faces);
  await give('Sewing', 'name:face0.jpg or name:face1.jpg or name:face2.jpg or name:face3.jpg');
  const [shown] = await world.services.vocabulary.suggest({ query: 'name:face4.jpg', minus: [], plus: [] });
  expect(shown).toMatchObject({ label: 'Sewing', why: 'with Ida Brandt', share: 1 });
  const recent = await world.services.vocabulary.recent(world.keeperId);
  expect(recent.slice(0, 2).map(({ label }) => label)).toEqual(['Sewing', 'Workshop']);
});

describe('import and export', () => {
  const read = (text: string, name = 'terms.txt') =>
    world.services.vocabulary.readImport({ name, text }, world.keeperId);

  test('a vocabulary written in any format and taken in as a new one is the same', async () => {
    const { importId } = await read(
      '[Boats]\n\tPunt = !Stechkahn @de; flat boat\n\tSmack\nHarbour things\n',
      'Boats.txt',
    );
    await world.apply({ kind: 'importTerms', importId, vocabularyId: null });
    const boats = (await world.services.vocabulary.overview(PROGRAM)).vocabularies.find(({ name }) => name === 'Boats');
    expect(boats).toMatchObject({ terms: 4, levels: 2 });
    for (const format of ['turtle', 'rdfxml', 'jsonld', 'indented', 'csv'] as const) {
      const { text, name } = await world.services.vocabulary.write(boats?.id ?? 0, format);
      const again = await read(text, name);
      const compared = await world.services.vocabulary.compareImport(
        { importId: again.importId, vocabularyId: boats?.id, limit: 10 },
        world.keeperId,
      );
      expect([format, compared.counts.same, compared.rows]).toEqual([format, 4, []]);
    }
    await undo();
    expect((await world.services.vocabulary.overview(PROGRAM)).vocabularies.some(({ name }) => name === 'Boats')).toBe(
      false,
    );
  });

  test('broken, empty and oversized files are refused with a sentence and nothing changes', async () => {
    await expect(read('@prefix skos: <http://x', 'broken.ttl')).rejects.toThrow(
      '“broken.ttl” can’t be taken in. This can’t be read as SKOS, Turtle',
    );
    await expect(read('# nothing', 'empty.txt')).rejects.toThrow('there are no terms in it');
    const cookie = await signIn('keeper');
    const huge = await world.app.inject({
      method: 'POST',
      url: '/api/vocabulary/imports',
      headers: { cookie, 'content-type': 'application/json' },
      payload: `{"name":"huge.ttl","text":"${'x'.repeat(100 * 2 ** 20)}"}`,
    });
    expect([huge.statusCode, huge.json()]).toMatchObject([413, { error: { code: 'tooLarge' } }]);
  });
});

async function signIn(name: 'keeper' | 'cataloguer' | 'viewer'): Promise<string> {
  const answer = await world.app.inject({
    method: 'POST',
    url: '/api/session',
    payload: { name, password: PASSWORDS[name] },
  });
  return answer.headers['set-cookie']?.toString().split(';')[0] ?? '';
}

test('only keepers change the vocabulary; cataloguers are told that they can propose', async () => {
  const cookie = await signIn('cataloguer');
  const post = (change: ChangeInput) =>
    world.app.inject({ method: 'POST', url: '/api/changes', headers: { cookie }, payload: { change } });
  const refused = await post({ kind: 'addTerms', parentId: null, terms: [{ label: 'Mine' }] });
  expect([refused.statusCode, refused.json()]).toMatchObject([403, { error: { code: 'keepersOnly' } }]);
  expect((await post({ kind: 'proposeTerm', parentId: null, label: 'Mine' })).statusCode).toBe(200);
});

/** What is to stand in the file of each photo for its terms. */
async function wantedKeywords(): Promise<Map<number, string>> {
  const rows = await world.services.database.rows<{ id: number; keywords: string }>(
    `select photo_id as id, string_agg(keyword, '|' order by keyword) as keywords from wanted_keyword group by photo_id`,
  );
  return new Map(rows.map(({ id, keywords }) => [id, keywords]));
}

/** A random change over the terms of a branch that is this test's own. */
const step = fc.tuple(fc.nat(8), fc.nat(1000), fc.nat(1000), fc.constantFrom('Ant', 'Bee', 'Cat', 'Dog'), fc.boolean());

test('after any sequence of changes what is derived is right, and undoing them all gives back what was', async () => {
  await grow('Random', [{ label: 'Ant', narrower: [{ label: 'Bee' }, { label: 'Cat' }] }, { label: 'Dog' }]);
  await give('Bee', 'within:Vault/a');
  await give('Dog', 'name:5.jpg or name:6.jpg');
  const root = await idOf('Random');
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 3, maxLength: 8 }), async (steps) => {
      const before = await everything();
      let done = 0;
      for (const [kind, a, b, label, flag] of steps) {
        const mine = await world.services.database.rows<{ id: number }>(
          'select term_id as id from term_above where above_id = $1 and term_id <> $1 order by 1',
          [root],
        );
        const [one, other] = [mine[a % mine.length]?.id ?? root, mine[b % mine.length]?.id ?? root];
        const changes: ChangeInput[] = [
          { kind: 'addTerms', parentId: one, terms: [{ label: `${label}${a % 7}`, narrower: [{ label: 'Low' }] }] },
          { kind: 'renameTerm', termId: one, label: `${label}${b % 5}`, keepOld: 'alternative' },
          { kind: 'moveTerms', termIds: [one], parentId: flag ? other : root },
          { kind: 'mergeTerms', termIds: [one], intoId: other },
          { kind: 'removeTerm', termId: one, photosTo: flag ? other : null, narrower: 'up' },
          { kind: 'relateTerms', relation: 'broader', fromId: one, toId: other },
          { kind: 'giveTerms', selection: { query: `name:${a % 12}.jpg` }, termIds: [one] },
          { kind: 'takeTerms', selection: { query: 'within:Vault/a' }, termIds: [one] },
          { kind: 'setHeading', termId: one, heading: flag, photosTo: null },
        ];
        const change = changes[kind] ?? { kind: 'acceptTerms', termIds: [one] };
        const wanted = await wantedKeywords();
        const foretold = /^(give|take)/.test(change.kind) ? undefined : await impact(change).catch(() => undefined);
        const applied = await world.apply(change).then(
          () => true,
          (error: unknown) => {
            // Refusals are part of it; anything else is not.
            expect(error).toHaveProperty('code', expect.stringMatching(/^(term|heading|deprecated|nothing)/));
            return false;
          },
        );
        if (!applied) continue;
        done++;
        if (!foretold) continue;
        const now = await wantedKeywords();
        const differing = [...new Set([...wanted.keys(), ...now.keys()])].filter(
          (id) => wanted.get(id) !== now.get(id),
        );
        expect([change.kind, foretold.drives.reduce((sum, { files }) => sum + files, 0)]).toEqual([
          change.kind,
          differing.length,
        ]);
      }
      await expectDerived();
      for (; done > 0; done--) await undo();
      await expectDerived();
      expect(await everything()).toEqual(before);
    }),
    { numRuns: 15 },
  );
});
