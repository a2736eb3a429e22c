// What the museum's team has gathered: saved searches, dossiers, marks.

import { ARCHIVIST, apply, type Preparing } from './applying';
import { PROGRAM } from '@stellin/server/catalogue/viewer';

/** Some dossiers for work that is under way, and the searches that go with it in their folders. */
export async function gatherDossiers({ services }: Preparing): Promise<void> {
  for (const { parent, ...dossier } of DOSSIERS) {
    const known = await services.dossiers.list(PROGRAM);
    const parentId = known.find(({ name }) => name === parent)?.id ?? null;
    await apply(services, ARCHIVIST, { kind: 'makeDossier', parentId, ...dossier });
  }
}

/** Keeps the searches that the museum's team asks again and again, in their folders. */
export async function saveSearches({ services }: Preparing): Promise<void> {
  for (const search of SAVED_SEARCHES)
    await apply(services, ARCHIVIST, { kind: 'saveSearch', sort: 'taken', ...search });
  const searches = await services.search.all.list();
  for (const { name, ...change } of TIDIED_SEARCHES) {
    const search = searches.find((each) => each.name === name);
    if (search) await apply(services, ARCHIVIST, { kind: 'changeSearch', searchId: search.id, ...change });
  }
}

const DOSSIERS: readonly {
  name: string;
  parent?: string;
  note?: string;
  colour?: 'amber' | 'blue' | 'green';
  selection?: { query: string };
}[] = [
  {
    name: 'Open day',
    note: 'For the board of the open day',
    colour: 'amber',
    selection: { query: 'term:Rokkaku rating:>=3' },
  },
  { name: 'Poster', parent: 'Open day', selection: { query: 'term:Rokkaku rating:5' } },
  { name: 'Sixty years of kites', note: 'Jubilee book', colour: 'blue', selection: { query: 'taken:<1975 kind:tiff' } },
  { name: 'Makers at work', colour: 'green', selection: { query: 'term:Workshops has:people' } },
];

const TIDIED_SEARCHES = [
  { name: 'No caption', folder: 'Gaps', pinned: true, note: 'Write one sentence: who, what, where' },
  { name: 'Undescribed on Vault 2', folder: 'Gaps', pinned: true },
  { name: 'Damaged files', folder: 'Gaps' },
  { name: 'Festivals, three stars and more', folder: 'Picks', pinned: true, note: 'For the yearly report' },
  { name: 'Evening light', folder: 'Picks' },
  { name: 'Single-line kites in flight', folder: 'Picks' },
];

const SAVED_SEARCHES = [
  { name: 'Single-line kites in flight', query: 'term:"Single-line kites" term:"In flight"' },
  { name: 'Festivals, three stars and more', query: 'term:"Saltmarsh Kite Festival" rating:>=3' },
  { name: 'Undescribed on Vault 2', query: 'drive:"Vault 2" missing:terms' },
  { name: 'No caption', query: 'missing:caption' },
  { name: 'Rokkaku in any spelling', query: 'term:Rokkaku or keyword:rok*ku or keyword:roka*' },
  { name: 'Before 1975', query: 'taken:<1975' },
  { name: 'Evening light', query: 'term:"Golden hour" or term:Dusk or term:Night' },
  { name: 'Damaged files', query: 'is:damaged' },
] as const;

/** The states that the museum's team works with. */
const MARKS = [
  { name: 'To describe', letter: 'e', colour: 'amber' },
  { name: 'Checked', letter: 'h', colour: 'green' },
  { name: 'For print', letter: 'f', colour: 'blue' },
  { name: 'On loan', letter: 'o', colour: 'violet' },
  { name: 'Rights unclear', letter: 'u', colour: 'red' },
  { name: 'Scan again', letter: 'a', colour: 'brown' },
] as const;

const MARKED = [
  ['Checked', 'within:"Vault 1/2009" has:terms has:caption'],
  ['To describe', 'drive:"Vault 2" missing:terms rating:>=2'],
  ['For print', 'rating:5'],
  ['Scan again', 'drive:"Kessel bequest" taken:<1945'],
] as const;

export async function defineMarks({ services }: Preparing): Promise<void> {
  const known = new Set((await services.marks.list(PROGRAM)).map(({ name }) => name));
  for (const mark of MARKS)
    if (!known.has(mark.name)) await apply(services, ARCHIVIST, { kind: 'defineMark', markId: null, ...mark });
}

/** Marks photos on all drives. */
export async function markPhotos({ services }: Preparing): Promise<void> {
  for (const [mark, query] of MARKED) await apply(services, ARCHIVIST, { kind: 'setMark', selection: { query }, mark });
}
