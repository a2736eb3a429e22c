import sharp from 'sharp';
import { copySettings } from '@stellin/contract/delivering';
import type { ChangeInput } from '@stellin/contract/ledger';
import { LEDGER_KINDS } from '../ledgerKinds';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
let vault: string;
beforeAll(async () => {
  world = await openWorld();
  vault = await world.addDrive('Vault');
  await putFiles(vault, {
    'a.jpg': await realJpeg({ keywords: ['dunes'], headline: 'Old', rating: 1 }, 40),
    'b.jpg': await realJpeg({ keywords: ['dunes'] }, 90),
    'b.png': await realJpeg({}, 91),
    // Nobody needs to play it: what a film is called by is enough.
    'tern.mp4': Buffer.from('00000014667479706d703432000000006d703432', 'hex'),
  });
  await world.takeIn(vault);
});
afterAll(() => world.close());

const seen = { aspects: new Set<string>(), objects: new Set<string>() };

/** What a change changed, as it is shown: of photos, then of objects. */
async function shown(change: ChangeInput) {
  const entry = await world.apply(change);
  const { database } = world.services;
  for (const { aspect } of await database.rows<{ aspect: string }>(
    'select distinct aspect from ledger_photo where entry_id = $1',
    [entry.id],
  ))
    seen.aspects.add(aspect);
  for (const { kind } of await database.rows<{ kind: string }>(
    'select distinct kind from ledger_object where entry_id = $1',
    [entry.id],
  ))
    seen.objects.add(kind);
  const { photos, objects } = await world.services.ledger.changesOf(entry.id, PROGRAM);
  return {
    id: entry.objectId ?? 0,
    photos: photos.map(({ name, what, before, after }) => [name, what, before, after]),
    objects: objects.map(({ object, what, before, after }) => [object, what, before, after]),
  };
}
const a = { query: 'name:a.jpg' };

test('of fields, privacy, marks and ratings the values are readable', async () => {
  expect((await shown({ kind: 'setPrivate', selection: a, private: true })).photos).toEqual([
    ['a.jpg', 'Private', 'no', 'yes'],
  ]);
  expect((await shown({ kind: 'setRating', selection: a, rating: 4 })).photos).toEqual([['a.jpg', 'Rating', '1', '4']]);
  expect((await shown({ kind: 'setMark', selection: a, mark: 'Print' })).photos).toEqual([
    ['a.jpg', 'Mark', '–', 'Print'],
  ]);
  const edits = [
    { target: 'headline', mode: 'replace', value: 'Kites at noon' },
    { target: 'custom:Loan', mode: 'replace', value: ['12/3'] },
  ] as const;
  const fields = await shown({
    kind: 'setFields',
    selection: a,
    edits: edits.map((edit) => ({ ...edit, value: edit.value as string })),
  });
  expect(fields.photos).toEqual([
    ['a.jpg', 'Headline', 'Old', 'Kites at noon'],
    ['a.jpg', 'Loan', '–', '12/3'],
  ]);
});

test('of the picture of a film the moment is', async () => {
  const photoId = (await world.ids()).get('tern.mp4') ?? 0;
  expect((await shown({ kind: 'choosePoster', photoId, seconds: 65.25 })).photos).toEqual([
    ['tern.mp4', 'Picture of the film', '–', 'at 1:05.3'],
  ]);
});

test('of terms, keywords, dossiers and people the names are', async () => {
  const term = await shown({ kind: 'addTerms', parentId: null, terms: [{ label: 'Delta', scopeNote: 'Two wings' }] });
  expect(term.objects).toEqual(
    expect.arrayContaining([
      ['Term “Delta”', 'Label', '–', 'Delta'],
      ['Term “Delta”', 'Scope note', '–', 'Two wings'],
    ]),
  );
  expect((await shown({ kind: 'giveTerms', selection: a, termIds: [term.id] })).photos).toEqual([
    ['a.jpg', 'Term “Delta”', '–', 'given'],
  ]);
  const settled = await shown({ kind: 'settleKeywords', decisions: [{ keyword: 'dunes', decision: 'drop' }] });
  expect(settled.photos).toContainEqual(['a.jpg', 'Keyword “dunes”', 'incoming', '–']);
  expect(settled.objects).toContainEqual(['Decision on a keyword “dunes”', 'Becomes', '–', 'drop']);
  const dossier = await shown({ kind: 'makeDossier', name: 'Loans', note: 'For 2027' });
  expect(dossier.objects).toContainEqual(['Dossier “Loans”', 'Note', '–', 'For 2027']);
  expect((await shown({ kind: 'putInDossier', dossierId: dossier.id, selection: a })).photos).toEqual([
    ['a.jpg', 'Dossier “Loans”', '–', 'in it'],
  ]);
  const named = await shown({ kind: 'namePhotos', selection: a, who: { name: 'Ida Brandt' } });
  expect(named.photos).toContainEqual(['a.jpg', 'Person “Ida Brandt”', '–', 'given']);
  expect(named.objects).toContainEqual(['Person “Ida Brandt”', 'Name', '–', 'Ida Brandt']);
  const photoId = (await world.ids()).get('a.jpg') ?? 0;
  const box = { left: 0.1, top: 0.2, width: 0.25, height: 0.5 };
  const drawn = await shown({ kind: 'drawFace', photoId, box, who: { name: 'Tomas Rehak' } });
  expect(drawn.photos).toContainEqual(['a.jpg', 'Face', '–', 'Tomas Rehak']);
});

test('of what is prepared, and of links, each property that changed is', async () => {
  const [delta, sled] = await Promise.all([
    world.services.vocabulary.list().then((terms) => terms.find(({ label }) => label === 'Delta')?.id ?? 0),
    shown({ kind: 'addTerms', parentId: null, terms: [{ label: 'Sled' }] }).then(({ id }) => id),
  ]);
  expect(
    (await shown({ kind: 'relateTerms', relation: 'related', fromId: delta, toId: sled, on: true })).objects,
  ).toEqual(expect.arrayContaining([['Link between terms', 'To', '–', 'Sled']]));
  const mark = await shown({ kind: 'defineMark', markId: null, name: 'Loan', letter: 'w', colour: 'blue' });
  expect(mark.objects).toContainEqual(['Mark “Loan”', 'Colour', '–', 'blue']);
  const edits = [{ target: 'city', mode: 'replace', value: 'Saltmarsh' }] as const;
  const preset = await shown({ kind: 'savePreset', name: 'Web', settings: copySettings.parse({ format: 'webp' }) });
  expect(preset.objects).toContainEqual([
    'Preset “Web”',
    'Settings',
    '–',
    'WebP 88, Long edge 2400 px, named {name}, says: All that is said',
  ]);
  const template = await shown({
    kind: 'saveTemplate',
    templateId: null,
    name: 'Beach',
    edits: [...edits],
    termIds: [delta],
  });
  expect(template.objects).toEqual(
    expect.arrayContaining([
      ['Template “Beach”', 'Fields', '–', 'City: Saltmarsh'],
      ['Template “Beach”', 'Terms', '–', 'Delta'],
    ]),
  );
  const project = await shown({
    kind: 'makeProject',
    name: 'Autumn show',
    note: '',
    colour: '',
    starts: '2024-09',
    ends: '',
    fieldSetId: null,
    templateId: template.id,
    ruleId: null,
  });
  expect(project.objects).toEqual(
    expect.arrayContaining([
      ['Project', 'Starts', '–', '2024-09'],
      ['Project', 'Dossier', '–', 'Autumn show'],
      ['Project', 'Template', '–', 'Beach'],
    ]),
  );
  const search = await shown({ kind: 'saveSearch', name: 'Best', query: 'rating:>=4', sort: 'rating-desc' });
  expect(search.objects).toContainEqual(['Saved search “Best”', 'Order', '–', 'Rating ↓']);
  const changed = await shown({ kind: 'changeSearch', searchId: search.id, query: 'rating:5' });
  expect(changed.objects).toEqual([['Saved search “Best”', 'Query', 'rating:>=4', 'rating:5']]);
  const rule = await shown({ kind: 'saveQualityRule', ruleId: null, name: 'Ready', query: '', requires: ['headline'] });
  expect(rule.objects).toContainEqual(['Rule of what counts as described “Ready”', 'Must have', '–', 'Headline']);
  const set = await shown({
    kind: 'saveFieldSet',
    fieldSetId: null,
    name: 'Loans',
    entries: [{ target: 'custom:Loan' }],
  });
  expect(set.objects).toContainEqual(['Field set “Loans”', 'Fields', '–', 'Loan']);
  const pad = await shown({ kind: 'definePad', padId: null, name: 'Kites', shared: true, keys: { '1': delta } });
  expect(pad.objects).toContainEqual(['Term pad “Kites”', 'Keys', '–', '1: Delta']);
  const pier = await shown({
    ...{ kind: 'saveOwnPlace', placeId: null, parentId: null, placeKind: 'spot', name: 'Old pier' },
    ...{ otherNames: [{ name: 'Long pier', from: '1880', until: '' }], point: { latitude: 55.5, longitude: 3.5 } },
  } as ChangeInput);
  expect(pier.objects).toEqual(
    expect.arrayContaining([
      ['Place “Old pier”', 'Kind', '–', 'spot'],
      ['Place “Old pier”', 'Latitude', '–', '55.5'],
    ]),
  );
  const clock = await shown({
    ...{ kind: 'saveCameraClock', clockId: null, camera: 'Corvina M3', from: '2019-06-03', until: '2019-06-09' },
    ...{ aheadSeconds: 3600, note: '' },
  } as ChangeInput);
  expect(clock.objects).toContainEqual(['Clock of a camera “Corvina M3”', 'Ahead (s)', '–', '3600']);
  const left = await shown({
    kind: 'leavePlaceNames',
    names: { sublocation: 'Red barn', city: '', provinceState: '', country: 'Norland', countryCode: '' },
  });
  expect(left.objects).toContainEqual(['Place names left “Red barn, Norland”', 'Names', '–', 'Red barn, Norland']);
  await shown({ kind: 'defineVocabulary', vocabularyId: null, name: 'Places', language: 'en' });
  const names = await shown({ kind: 'settleNames', decisions: [{ name: 'A stranger', who: null }] });
  expect(names.objects).toContainEqual(['Decision on a name “A stranger”', 'Name', '–', 'A stranger']);
});

test('of places, bundles and what is taken out of the catalogue, what was and what is', async () => {
  const driveId = (await world.services.drives.list(PROGRAM))[0]?.id ?? '';
  const folder = await shown({ kind: 'makeFolder', driveId, parent: '', name: 'kept' });
  expect(folder.objects).toContainEqual(['Folder “kept”', 'Drive', '–', 'Vault']);
  const moved = await shown({ kind: 'moveFiles', selection: a, driveId, folder: 'kept' });
  expect(moved.photos).toEqual([['a.jpg', 'Place', 'Vault/a.jpg', 'Vault/kept/a.jpg']]);
  await world.eventually(async () => (await world.services.search.all.count('folder:Vault/kept')) === 1);
  const copied = await shown({ kind: 'copyFiles', selection: a, driveId, folder: 'copies' });
  expect(copied.photos).toEqual([['a.jpg', 'Copy', '–', 'Vault/copies/a.jpg']]);
  await world.eventually(async () => (await world.services.search.all.count('folder:Vault/copies')) === 1);
  const selection = { query: 'name:b.*' };
  await world.apply({ kind: 'unbundlePhotos', selection }).catch(() => undefined);
  const bundled = await shown({ kind: 'bundlePhotos', selection });
  expect(bundled.photos).toContainEqual(['b.jpg', 'Bundle', '–', 'lead of a bundle']);
  // As if its picture were no longer the one it should hold.
  const [photoId = 0, copyId = 0] = await Promise.all(
    ['folder:Vault/kept', 'folder:Vault/copies'].map(
      async (query) => (await world.services.search.all.page(query, 'taken', 0, 1))[0],
    ),
  );
  await world.services.database.rows('update photo set fixity = 4 where id = $1', [photoId]);
  expect((await shown({ kind: 'putCopyBack', photoId, copyId })).photos).toEqual([
    ['a.jpg', 'File', 'the damaged file', 'a good copy of it'],
  ]);
  // The file is put back by a job, which is over before others write to it.
  await world.eventually(async () => (await world.services.jobs.list()).every(({ state }) => state === 'done'));
  expect((await shown({ kind: 'removePhotos', selection: { query: 'folder:Vault/copies' } })).photos).toEqual([
    ['a.jpg', 'Taken out of the catalogue', 'no', 'yes'],
  ]);
  const ids = await world.ids();
  const apart = await shown({ kind: 'tellApart', photoIds: [ids.get('a.jpg') ?? 0, ids.get('b.jpg') ?? 0] });
  expect(apart.objects).toEqual(expect.arrayContaining([['Different pictures', 'One', '–', 'a.jpg']]));
});

test('a conflict that is settled says what was in conflict', async () => {
  await putFiles(vault, { 'kept/a.jpg': await realJpeg({ headline: 'Theirs', rating: 1 }, 40) });
  await world.takeIn(vault);
  const settled = await shown({
    kind: 'settleConflicts',
    selection: { query: 'is:conflict' },
    field: 'headline',
    keep: 'file',
  });
  expect(settled.photos).toEqual(
    expect.arrayContaining([
      ['a.jpg', 'Headline', 'Kites at noon', 'Theirs'],
      ['a.jpg', 'Headline, as the file says', 'Old, in conflict with Theirs', 'Theirs'],
    ]),
  );
});

test('of site plans and their pins, what they are called and which photos they hold', async () => {
  const picture = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#ccc' } })
    .png()
    .toBuffer();
  const { pictureId } = await world.services.plans.addFile('hall.png', picture, world.keeperId);
  const made = await shown({ kind: 'makePlan', name: 'Hall', pictureId });
  expect(made.objects).toContainEqual(['Site plan “Hall”', 'Name', '–', 'Hall']);
  const pin = { kind: 'point', number: 3, x: 0.5, y: 0.5 } as const;
  const put = await shown({ kind: 'savePins', planId: made.id, pins: [{ pinId: null, pin }] });
  expect(put.objects).toEqual(
    expect.arrayContaining([
      ['Pin “3”', 'On the plan', '–', 'Hall'],
      ['Pin “3”', 'Number', '–', '3'],
    ]),
  );
  const pinned = await shown({ kind: 'pinPhotos', pinId: put.id, selection: { query: 'name:b.jpg' } });
  expect(pinned.photos).toContainEqual(['b.jpg', 'Pin “3”', '–', 'given']);
});

test('of an accession, who gave it and until when that holds', async () => {
  const accessionId = (await world.services.intake.accessions())[0]?.id ?? 0;
  const said = await shown({
    ...{ kind: 'describeAccession', accessionId, number: '2026-014', source: '', donor: 'Edda Kessel' },
    ...{ agreement: '', restrictions: '', ends: '2031-12-31', note: '' },
  } as ChangeInput);
  expect(said.objects).toEqual(
    expect.arrayContaining([
      ['Accession “2026-014”', 'Donor', '–', 'Edda Kessel'],
      ['Accession “2026-014”', 'Holds until', '–', '2031-12-31'],
    ]),
  );
});

test('every aspect and every kind of object was among these', () => {
  expect([...seen.aspects].sort()).toEqual(Object.keys(LEDGER_KINDS.aspects).sort());
  expect([...seen.objects].sort()).toEqual(Object.keys(LEDGER_KINDS.objects).sort());
});

test('what is gone is called what it was called last, and columns are those of the tables', async () => {
  const { database, ledger } = world.services;
  const { id } = await shown({ kind: 'addTerms', parentId: null, terms: [{ label: 'Rokkaku' }] });
  const given = await world.apply({ kind: 'giveTerms', selection: { query: 'name:b.jpg' }, termIds: [id] });
  await world.apply({ kind: 'takeTerms', selection: { query: 'name:b.jpg' }, termIds: [id] });
  await world.apply({ kind: 'removeTerm', termId: id });
  expect((await ledger.changesOf(given.id, PROGRAM)).photos[0]?.what).toBe('Term “Rokkaku”');
  for (const [kind, { columns }] of Object.entries(LEDGER_KINDS.objects)) {
    const rows = await database.rows<{ name: string }>(
      // Numbers of the tree are worked out from it.
      `select attname as name from pg_attribute where attrelid = $1::text::regclass and attnum > 0 and not attisdropped and attgenerated = ''
         and ($1::text <> 'term' or attname not in ('pre', 'last'))`,
      [kind],
    );
    expect([kind, ['id', ...Object.keys(columns)].sort()]).toEqual([kind, rows.map(({ name }) => name).sort()]);
  }
});
