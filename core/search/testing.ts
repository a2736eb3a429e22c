// Made-up catalogues and queries for tests: what a photo is to the naive evaluation, told to the finder index as well.

import fc from 'fast-check';
import { isSeen, type Scope, type Sight } from '../accounts/sight';
import type { NamedDossier } from '../dossiers/naming';
import { FIXITY_STATES } from '../fixity/states';
import type { FieldValues } from '../metadata/fields';
import type { FileFacts } from '../metadata/read';
import { TermNames } from '../vocabulary/following';
import { labelsOf, newTerm, type Relation, type Term } from '../vocabulary/term';
import { TermTree } from '../vocabulary/tree';
import { CRITERIA, type Criterion } from '../query/criteria';
import { evaluate } from './evaluate';
import { FinderIndex } from './index/finderIndex';
import { FinderTerms } from './index/finderTerms';
import type { Viewpoint } from './viewpoint';
import { STATE_BITS, type FolderFacts, type RowPart, type TextPart } from './index/records';
import { secondsOf, type SearchablePhoto } from './photo';
import { NOBODY } from './said';
import { allOf, type CriterionQuery, type Query } from '../query/query';
import { searchableOf } from './searchable';
import { wordsOf } from '../text/words';

export const TODAY = '2024-06-15';
/** Asked by somebody for whom all photos exist. */
export const EVERYTHING_SEEN: Viewpoint = { today: TODAY, sight: null, knowsPrivate: true };

const TERMS: readonly Term[] = [
  newTerm({ id: 1, label: 'Objects', vocabularyId: 1, heading: true }),
  newTerm({ id: 2, label: 'Kites', parentId: 1 }),
  newTerm({ id: 3, label: 'Delta', parentId: 2 }),
  newTerm({
    id: 4,
    label: 'Box kite',
    parentId: 2,
    otherLabels: [{ kind: 'alternative', language: 'de', label: 'Kastendrachen' }],
  }),
  newTerm({ id: 5, label: 'Places', vocabularyId: 1 }),
  newTerm({ id: 6, label: 'Beach', parentId: 5 }),
  newTerm({ id: 7, label: 'Delta', parentId: 5 }),
];
/** Box kites are flown at the beach: a further broader term. */
const RELATIONS: readonly Relation[] = [{ kind: 'broader', fromId: 4, toId: 6 }];
const FOLDERS: readonly FolderFacts[] = [
  { id: 1, driveId: 'v', drive: 'Vault 1', path: '', away: false },
  { id: 2, driveId: 'v', drive: 'Vault 1', path: '2019', away: false },
  { id: 3, driveId: 'v', drive: 'Vault 1', path: '2019/June', away: false },
  { id: 4, driveId: 'v', drive: 'Vault 1', path: '2019 B', away: false },
  { id: 5, driveId: 'f', drive: 'Field_disk', path: '2019', away: true },
];
const DOSSIERS: readonly NamedDossier[] = [
  { id: 1, parentId: null, name: 'Open day' },
  { id: 2, parentId: 1, name: 'Poster' },
  { id: 3, parentId: null, name: 'Poster' },
];

/** A photo as the catalogue would have it. */
export interface MadePhoto {
  row: RowPart;
  texts: TextPart;
  termIds: number[];
  dossierIds: number[];
  changers: string[];
  changedAt: number | undefined;
}

const pick = <Value>(...values: Value[]) => fc.constantFrom(...values);
const some = <Value>(...values: Value[]) => fc.subarray(values);
const TIMES = [
  '1932-01-01T00:00:00',
  '2019-02-28T23:59:59',
  '2019-06-15T10:30:00',
  '2024-06-10T08:00:00',
  '2024-06-15T00:00:00',
] as const;
const LENGTHS = [1, 3600, 86_400, 28 * 86_400, 366 * 86_400, 10 * 366 * 86_400];

const fields: fc.Arbitrary<FieldValues> = fc.record(
  {
    title: pick<string | Record<string, string>>('Wind', { 'x-default': 'Delta over dunes', de: 'Drachen 100%_\\' }),
    headline: pick('Saltmarsh beaches', 'café in June', 'a*b?'),
    creator: some('Ida Brandt', 'Björk'),
    city: pick('Saltmarsh', 'Northmere'),
    country: pick('Saltmarsh', 'Elsewhere'),
    personInImage: some('Ida Brandt', 'Nils Ode'),
    rightsMarked: fc.boolean(),
    locationShown: fc.constant([{ City: 'Kiteham', Sublocation: 'Pier' }]),
    custom: pick(
      [{ Name: 'Loan', Value: ['Björk 12', 'L 9'] }],
      [{ Name: 'Cabinet', Value: ['L 9'] }],
      [
        { Name: 'Value', Value: ['500'] },
        { Name: 'Opens: at', Value: ['2019-05'] },
      ],
      [
        { Name: 'Value', Value: ['-12.5', '1200'] },
        { Name: 'Opens: at', Value: ['2020'] },
      ],
    ),
    position: fc.record(
      { latitude: pick(54.3, -12), longitude: pick(8.6, 179.9), altitude: pick(-3, 120) },
      { requiredKeys: ['latitude', 'longitude'] },
    ),
    regions: fc.constant({ RegionList: [{ Type: 'Face', Name: 'Ida' }, { Type: 'Pet' }] }),
  },
  { requiredKeys: [] },
);

const facts: fc.Arbitrary<FileFacts> = fc.record(
  {
    make: pick('Corvina', 'Halden'),
    model: pick('M7', 'm7'),
    lens: pick('35mm f/2', '50mm'),
    iso: pick(100, 400, 1600),
    fNumber: pick(2.8, 5.6),
    exposureTime: pick(1 / 250, 1 / 60, 2),
    focalLength: pick(24, 35, 50),
    flashFired: fc.boolean(),
    bitDepth: pick(8, 16),
    colour: pick('grey' as const, 'rgb' as const),
    duration: pick(30, 95),
    codec: pick('avc1'),
  },
  { requiredKeys: [] },
);

const WRITABLE = Object.keys(STATE_BITS) as (keyof typeof STATE_BITS)[];

const made: fc.Arbitrary<MadePhoto> = fc
  .record({
    name: pick('SKM_1.jpg', 'SKM_20.JPG', 'Kites.tif', 'IMG 20.jpg'),
    caption: pick('', 'Zwei Drachen am Strand', 'A kite over the dunes', 'kites, a box kite\nand dunes', 'Björk’s box'),
    fields,
    facts,
    keywords: some('boxkite', 'Strand', 'delta kite'),
    folderId: pick(...FOLDERS.map(({ id }) => id)),
    kind: pick('jpeg', 'tiff', 'mp4'),
    fixity: pick(...FIXITY_STATES),
    mark: pick('', 'Print', 'To print'),
    taken: fc.option(pick(...TIMES), { nil: undefined }),
    length: pick(...LENGTHS),
    added: pick(...TIMES),
    rating: fc.integer({ min: -1, max: 5 }),
    size: pick(0.5, 24, 24.000001),
    sides: fc.option(pick([6000, 4000], [4000, 6000], [500, 500]), { nil: undefined }),
    accession: fc.option(pick(1, 2), { nil: undefined }),
    states: fc.subarray(WRITABLE, { maxLength: 2 }),
    disagreeing: fc.boolean(),
    people: pick(
      NOBODY,
      { names: ['Nils Ode', 'Ida Brandt'], confirmed: ['Ida Brandt'], suggested: [], faces: 2, unnamed: 0 },
      { names: [], confirmed: [], suggested: ['Nils Ode'], faces: 1, unnamed: 1 },
      { names: ['Björk'], confirmed: [], suggested: [], faces: 0, unnamed: 0 },
      {
        names: ['Nils Ode', 'Ida Brandt'],
        confirmed: ['Nils Ode', 'Ida Brandt'],
        suggested: ['Björk'],
        public: { names: ['Ida Brandt'], confirmed: ['Ida Brandt'], suggested: [] },
        faces: 2,
        unnamed: 1,
      },
    ),
    plans: pick([], ['Hall', 'Hall/North wall'], ['Hall', 'Hall/3', 'Old pier', 'Old pier/Tür']),
    done: pick([], ['people'], ['people', 'rule-3-caption']),
    picture: pick('', 'a', 'b', 'c', 'd'),
    termIds: some(2, 3, 4, 6, 7),
    dossierIds: fc.subarray([1, 2, 3], { maxLength: 2 }),
    changers: some('The keeper', 'Ida Brandt'),
  })
  .map((photo) => ({
    row: {
      name: photo.name,
      folderId: photo.folderId,
      kind: photo.kind,
      fixity: photo.fixity,
      mark: photo.mark,
      takenFrom: photo.taken && secondsOf(photo.taken),
      takenUntil: photo.taken && photo.length > 1 ? secondsOf(photo.taken) + photo.length : undefined,
      added: secondsOf(photo.added),
      rating: photo.rating,
      accession: photo.accession,
      width: photo.sides?.[0],
      height: photo.sides?.[1],
      size: photo.size,
      states: photo.states.reduce((bits, state) => bits | STATE_BITS[state], 0),
      foldedInto: undefined,
      bundle: undefined,
      pictureHash: photo.picture,
    } as RowPart,
    texts: {
      caption: photo.caption,
      fields: photo.fields,
      facts: photo.facts,
      keywords: photo.keywords,
      disagreeing: photo.disagreeing,
      people: photo.people,
      plans: photo.plans,
      done: photo.done,
      words: [photo.name, photo.caption, ...photo.keywords].flatMap((text) => [...wordsOf(text), '']),
    },
    termIds: photo.termIds,
    dossierIds: photo.dossierIds,
    changers: photo.changers,
    changedAt: photo.changers.length > 0 ? secondsOf(photo.added) : undefined,
  }));

/** A catalogue: the second of two neighbours stands behind the first, where `folded` has it. */
export const catalogue: fc.Arbitrary<MadePhoto[]> = fc
  .tuple(fc.array(made, { minLength: 1, maxLength: 14 }), fc.array(fc.boolean(), { minLength: 14, maxLength: 14 }))
  .map(([photos, folded]) =>
    photos.map((photo, i) => {
      const lead = i % 2 === 1 && folded[i] ? i : undefined;
      return { ...photo, row: { ...photo.row, foldedInto: lead, bundle: lead } };
    }),
  );

/** The index of a catalogue whose photos have the ids 1, 2 … */
export function indexOf(photos: readonly MadePhoto[]): FinderIndex {
  const index = new FinderIndex();
  const tree = new TermTree(TERMS, RELATIONS, []);
  index.setVocabulary(new FinderTerms(tree, new TermNames(tree)));
  index.setFolders(FOLDERS);
  index.setDossierFacts(DOSSIERS);
  photos.forEach((photo, i) => putPhoto(index, i + 1, photo));
  return index;
}

export function putPhoto(index: FinderIndex, id: number, photo: MadePhoto): void {
  index.setRow(id, photo.row);
  index.setTexts(id, photo.texts);
  index.setTerms(id, photo.termIds);
  index.setDossiers(id, photo.dossierIds);
  index.setChanges(id, { by: photo.changers, at: photo.changedAt });
}

/** The same photos as the naive evaluation sees them, where those with a place in `seen` are all that exist. */
export function searchables(
  photos: readonly MadePhoto[],
  seen?: readonly boolean[],
  knowsPrivate = true,
): SearchablePhoto[] {
  const shown = photos.filter((photo, i) => isShown(photo) && (seen?.[i] ?? true));
  return photos.map(({ row, texts, termIds, dossierIds, changers, changedAt }, i) =>
    searchableOf({
      // As they are put into the index.
      id: i + 1,
      row,
      texts,
      changes: { by: changers, at: changedAt },
      terms: termIds.map(termPath),
      dossiers: dossierIds.map((id) => (id === 2 ? ['Open day', 'Poster'] : [id === 1 ? 'Open day' : 'Poster'])),
      folder: FOLDERS.find(({ id }) => id === row.folderId) ?? { drive: '', path: '', away: false },
      double: row.pictureHash !== '' && shown.filter((other) => other.row.pictureHash === row.pictureHash).length > 1,
      searched: [row.name, texts.caption, ...texts.keywords],
      knowsPrivate,
    }),
  );
}

/** Which photos are within a sight, by the naive evaluation. */
export function seenPhotos(photos: readonly MadePhoto[], sight: Sight): boolean[] {
  const all = searchables(photos);
  return photos.map(({ row, dossierIds }, i) => {
    const folder = FOLDERS.find(({ id }) => id === row.folderId);
    const place = {
      driveId: folder?.driveId ?? '',
      folderIds: FOLDERS.filter(
        ({ driveId, path }) => driveId === folder?.driveId && (path === '' || `${folder.path}/`.startsWith(`${path}/`)),
      ).map(({ id }) => id),
      dossierIds: dossierIds.flatMap((id) => (id === 2 ? [1, 2] : [id])),
      isPrivate: (row.states & STATE_BITS.private) !== 0,
    };
    const photo = all[i];
    return isSeen(sight, place, (query) => photo !== undefined && evaluate(query, photo, TODAY));
  });
}

export function isShown({ row }: MadePhoto): boolean {
  return (row.states & (STATE_BITS.trashed | STATE_BITS.removed)) === 0;
}

function termPath(id: number): SearchablePhoto['terms'][number] {
  const labels = (termId: number | null): string[][] => {
    const term = TERMS.find((each) => each.id === termId);
    return term ? [...labels(term.parentId), labelsOf(term)] : [];
  };
  return { path: labels(id), also: id === 4 ? [labels(6)] : [] };
}

// oxfmt-ignore
const DATES = ['2019', '2019-03', '2019-06', '2024-06-14', '2024-06-15', '193X', '19XX', '2019-02/2019-06', '../1940', '2024-06-10T08', '2019-22', 'today', 'this week', 'last month', 'last 400 days'];
// oxfmt-ignore
const TEXTS = ['grey', 'saltmarsh', 'Salt*', '*o*', 'a*b?', 'Björk', 'ida brandt', '*%_\\', 'Print', '?????', '*', 'SKM_*', 'corvina m7', 'Vault 1', 'vault 1/2019*', 'the keeper', 'true', 'wind', 'face', 'kiteham', '*drachen*', '*box kite?and*', 'loan: bjork*', '*: l 9', 'cabinet:*', 'value: >=500', 'value: <500', 'v*: 0..1200', 'opens: at: >2019', 'opens: at: <=2019-05-01', 'opens: at: 2019-06..2020-01', '*: >=2019', 'value: >=much', 'value: 500'];
// oxfmt-ignore
const TERM_NAMES = ['Kites', 'delta', 'Kastendrachen', 'Objects', 'Kites/Delta', 'Objects/Delta', 'Objects/Kites/Box kite', 'Beach', 'none'];
const AREAS = ['54.3,8.6,20km', '54.3,8.7,100m', '54,8,55,9', '-20,170,60,-170', '54,8 55,8 54,9.5'];
const WORDS = [
  'kite',
  'kites',
  'dunes',
  'beach',
  'beaches',
  'skm',
  '20',
  'box',
  '*ach*',
  'd?n*',
  'strand',
  'kastendrachen',
  'bjork',
  'delt*',
  'none',
];

/** Values that make sense of each type of criterion, so that some photos meet and others miss. */
function valuesOf(criterion: Criterion): readonly string[] {
  switch (criterion.type) {
    case 'term':
      return TERM_NAMES;
    case 'dossier':
      return ['Open day', 'poster', 'Open day/Poster', '/Poster', '/Open day/poster', '/Open', 'none'];
    case 'text':
      return TEXTS;
    case 'choice':
    case 'presence':
    case 'state':
      return criterion.choices ?? [];
    case 'number':
      return ['-1', '0', '1', '2', '3', '4000', '24', '1.5', '50', '1/60', '2.8', '10'];
    case 'date':
      return DATES;
    case 'folder':
      return ['Vault 1', 'Vault 1/2019', 'Vault 1/2019/', 'Vault 1/20', 'Field_disk', 'vault 1'];
    case 'area':
      return AREAS;
    case 'photos':
      return ['1', '2 3 5', '999999'];
    case 'likeness':
    case 'search':
      return ['none'];
  }
}

const OPERATORS = ['=', '>', '>=', '<', '<='] as const;

/** Each criterion with each of its values, and where it can be compared with each operator and as a range. */
export const ALL_CONDITIONS: readonly CriterionQuery[] = CRITERIA.filter(
  ({ type }) => type !== 'search' && type !== 'likeness',
).flatMap((criterion) => {
  const values = valuesOf(criterion);
  const comparable = criterion.type === 'number' || criterion.type === 'date';
  const compared = (comparable ? OPERATORS : (['='] as const)).flatMap((operator) =>
    values.map((value): CriterionQuery => ({ kind: 'criterion', criterion: criterion.id, operator, value })),
  );
  const ranges = comparable
    ? values.map((value, i): CriterionQuery => ({
        kind: 'criterion',
        criterion: criterion.id,
        operator: '..',
        value,
        to: values[(i + 3) % values.length] ?? value,
      }))
    : [];
  return [...compared, ...ranges];
});

const leaf: fc.Arbitrary<Query> = fc.oneof(
  { weight: 6, arbitrary: pick(...ALL_CONDITIONS) },
  { weight: 2, arbitrary: pick(...WORDS).map((text): Query => ({ kind: 'words', text })) },
  {
    weight: 1,
    arbitrary: pick('box kite', 'am Strand', 'kite over', 'delta').map((text): Query => ({ kind: 'phrase', text })),
  },
);

/** Queries of every kind, nested a few levels. */
export const anyQuery: fc.Arbitrary<Query> = fc.letrec<{ tree: Query }>((tie) => ({
  tree: fc.oneof(
    { maxDepth: 3, withCrossShrink: true },
    { weight: 5, arbitrary: leaf },
    { weight: 2, arbitrary: fc.array(tie('tree'), { minLength: 2, maxLength: 3 }).map(allOf) },
    {
      weight: 2,
      arbitrary: fc
        .array(tie('tree'), { minLength: 2, maxLength: 3 })
        .map((of): Query => ({ kind: 'any', of: of.flatMap((part) => (part.kind === 'any' ? part.of : [part])) })),
    },
    { weight: 1, arbitrary: tie('tree').map((of): Query => (of.kind === 'not' ? of : { kind: 'not', of })) },
  ),
})).tree;

const scope: fc.Arbitrary<Scope> = fc.oneof(
  { weight: 1, arbitrary: fc.constant<Scope>({ kind: 'catalogue' }) },
  { weight: 2, arbitrary: pick('v', 'f', 'none').map((driveId): Scope => ({ kind: 'drive', driveId })) },
  { weight: 3, arbitrary: pick(1, 2, 3, 4, 5, 9).map((folderId): Scope => ({ kind: 'folder', folderId })) },
  { weight: 3, arbitrary: pick(1, 2, 3, 9).map((dossierId): Scope => ({ kind: 'dossier', dossierId })) },
  { weight: 2, arbitrary: anyQuery.map((query): Scope => ({ kind: 'search', searchId: 1, query })) },
);

/** What somebody may see. */
export const anySight: fc.Arbitrary<Sight> = fc.array(fc.record({ scope, private: fc.boolean() }), { maxLength: 3 });
