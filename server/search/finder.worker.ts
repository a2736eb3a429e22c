// The thread that holds the finder index: reads the catalogue once, follows what is committed, answers questions.

import { parentPort, workerData } from 'node:worker_threads';
import { Client } from 'pg';
import { Finder } from '@stellin/core/search/index/finder';
import { FinderIndex } from '@stellin/core/search/index/finderIndex';
import { FinderTerms } from '@stellin/core/search/index/finderTerms';
import { STATE_BITS, type ChangePart, type RowPart, type TextPart } from '@stellin/core/search/index/records';
import { folderText } from '@stellin/core/search/photo';
import { searchableOf } from '@stellin/core/search/searchable';
import { foldText } from '@stellin/core/text/words';
import { labelsOf } from '@stellin/core/vocabulary/term';
import { rowsOver } from '../database/rowsOver';
import { messageOf } from '../errors';
import { loadVocabularies, type Snapshot } from '../catalogue/vocabularySnapshot';
import type { FinderData } from './finder';
import { forgetChanges, keep, readKept } from './keeping';
import { loadDossiers, loadFolders, loadIds, loadPart, type PartName, type PartOf } from './loading';
import { readNotices, type Notice } from './notices';
import type { GroupBy } from '@stellin/core/search/sorts';
import type { Answer, Ask, ChoiceDescription, Questions, SeenPhoto } from './questions';

const { url, kept } = workerData as FinderData;
const client = new Client({ connectionString: url, application_name: 'stellin finder' });

let index = new FinderIndex();
let finder = new Finder(index);
/** What was committed before it is in the index, as PostgreSQL writes snapshots. */
let snapshot: string | undefined;
let vocabularyVersion = -1;
let followedAt = 0;

/** When the index was kept last, and when somebody asked last. */
let keptAt = 0;
let askedAt = 0;
let changedSince = false;

/** Changes are kept so long; an index that slept longer is made anew. */
const KEPT_HOURS = 2;
const MOST_ASLEEP_MS = 60 * 60 * 1000;
/** For so many it pays to connect. */
const MANY = 5000;
/** Beyond so many a part is read whole. */
const WHOLE = 300_000;

type Take = (ids: readonly number[] | undefined, from?: Client) => Promise<void>;

const TAKE: Record<PartName, Take> = {
  row: taking(
    'row',
    (id, row) => index.setRow(id, row),
    (id) => index.remove(id),
  ),
  texts: taking(
    'texts',
    (id, texts) => index.setTexts(id, texts),
    () => undefined,
  ),
  terms: taking(
    'terms',
    (id, terms) => index.setTerms(id, terms),
    (id) => index.setTerms(id, []),
  ),
  dossiers: taking(
    'dossiers',
    (id, dossiers) => index.setDossiers(id, dossiers),
    (id) => index.setDossiers(id, []),
  ),
  changes: taking(
    'changes',
    (id, changes) => index.setChanges(id, changes),
    (id) => index.setChanges(id, { by: [], at: undefined }),
  ),
};

/** Reads a part of photos; those that were asked for and have none lack it. */
function taking<Name extends PartName>(
  name: Name,
  set: (id: number, part: PartOf<Name>) => void,
  lacks: (id: number) => void,
): Take {
  return async (ids, from = client) => {
    const seen = new Set<number>();
    await loadPart(from, name, ids, (id, part) => {
      set(id, part);
      if (ids) seen.add(id);
    });
    for (const id of ids ?? []) if (!seen.has(id) && index.ordinalOf(id) >= 0) lacks(id);
  };
}

async function connectedClient(): Promise<Client> {
  const made = new Client({ connectionString: url, application_name: 'stellin finder' });
  // Who asks over it is told by the answer; unheard it would end the thread.
  made.on('error', () => undefined);
  await made.connect();
  return made;
}

function begin(): void {
  index = new FinderIndex();
  finder = new Finder(index);
  vocabularyVersion = -1;
}

async function readVocabularies(): Promise<Snapshot> {
  await client.query('begin isolation level repeatable read, read only');
  try {
    return await loadVocabularies(rowsOver(client));
  } finally {
    await client.query('commit');
  }
}

/** The index as it was kept, if that fits the catalogue as it is. */
async function takeKept(): Promise<boolean> {
  begin();
  const found = kept && (await readKept(client, kept, index));
  if (!found) return false;
  index.setFolders(await loadFolders(client, undefined));
  index.setDossierFacts(await loadDossiers(client));
  snapshot = found.snapshot;
  keptAt = Date.now();
  changedSince = false;
  return true;
}

let keeping: Promise<void> | undefined;

/** Writes the index down, unless it is quick to make or says what was written last. Who asks meanwhile does not wait for the disk. */
function keepIndex(): Promise<void> {
  return (keeping ??= writeCopy().finally(() => (keeping = undefined)));
}

async function writeCopy(): Promise<void> {
  const copy = await alone(() => Promise.resolve(copyOfIndex()));
  if (!kept || !copy) return;
  try {
    // A connection of its own, since others are in use for what is asked.
    const own = await connectedClient();
    try {
      await keep(own, kept, copy.parts, copy);
      await forgetChanges(own, KEPT_HOURS);
    } finally {
      await own.end();
    }
  } catch (error) {
    changedSince = true;
    throw error;
  }
}

/** What is to be written, and of which snapshot it is. */
function copyOfIndex() {
  if (!kept || !snapshot || index.size < kept.from || !changedSince) return undefined;
  keptAt = Date.now();
  changedSince = false;
  return { parts: [...index.saved()], snapshot, at: new Date(followedAt) };
}

/** It can be made anew at any time: that the disk is full, for instance, is told and does no harm. */
function notKept(error: unknown): void {
  process.emitWarning(`the index was not kept: ${messageOf(error)}`);
}

/** Several connections, so that the database works while what it gave is put in. */
async function takeMany(parts: readonly (readonly [take: Take, ids: readonly number[] | undefined])[]): Promise<void> {
  const clients = await Promise.all(parts.map(() => connectedClient()));
  try {
    await Promise.all(parts.map(([take, ids], i) => take(ids, clients[i])));
  } finally {
    await Promise.all(clients.map((each) => each.end()));
  }
}

async function makeAnew(): Promise<void> {
  begin();
  const { rows } = await client.query<{ snapshot: string }>('select pg_current_snapshot()::text as snapshot');
  index.setFolders(await loadFolders(client, undefined));
  index.setDossierFacts(await loadDossiers(client));
  index.reserve(await loadIds(client));
  await takeMany(Object.values(TAKE).map((take) => [take, undefined]));
  // The order of the Desk is sorted before anybody waits for it.
  finder.page({ query: { kind: 'everything' } }, { id: 'taken', descending: true }, 0, 1, '');
  snapshot = rows[0]?.snapshot;
  changedSince = true;
  await forgetChanges(client, KEPT_HOURS);
}

/** Brings the index up to what is committed now. */
async function follow(): Promise<void> {
  const isAsleep = snapshot !== undefined && Date.now() - followedAt > MOST_ASLEEP_MS;
  if (isAsleep || (!snapshot && !(await takeKept()))) await makeAnew();
  const startedAt = Date.now();
  const now = await readNotices(client, snapshot);
  if (now.vocabularyVersion !== vocabularyVersion) {
    const { version, tree, names } = await readVocabularies();
    index.setVocabulary(new FinderTerms(tree, names()));
    vocabularyVersion = version;
  }
  const changed = new Map<Notice['part'], Set<number>>();
  for (const notice of now.notices) {
    if (takeDelta(notice)) continue;
    const known = changed.get(notice.part) ?? new Set<number>();
    for (const id of notice.ids) known.add(id);
    changed.set(notice.part, known);
  }
  if (changed.has('drives')) index.setFolders(await loadFolders(client, undefined));
  else if (changed.has('folders')) index.setFolders(await loadFolders(client, [...(changed.get('folders') ?? [])]));
  if (changed.has('dossierFacts')) index.setDossierFacts(await loadDossiers(client));
  // What is read anew is at least as new as what was told by itself.
  const parts = Object.entries(TAKE).flatMap(([part, take]) => {
    const ids = changed.get(part as PartName);
    return ids ? [[take, ids.size > WHOLE && ids.size > index.size / 2 ? undefined : [...ids]] as const] : [];
  });
  if (parts.some(([, ids]) => !ids || ids.length > MANY)) await takeMany(parts);
  else for (const [take, ids] of parts) await take(ids);
  for (const id of changed.get('gone') ?? []) index.remove(id);
  snapshot = now.snapshot;
  followedAt = startedAt;
  changedSince ||= now.notices.length > 0;
}

/** Takes over a change that says all there is to know; returns whether it does. */
function takeDelta({ part, ids, termId, entry }: Notice): boolean {
  if (part === 'given' && termId !== null) index.giveTerm(ids, termId);
  else if (part === 'taken' && termId !== null) index.takeTerm(ids, termId);
  else if (part === 'changes' && entry) index.noteChange(ids, entry.by ?? undefined, entry.at);
  else return false;
  return true;
}

let following: Promise<void> | undefined;
let next: Promise<void> | undefined;

/** Whoever wants the index to follow waits for this work. */
function busy<Result>(work: () => Promise<Result>): Promise<Result> {
  const result = work();
  const ended = () => {
    if (following === running) following = undefined;
  };
  // Whether it went well is told to the one who began it.
  const running: Promise<void> = result.then(ended, ended);
  following = running;
  return result;
}

/** Does something while the index stays as it is. */
function alone<Result>(work: () => Promise<Result>): Promise<Result> {
  const before = following;
  return busy(async () => {
    await before;
    return work();
  });
}

/** Follows what was committed before the call: one who asks while others are being served waits for the next look. */
function upToDate(): Promise<void> {
  if (!following) return busy(follow);
  return (next ??= following.then(() => {
    next = undefined;
    return upToDate();
  }));
}

const ANSWERS: Questions = {
  follow: () => ({ photos: index.size }),
  counts: ({ queries, today }) => queries.map((query) => finder.count(query, today)),
  page: ({ asked, order, offset, limit, today }) => finder.page(asked, order, offset, limit, today),
  position: ({ id, asked, order, today }) => finder.position(id, asked, order, today),
  groups: ({ asked, order, by, today }) => {
    const { number, text } = GROUPS[by]();
    return finder.groups(asked, order, number, today).map(({ first, count }) => ({ key: text(number(first)), count }));
  },
  facets: ({ facets, limit, containing, today }) =>
    facets.map(({ id, query }) =>
      finder.facet(query, id, today, limit, containing ? (label) => foldText(label).includes(containing) : undefined),
    ),
  texts: ({ query, criterion, containing, limit, today }) =>
    finder.texts(
      query,
      criterion,
      today,
      limit,
      containing ? (label) => foldText(label).includes(containing) : undefined,
    ).values,
  terms: ({ query, ids, today }) => {
    const { counts, missing = 0 } = finder.countsOfTerms(query, ids, today);
    return { counts, missing };
  },
  describe: ({ asked, mostKeywords, today }) => {
    const { photos, terms, within, keywords, folders } = finder.describe(asked, today, mostKeywords);
    const drives = new Map<string, ChoiceDescription['drives'][number]>();
    for (const [folderId, count] of folders) {
      const folder = index.folders.get(folderId);
      if (!folder) continue;
      const drive = drives.get(folder.driveId) ?? {
        id: folder.driveId,
        label: folder.drive,
        away: folder.away,
        photos: 0,
      };
      drives.set(folder.driveId, { ...drive, photos: drive.photos + count });
    }
    return {
      photos,
      terms: [...terms],
      within: [...within],
      keywords: keywords.map(({ label, photos: having }) => ({ keyword: label, photos: having })),
      drives: [...drives.values()],
    };
  },
  within: ({ asked, queries, most, today }) => finder.within(asked, queries, today, most),
  timeSpan: ({ query, today }) => finder.timeSpan(query, today),
  meeting: ({ query, ids, today }) => finder.meeting(query, ids, today),
  overTime: ({ query, bounds, today }) => finder.overTime(query, bounds, today),
  photo: ({ id }) => seePhoto(id),
};

const DAY = 86_400;
const NONE = -Infinity;

/** What tells groups apart, and how it is written. */
const GROUPS: Record<GroupBy, () => { number: (ordinal: number) => number; text: (number: number) => string | null }> =
  {
    day: () => ({
      number: (ordinal) => {
        const day = Math.floor(index.taken.from.get(ordinal) / DAY);
        return Number.isNaN(day) ? NONE : day;
      },
      text: (day) => (day === NONE ? null : new Date(day * DAY * 1000).toISOString().slice(0, 10)),
    }),
    folder: () => ({
      number: (ordinal) => index.folder.get(ordinal),
      text: (id) => {
        const folder = index.folders.get(id);
        return folder ? folderText(folder.drive, folder.path) : '';
      },
    }),
    kind: () => ({
      number: (ordinal) => index.single.kind.column.get(ordinal),
      text: (kind) => index.single.kind.texts.shown(kind),
    }),
    rating: () => ({ number: (ordinal) => index.measures.rating.get(ordinal), text: String }),
    bundle: () => ({
      number: (ordinal) => index.bundle.get(ordinal),
      text: (bundle) => (bundle < 0 ? null : String(bundle)),
    }),
  };

async function seePhoto(id: number): Promise<SeenPhoto | undefined> {
  const ordinal = index.ordinalOf(id);
  let row: RowPart | undefined;
  let texts: TextPart | undefined;
  let changes: ChangePart = { by: [], at: undefined };
  await loadPart(client, 'row', [id], (_, part) => (row = part));
  await loadPart(client, 'texts', [id], (_, part) => (texts = part));
  await loadPart(client, 'changes', [id], (_, part) => (changes = part));
  const folder = row && index.folders.get(row.folderId);
  if (!row || !texts || !folder || ordinal < 0) return undefined;
  const { tree } = index.terms;
  const labels = (termId: number) => tree.path(termId).map(labelsOf);
  const photo = searchableOf({
    row,
    texts,
    changes,
    terms: index.termIds.get(ordinal).map((termId) => ({
      path: labels(termId),
      // Broader terms elsewhere, as ways of their own.
      also: [...tree.above(termId)].map(labels),
    })),
    dossiers: index.dossierIds.get(ordinal).map((dossierId) => index.dossiers.path(dossierId).map(({ name }) => name)),
    folder,
    double: index.inState('double').has(ordinal),
    searched: textParts(texts.words),
  });
  const lead = row.foldedInto === undefined ? -1 : index.ordinalOf(row.foldedInto);
  return {
    photo,
    setAside: (row.states & (STATE_BITS.trashed | STATE_BITS.removed)) !== 0,
    lead: lead < 0 ? null : index.single.name.textOf(lead),
  };
}

/** The words of texts, a text a line. */
function textParts(words: readonly string[]): string[] {
  return words.join(' ').split('  ').filter(Boolean);
}

const connected = client.connect();

async function answer({ number, name, given }: Ask): Promise<Answer> {
  askedAt = Date.now();
  try {
    await connected;
    await upToDate();
    finder.settle();
    const ask = ANSWERS[name] as (given: unknown) => unknown;
    return { number, answer: await ask(given) };
  } catch (error) {
    return { number, failure: error instanceof Error ? error.message : String(error) };
  }
}

/** While nobody asks, the index is kept from time to time: a process that is killed then has not much to read anew. */
const IDLE_MS = 60_000;
const KEEP_MS = 30 * 60_000;
setInterval(() => {
  const now = Date.now();
  if (now - askedAt > IDLE_MS && (keptAt === 0 || now - keptAt > KEEP_MS)) void keepIndex().catch(notKept);
}, IDLE_MS).unref();

parentPort?.on('message', (message: Ask | 'close') => {
  if (message !== 'close') {
    void answer(message).then((reply) => parentPort?.postMessage(reply));
    return;
  }
  void keepIndex()
    .catch(notKept)
    // What was being written when it was closed may lack the last changes.
    .then(() => keepIndex())
    .catch(notKept)
    .then(() => client.end())
    .catch(() => undefined)
    .finally(() => process.exit(0));
});
client.on('error', () => process.exit(1));
