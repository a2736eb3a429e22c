// The living archive: the demo opens on work that is under way. Each step is done once and noted in the catalogue, so an
// interrupted start goes on where it was. Everything that is described goes through changes, as a cataloguer's work does.

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import { parseOutline, type OutlineTerm } from '@stellin/core/vocabulary/formats/indented';
import type { ChangeInput } from '@stellin/contract/ledger';
import type { NewTermInput } from '@stellin/contract/termChanges';
import { change as changeSchema } from '@stellin/contract/ledger';
import type { Job } from '@stellin/contract/jobs';
import { attach, detach, listBay, shelfName } from '@stellin/server/drives/bay';
import type { Database } from '@stellin/server/database/database';
import { readSetting, writeSetting } from '@stellin/server/database/settings';
import { StellinError } from '@stellin/server/errors';
import { ROOT } from '@stellin/server/root';
import type { Services } from '@stellin/server/services';
import { DEMO_ACCOUNTS } from './accounts';
import { makeArchive, readManifest, type Manifest } from './archive/make';
import { DRIVES, type DemoDrive } from './archive/plan';
import { randomOf } from './archive/random';

export interface PrepareOptions {
  small: boolean;
  step<Result>(
    title: string,
    work: (step: { progress(done: number, total: number, note?: string): void }) => Promise<Result>,
  ): Promise<Result>;
  isStopped(): boolean;
}

const SMALL_SHARE = 0.1;
const SETTING = 'demo';

/** Brings the demo to where it opens; what was done before stays as it is. */
export async function prepareDemo(services: Services, options: PrepareOptions): Promise<void> {
  const { step, isStopped } = options;
  const { home } = services.config;
  const manifest =
    (await readManifest(home)) ??
    (await step('Painting the archive of the Saltmarsh Kite Museum', (progress) =>
      makeArchive(home, options.small ? SMALL_SHARE : 1, progress, isStopped),
    ));
  await services.accounts.ensure(DEMO_ACCOUNTS);
  const done = await doneSteps(services.database);
  const once = async (name: string, title: string, work: Parameters<typeof step<void>>[1]) => {
    if (done.has(name)) return;
    await step(title, work);
    done.add(name);
    await noteSteps(services.database, done);
  };

  for (const drive of DRIVES as readonly DemoDrive[]) {
    if (drive.untouched) continue;
    await once(`index ${drive.label}`, `Taking in ${drive.label}`, async ({ progress }) => {
      await plugIn(services, drive.label);
      await takeIn(services, drive.label, progress, isStopped);
    });
  }
  await once('vocabulary', 'Building the vocabulary', () => addVocabulary(services));
  await once('describe', 'Describing part of the photos', ({ progress }) => describe(services, manifest, progress));
  for (const label of WRITTEN_BACK)
    await once(`write ${label}`, `Writing back what is said of ${label}`, ({ progress }) =>
      writeDrive(services, label, progress, isStopped),
    );
  await once('thesaurus', 'Tending the vocabulary', () => tendVocabulary(services));
  await once('describe more', 'Leaving some work under way', () => leaveWork(services, manifest));
  await once('marks', 'Defining marks', () => addMarks(services));
  await once('dossiers', 'Gathering dossiers', () => gatherDossiers(services));
  await once('prepared', 'Preparing field sets and templates', () => prepareDescribing(services));
  await once('people', 'Looking at the first pictures for faces, and settling names', ({ progress }) =>
    settlePeople(services, options.small ? LOOKED_AT_SMALL : LOOKED_AT, progress, isStopped),
  );
  await once('drives', 'Plugging the drives in and out', async () => {
    for (const drive of DRIVES as readonly DemoDrive[])
      await (drive.away ? unplug(services, drive.label) : plugIn(services, drive.label));
  });
  await services.drives.refresh();
}

/** Empties a database that holds a demo; refuses to touch any other. */
export async function forgetDemo(database: Database): Promise<void> {
  const tables = await database.row<{ found: string | null }>(`select to_regclass('public.setting')::text as found`);
  if (!tables?.found) return;
  if ((await doneSteps(database)).size === 0)
    throw new Error('the database in STELLIN_DATABASE_URL holds no demo; --fresh leaves it alone');
  await database.rows('drop schema public cascade');
  await database.rows('create schema public');
  await database.rows('drop schema if exists pgboss cascade');
}

async function doneSteps(database: Database): Promise<Set<string>> {
  return new Set(z.array(z.string()).parse((await readSetting(database, SETTING)) ?? []));
}

async function noteSteps(database: Database, done: ReadonlySet<string>): Promise<void> {
  await writeSetting(database, SETTING, [...done]);
}

async function plugIn(services: Services, label: string): Promise<void> {
  const drive = (await listBay(services.config.home)).find(({ name }) => name === shelfName(label));
  if (drive?.attachedAt === null) await attach(services.config.home, label);
  await services.drives.refresh();
}

async function unplug(services: Services, label: string): Promise<void> {
  const drive = (await listBay(services.config.home)).find(({ name }) => name === shelfName(label));
  if (drive?.attachedAt) await detach(services.config.home, label);
  await services.drives.refresh();
}

/** Field sets, templates and rules as the museum's team has settled them. */
async function prepareDescribing(services: Services): Promise<void> {
  const keeper = await accountId(services, 'keeper');
  const terms = new Map((await services.vocabulary.list()).map(({ id, label }) => [label, id]));
  const apply = (change: ChangeInput) => services.ledger.apply(changeSchema.parse(change), keeper);
  await apply({
    kind: 'saveFieldSet',
    fieldSetId: null,
    name: 'Events',
    entries: [
      { target: 'title', required: true, help: 'Event and year, as on the poster' },
      { target: 'description', required: true, help: 'Who does what where; kites by their kind' },
      { target: 'event', branch: terms.get('Events') ?? null },
      { target: 'personInImage' },
      { target: 'creator', required: true },
      {
        target: 'creditLine',
        choices: ['Saltmarsh Kite Museum', 'Private loan'],
        initial: 'Saltmarsh Kite Museum',
      },
      { target: 'copyrightNotice', required: true },
      { target: 'city' },
      { target: 'country' },
    ],
  });
  await apply({
    kind: 'saveFieldSet',
    fieldSetId: null,
    name: 'Collection shots',
    entries: [
      { target: 'title', required: true },
      { target: 'artworkOrObject', help: 'The kite itself: maker, date, inventory number' },
      { target: 'custom:Condition', kind: 'choice', choices: ['Good', 'Worn', 'Repaired', 'Fragile'] },
      { target: 'custom:Loan number', help: 'Of kites that are lent to us' },
      { target: 'jobId' },
      { target: 'copyrightNotice', required: true },
    ],
  });
  await apply({
    kind: 'saveTemplate',
    templateId: null,
    name: 'Festival day',
    note: 'For all pictures of one day of the festival',
    edits: [
      { target: 'title', mode: 'fill', value: 'Saltmarsh Kite Festival {year}' },
      { target: 'headline', mode: 'fill', value: '{folder}, {date}' },
      { target: 'copyrightNotice', mode: 'fill', value: '© {year} Saltmarsh Kite Museum' },
      { target: 'jobId', mode: 'replace', value: 'SKF-{year}-{number:4}' },
    ],
    termIds: [terms.get('Saltmarsh Kite Festival')].filter((id) => id !== undefined),
  });
  await apply({
    kind: 'saveQualityRule',
    ruleId: null,
    name: 'Events',
    query: 'term:Events',
    requires: ['caption', 'location', 'creator', 'copyrightNotice'],
  });
}

/** So many pictures are looked at before the demo opens; the others after that. */
const LOOKED_AT = 96;
const LOOKED_AT_SMALL = 24;
/** Of the names that files bring so many are settled. */
const SETTLED = 11;

async function settlePeople(
  services: Services,
  pictures: number,
  progress: Progress,
  isStopped: () => boolean,
): Promise<void> {
  await services.scanning.some(pictures, (done) => {
    progress(done, pictures);
    if (isStopped()) throw new Error('stopped');
  });
  const names = await services.people.names();
  const decisions = names.slice(0, SETTLED).map(({ name }) => ({ name, who: { name } }));
  if (decisions.length > 0) await apply(services, 'keeper', { kind: 'settleNames', decisions });
}

type Progress = (done: number, total: number, note?: string) => void;

async function takeIn(services: Services, label: string, progress: Progress, isStopped: () => boolean): Promise<void> {
  const drive = (await services.drives.list()).find((candidate) => candidate.label === label);
  if (!drive) throw new Error(`the drive ${label} is not plugged in`);
  const keeper = await accountId(services, 'keeper');
  const running = (await services.jobs.list()).find(
    (job) => job.title === `Take in ${label}` && job.finishedAt === null,
  );
  const job = running ?? (await services.intake.takeIn({ driveKey: drive.key, folder: '', subFolders: true }, keeper));
  await finish(services, job, progress, isStopped);
}

/** Waits until a job has ended. */
async function finish(services: Services, { id }: Job, progress: Progress, isStopped: () => boolean): Promise<void> {
  const changed = nextChange(services);
  for (;;) {
    const job = await services.jobs.find(id);
    progress(job.done, job.total, job.current);
    if (job.state === 'done') return changed.end();
    if (job.finishedAt !== null || isStopped()) {
      changed.end();
      throw new Error(isStopped() ? 'stopped' : `${job.title}: ${job.current}`);
    }
    await changed.wait();
  }
}

/** Resolves at the next commit anywhere, or after a second. */
function nextChange(services: Services): { wait(): Promise<void>; end(): void } {
  let wake: () => void = () => undefined;
  const unsubscribe = services.events.subscribe(() => wake());
  return {
    wait: () =>
      new Promise((resolve) => {
        const timer = setTimeout(resolve, 1000);
        wake = () => {
          clearTimeout(timer);
          resolve();
        };
      }),
    end: unsubscribe,
  };
}

async function accountId(services: Services, name: string): Promise<number> {
  const account = await services.accounts.find(name);
  if (!account) throw new Error(`there is no account ${name}`);
  return account.id;
}

/** Applies a change as somebody; one that would change nothing is passed over, since a step may run again. */
async function apply(services: Services, name: string, input: ChangeInput): Promise<void> {
  try {
    await services.ledger.apply(changeSchema.parse(input), await accountId(services, name));
  } catch (error) {
    if (
      !(error instanceof StellinError) ||
      !['nothingToDo', 'termExists', 'searchExists', 'padExists', 'dossierExists'].includes(error.code)
    )
      throw error;
  }
}

/** Which headings of vocabulary.txt begin a vocabulary of their own; the others make the thesaurus. */
const VOCABULARIES: readonly { name: string; note: string; headings: readonly string[] }[] = [
  {
    name: 'Places',
    note: 'Where pictures were taken, and where kites come from',
    headings: ['Places', 'Regions of origin'],
  },
  { name: 'Picture types', note: 'What kind of picture it is', headings: ['Picture types'] },
];

async function addVocabulary(services: Services): Promise<void> {
  const { terms, errors } = parseOutline(readFileSync(join(ROOT, 'demo', 'vocabulary.txt'), 'utf8'));
  if (errors[0]) throw new Error(`vocabulary.txt, line ${errors[0].line}: ${errors[0].message}`);
  const { vocabularies } = await services.vocabulary.overview();
  const define = { kind: 'defineVocabulary', language: 'en' } as const;
  await apply(services, 'keeper', {
    ...define,
    vocabularyId: vocabularies[0]?.id ?? null,
    name: 'Museum thesaurus',
    note: 'Objects, people, events and weather',
  });
  for (const { name, note } of VOCABULARIES)
    if (!vocabularies.some((known) => known.name === name))
      await apply(services, 'keeper', { ...define, vocabularyId: null, name, note });
  const now = (await services.vocabulary.overview()).vocabularies;
  const nameOf = (label: string) =>
    VOCABULARIES.find(({ headings }) => headings.includes(label))?.name ?? 'Museum thesaurus';
  for (const { id, name } of now) {
    const own = terms.filter(({ label }) => nameOf(label) === name);
    if (own.length)
      await apply(services, 'keeper', { kind: 'addTerms', parentId: null, vocabularyId: id, terms: own.map(newTerm) });
  }
}

/** What makes a vocabulary live: notes, links, doubtful spots to mend, proposals that wait, pads. */
async function tendVocabulary(services: Services): Promise<void> {
  const list = await services.vocabulary.list();
  const id = (label: string) => list.find((term) => term.label === label)?.id ?? 0;
  for (const [label, facts] of CARDS) await apply(services, 'keeper', { kind: 'editTerm', termId: id(label), facts });
  for (const [relation, from, to] of LINKS)
    await apply(services, 'keeper', { kind: 'relateTerms', relation, fromId: id(from), toId: id(to) });
  // Added in haste by somebody who did not find Rokkaku.
  await apply(services, 'keeper', { kind: 'addTerms', parentId: id('Bowed kites'), terms: [{ label: 'Rokaku' }] });
  await apply(services, 'keeper', { kind: 'addTerms', parentId: id('Bowed kites'), terms: [{ label: 'Bermuda' }] });
  await apply(services, 'keeper', { kind: 'deprecateTerm', termId: id('Bermuda-type'), replacedBy: id('Hexagon') });
  const doubled = (await services.vocabulary.list()).find(({ label }) => label === 'Rokaku')?.id ?? 0;
  await apply(services, 'cataloguer', {
    kind: 'giveTerms',
    selection: { query: 'only:Rokkaku within:"Vault 2"' },
    termIds: [doubled],
  });
  await apply(services, 'cataloguer', {
    kind: 'giveTerms',
    selection: { query: 'keyword:rok* drive:"Studio disk"' },
    termIds: [doubled],
  });
  for (const { below, ...proposal } of PROPOSALS)
    await apply(services, 'cataloguer', { kind: 'proposeTerm', parentId: id(below), ...proposal });
  for (const { name, keys } of PADS)
    await apply(services, 'keeper', {
      kind: 'definePad',
      padId: null,
      name,
      shared: true,
      keys: Object.fromEntries(Object.entries(keys).map(([key, label]) => [key, id(label)])),
    });
}

const CARDS = [
  [
    'Rokkaku',
    { scopeNote: 'Hexagonal bowed kite with two spars across. Use also for fighting rokkaku.', colour: 'green' },
  ],
  ['Kites', { scopeNote: 'The objects themselves, in the air or not.', colour: 'teal' }],
  ['Delta', { scopeNote: 'Three-cornered kite with a keel. For two lines use Stunt delta.' }],
  [
    'Parafoil',
    {
      scopeNote: 'Soft kite with open cells that the wind fills.',
      definition: 'Flexible wing of cells between two sails.',
    },
  ],
  [
    'Saltmarsh Kite Festival',
    { colour: 'amber', scopeNote: 'The yearly festival in June. For the winter meeting use Winter indoor meeting.' },
  ],
  ['Portrait', { scopeNote: 'One person is what the picture is about.' }],
] as const;

const LINKS = [
  ['related', 'Rokkaku', 'Fighter kite'],
  ['related', 'Saltmarsh Kite Festival', 'One Sky day'],
  ['broader', 'Rokkaku', 'East Asian kites'],
  ['broader', 'Edo', 'East Asian kites'],
] as const;

const PROPOSALS = [
  {
    below: 'Soft kites',
    label: 'Ray',
    scopeNote: 'Flat soft kite in the shape of a fish; many at the festival of 2014.',
    selection: { query: 'only:Manta within:"Vault 1"' },
  },
  {
    below: 'Flying',
    label: 'Lit kites',
    scopeNote: 'Kites with lamps on line or sail, flown after sunset.',
    selection: { query: 'term:Night' },
  },
] as const;

const PADS = [
  {
    name: 'Festival',
    keys: {
      '1': 'Flyer',
      '2': 'Judge',
      '3': 'Visitor',
      '4': 'Child',
      q: 'Rokkaku',
      w: 'Delta',
      e: 'Parafoil',
      r: 'Box kite',
      a: 'Overall view',
      s: 'Detail',
      d: 'Portrait',
    },
  },
  {
    name: 'Collection',
    keys: {
      '1': 'Overall view',
      '2': 'Detail',
      '3': 'Back view',
      '4': 'With scale',
      q: 'Diamond',
      w: 'Hexagon',
      e: 'Sled',
    },
  },
] as const;

function newTerm({ label, heading, otherLabels, narrower }: OutlineTerm): NewTermInput {
  return { label, heading, otherLabels, narrower: narrower.map(newTerm) };
}

interface Known {
  id: number;
  drive: string;
  path: string;
}

/** All photos of the catalogue with their place; the demo's few hundred only. */
async function knownPhotos(services: Services): Promise<Known[]> {
  const [drives, folders] = await Promise.all([services.drives.list(), services.drives.listFolders()]);
  const labels = new Map(drives.map(({ id, label }) => [id, label]));
  const paths = new Map(folders.map(({ id, path }) => [id, path]));
  const known: Known[] = [];
  for (let offset = 0; ; offset += 200) {
    const page = await services.photos.list({ query: '', sort: 'added', offset, limit: 200 });
    known.push(
      ...page.map(({ id, name, driveId, folderId }) => ({
        id,
        drive: labels.get(driveId) ?? '',
        path: `${paths.get(folderId)}/${name}`,
      })),
    );
    if (page.length < 200) return known;
  }
}

/** Photos by the terms that are true of them; each photo counts for a term with the given probability. */
async function photosByTerm(
  services: Services,
  manifest: Manifest,
  probability: (drive: string, term: string) => number,
): Promise<Map<string, number[]>> {
  const ids = new Map((await knownPhotos(services)).map(({ id, drive, path }) => [`${drive}/${path}`, id]));
  const byTerm = new Map<string, number[]>();
  for (const { drive, path, terms } of manifest.photos) {
    const id = ids.get(`${drive}/${path}`);
    const random = randomOf(`describe ${drive}/${path}`);
    for (const term of terms) {
      if (!id || !random.chance(probability(drive, term))) continue;
      byTerm.set(term, [...(byTerm.get(term) ?? []), id]);
    }
  }
  return byTerm;
}

const SHARE_DESCRIBED: Record<string, number> = {
  'Vault 1': 0.7,
  'Vault 2': 0.45,
  'Studio disk': 0.6,
  'Kessel bequest': 0.3,
};

async function describe(services: Services, manifest: Manifest, progress: Progress): Promise<void> {
  const termIds = await idsOfTerms(services);
  const byTerm = [...(await photosByTerm(services, manifest, (drive) => SHARE_DESCRIBED[drive] ?? 0))];
  for (const [i, [label, ids]] of byTerm.entries()) {
    const termId = termIds.get(label);
    if (termId === undefined) throw new Error(`the vocabulary has no term “${label}”`);
    await apply(services, i % 3 === 0 ? 'keeper' : 'cataloguer', {
      kind: 'giveTerms',
      selection: { query: null, plus: ids },
      termIds: [termId],
    });
    progress(i + 1, byTerm.length, label);
  }
  for (const search of SAVED_SEARCHES)
    await apply(services, 'keeper', { kind: 'saveSearch', sort: 'taken', ...search });
}

/** Some dossiers for work that is under way, and the searches that go with it in their folders. */
async function gatherDossiers(services: Services): Promise<void> {
  for (const { parent, ...dossier } of DOSSIERS) {
    const known = await services.dossiers.list(await accountId(services, 'keeper'));
    const parentId = known.find(({ name }) => name === parent)?.id ?? null;
    await apply(services, 'keeper', { kind: 'makeDossier', parentId, ...dossier });
  }
  const searches = await services.search.list();
  for (const { name, ...change } of TIDIED_SEARCHES) {
    const search = searches.find((each) => each.name === name);
    if (search) await apply(services, 'keeper', { kind: 'changeSearch', searchId: search.id, ...change });
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

async function addMarks(services: Services): Promise<void> {
  const known = new Set((await services.marks.list()).map(({ name }) => name));
  for (const mark of MARKS)
    if (!known.has(mark.name)) await apply(services, 'keeper', { kind: 'defineMark', markId: null, ...mark });
  for (const [mark, query] of MARKED)
    await apply(services, 'cataloguer', { kind: 'setMark', selection: { query }, mark });
}

async function idsOfTerms(services: Services): Promise<Map<string, number>> {
  const terms = await services.vocabulary.list();
  return new Map(terms.filter(({ heading }) => !heading).map(({ label, id }) => [label, id]));
}

/** Drives whose files say already what the catalogue says; on the others the writes wait. */
const WRITTEN_BACK = ['Vault 1', 'Vault 2'];

async function writeDrive(
  services: Services,
  wanted: string,
  progress: Progress,
  isStopped: () => boolean,
): Promise<void> {
  const drive = (await services.drives.list()).find(({ label }) => label === wanted);
  const overview = (await services.writeBack.overview()).find(({ id }) => id === drive?.id);
  if (!drive?.id || !overview?.waiting) return;
  const job = await services.writeBack.run(
    services.jobs,
    { driveId: drive.id, retryFailed: false },
    await accountId(services, 'keeper'),
  );
  await finish(services, job, progress, isStopped);
}

/** After the write: ratings and a few terms more, so that something waits on every drive. */
async function leaveWork(services: Services, manifest: Manifest): Promise<void> {
  const termIds = await idsOfTerms(services);
  for (const [label, query] of [
    ['Visitor', 'within:"Vault 1/2014" has:terms'],
    ['Fresh breeze', 'within:"Vault 1/2011" term:"In flight"'],
  ] as const) {
    const termId = termIds.get(label);
    if (termId !== undefined)
      await apply(services, 'cataloguer', { kind: 'giveTerms', selection: { query }, termIds: [termId] });
  }
  const ids = new Map((await knownPhotos(services)).map(({ id, drive, path }) => [`${drive}/${path}`, id]));
  const rejected = manifest.photos
    .flatMap(({ drive, path, look }) =>
      look === 'blurred' || look === 'dark' ? [ids.get(`${drive}/${path}`) ?? 0] : [],
    )
    .filter(Boolean);
  if (rejected.length)
    await apply(services, 'cataloguer', { kind: 'setRating', selection: { query: null, plus: rejected }, rating: -1 });
}
