// The one way to change anything: a change is looked up in the table of handlers, which write what it does into the
// ledger as before and after; from that record it takes effect, in one transaction. Undo and redo record the reverse of
// an earlier record and let it take effect the same way.

import { DatabaseError } from 'sequelize';
import {
  mayChange,
  type Change,
  type ChangeKind,
  type ChangeOf,
  type LedgerEntry,
  type LedgerFilter,
} from '@stellin/contract/ledger';
import { CHANGED_TOPICS } from '@stellin/contract/events';
import type { Person, Viewer } from '../catalogue/viewer';
import type { Database, Transaction } from '../database/database';
import { waitingForFiles } from '../database/filesLock';
import { StellinError, systemCode } from '../errors';
import { followersOf, type Follower, type LedgerKinds, type Recorded } from './kinds';
import { refusal, requireReach } from './reach';
import { laterEntries } from './laterStore';
import { shownChanges } from './showing';
import { newestFirst } from './newestFirst';
import * as store from './store';

/** What is told of a change while it is made by a job. */
export interface Running {
  jobId: string;
  /** The process of the database that does the work, so that it can be told to stop. */
  backend: (pid: number) => void;
  /** So many photos have been worked on, of a step of its own name. Rejects when the change is to be given up. */
  progress: (step: string, photos: number) => Promise<void>;
}

export interface ChangeContext {
  tx: Transaction;
  /** The entry that rows of ledger_photo and ledger_object belong to. */
  entryId: number;
  accountId: number;
  /** Who makes the change. */
  person: Person;
  /** Told between steps of changes that take long. */
  progress?: Running['progress'] | undefined;
}

/** Records what the change does under the entry; it takes effect from there. Returns the title, given how many photos change. */
export type ChangeHandler<Kind extends ChangeKind> = (
  change: ChangeOf<Kind>,
  context: ChangeContext,
) => Promise<(photos: number) => string>;

export type ChangeHandlers = { [Kind in ChangeKind]: ChangeHandler<Kind> };

/** Runs inside the transaction of every change, after it took effect: brings derived data in line. */
export type AfterChange = (entryId: number, tx: Transaction, progress?: Running['progress']) => Promise<void>;

/** Looks at what an entry has recorded, before it takes effect; throws to refuse it. `kind`: that of the change, or of the one taken back. */
export type BeforeEffect = (recorded: Recorded & { kind: string }, tx: Transaction) => Promise<void>;

/** Told when a change is in the catalogue for good. */
export type AfterCommit = (entry: LedgerEntry, accountId: number) => Promise<void>;

/** Whether an entry can be taken back or repeated (else null), and the later entries that stand in the way. */
export interface Standing {
  step: 'undo' | 'redo' | null;
  kind: string;
  later: LedgerEntry[];
  laterCount: number;
}

/** Which entries, and how many of them at most. */
export interface EntriesAsked extends LedgerFilter {
  before?: number | undefined;
  limit: number;
}

export type Ledger = ReturnType<typeof ledgerService>;

/** A single statement of a change that takes longer is given up, and the change with it. */
const STATEMENT_TIMEOUT_SECONDS = 600;
/** Entries that are read at a time. */

interface LedgerParts {
  database: Database;
  /** What changes touch. */
  kinds: LedgerKinds;
  handlers: ChangeHandlers;
  beforeEffect: readonly BeforeEffect[];
  afterChange: readonly Follower<AfterChange>[];
  /** Runs before an entry is taken back or repeated: keeps others away from what it touches. */
  beforeReverse: readonly AfterChange[];
  afterCommit: readonly Follower<AfterCommit>[];
  /** What an account may do now. */
  personOf: (accountId: number) => Promise<Person>;
  /** Makes a change say by itself what it means for somebody: what its selections find must not hang on anything that may change meanwhile. */
  settled: (change: Change, person: Person) => Promise<Change>;
}

export function ledgerService({
  database,
  kinds,
  handlers,
  beforeEffect,
  afterChange,
  beforeReverse,
  afterCommit,
  personOf,
  settled,
}: LedgerParts) {
  // One closure for what its functions share; each of them fits a screen.
  const committed = async (accountId: number, change: ReturnType<typeof settle>): Promise<LedgerEntry> => {
    const { entry, recorded } = await change;
    for (const run of followersOf(afterCommit, recorded)) await run(entry, accountId);
    return entry;
  };

  /** Whether what an entry has recorded may be, then its effect and what follows from it. */
  const settle = async (
    { entryId, kind, person }: { entryId: number; kind: string; person: Person },
    title: (photos: number) => string,
    tx: Transaction,
    progress?: Running['progress'],
  ): Promise<{ entry: LedgerEntry; recorded: Recorded }> => {
    await requireReach(database, { entryId, kind, person }, tx);
    const recorded = await store.recordedBy(database, entryId, tx);
    // A change that does nothing is refused; to take one back may do nothing, where its photos are gone since.
    if (recorded.aspects.size === 0 && recorded.objects.size === 0 && !recorded.reverses)
      throw new StellinError('nothingToDo', { why: 'Nothing would change: all of it is so already.' });
    for (const hook of beforeEffect) await hook({ ...recorded, kind }, tx);
    await store.takeEffect(database, kinds, recorded, tx);
    for (const run of followersOf(afterChange, recorded)) await run(entryId, tx, progress);
    const entry = await store.finishEntry(database, recorded, title(recorded.photos), tx);
    await database.notify(CHANGED_TOPICS, tx);
    return { entry: entryOf(entry), recorded };
  };

  const reverse = async (
    person: Person,
    step: 'undo' | 'redo',
    target: { id: number; title: string; kind: string },
    reversed: number,
    tx: Transaction,
    running?: Running,
  ) => {
    for (const hook of beforeReverse) await hook(reversed, tx);
    const changed = await store.objectsChangedSince(database, kinds, reversed, tx);
    if (changed.length)
      throw new StellinError('changedSince', {
        title: target.title,
        why: `“${changed.join('”, “')}” has been changed since`,
      });
    const entryId = await store.insertEntry(
      database,
      {
        accountId: person.accountId,
        kind: step,
        title: '',
        parameters: {},
        reverses: target.id,
        step,
        jobId: running?.jobId ?? null,
      },
      tx,
    );
    await store.recordReverse(database, kinds, reversed, entryId, tx);
    await store.markUndone(database, target.id, step === 'undo', tx);
    return settle(
      { entryId, kind: target.kind, person },
      () => `${step === 'undo' ? 'Undo' : 'Redo'}: ${target.title}`,
      tx,
      running?.progress,
    );
  };

  return {
    /** Applies a change as one step that can be undone. */
    async apply(given: Change, accountId: number, running?: Running): Promise<LedgerEntry> {
      const person = await personOf(accountId);
      if (!mayChange(person, given.kind)) throw refusal(person, given.kind);
      const change = await settled(given, person);
      const applied = withoutForeignKeyErrors(change.kind, () =>
        waitingForFiles(database, async (tx) => {
          await begin(tx, running);
          const entryId = await store.insertEntry(
            database,
            {
              accountId,
              kind: change.kind,
              title: '',
              parameters: change,
              reverses: null,
              step: 'do',
              jobId: running?.jobId ?? null,
            },
            tx,
          );
          // The table's entry for a kind takes changes of that kind; TypeScript can't see that through the lookup.
          const handler = handlers[change.kind] as ChangeHandler<ChangeKind>;
          const title = await handler(change, { tx, entryId, accountId, person, progress: running?.progress });
          return settle({ entryId, kind: change.kind, person }, title, tx, running?.progress);
        }),
      );
      return committed(accountId, applied);
    },

    /** Takes back a person's last change. */
    async undo(accountId: number, running?: Running): Promise<LedgerEntry> {
      const person = await personOf(accountId);
      const next = await store.nextUndo(database, accountId);
      const undone = withoutForeignKeyErrors(next?.title ?? '', () =>
        waitingForFiles(database, async (tx) => {
          await begin(tx, running);
          const target = await store.nextUndo(database, accountId, tx);
          if (!target) throw new StellinError('nothingToUndo');
          const effectId = await store.lastEffect(database, target.id, 'redo', tx);
          return reverse(person, 'undo', target, effectId, tx, running);
        }),
      );
      return committed(accountId, undone);
    },

    /** Repeats the change that was taken back last. */
    async redo(accountId: number, running?: Running): Promise<LedgerEntry> {
      const person = await personOf(accountId);
      const redone = waitingForFiles(database, async (tx) => {
        await begin(tx, running);
        const target = await store.nextRedo(database, accountId, tx);
        if (!target) throw new StellinError('nothingToRedo');
        return reverse(person, 'redo', target, target.reversedBy, tx, running);
      });
      return committed(accountId, redone);
    },

    /** What undo and redo would do. */
    async nextSteps(accountId: number) {
      const [undo, redo] = await Promise.all([
        store.nextUndo(database, accountId),
        store.nextRedo(database, accountId),
      ]);
      const step = (target: typeof undo | typeof redo) =>
        target ? { id: target.id, title: target.title, photos: target.photos } : null;
      return { undo: step(undo), redo: step(redo) };
    },

    /** What a job has done already; undefined when it has not. */
    async doneBy(jobId: string): Promise<LedgerEntry | undefined> {
      const entry = await store.entryOfJob(database, jobId);
      return entry && entryOf(entry);
    },

    /** The entries that exist for somebody: their own, and those of photos that do. */
    async list(viewer: Viewer, filter: EntriesAsked): Promise<LedgerEntry[]> {
      return (await store.listEntries(database, viewer, filter)).map(entryOf);
    },

    /** All that meet a filter, the newest first, some at a time. */
    all: (viewer: Viewer, filter: Omit<EntriesAsked, 'limit'>): AsyncGenerator<LedgerEntry> =>
      newestFirst(filter.before, async (before, limit) =>
        // A long answer, which may be a moment behind.
        (await store.listEntries({ rows: database.behind }, viewer, { ...filter, before, limit })).map(entryOf),
      ),

    /** What an entry changed, readable, of what exists for somebody; with a photo only of that. */
    async changesOf(id: number, viewer: Viewer, photoId?: number) {
      await requireSeenEntry(id, viewer);
      return shownChanges(database, kinds, { entryId: id, viewer, ...(photoId === undefined ? {} : { photoId }) });
    },

    /** An entry, with the kind of its change. */
    find: (id: number, viewer: Viewer): Promise<Pick<store.EntryRow, 'kind' | 'title' | 'photos'>> =>
      requireSeenEntry(id, viewer),

    /** Whether an entry can be taken back, or repeated once it was, and which later entries stand in the way. */
    async standing(id: number, viewer: Viewer): Promise<Standing> {
      const entry = await requireSeenEntry(id, viewer);
      if (entry.step !== 'do') return { step: null, kind: entry.kind, later: [], laterCount: 0 };
      const effectId = await store.lastEffect(database, id, entry.undone ? 'undo' : 'redo');
      const { entries, count } = await laterEntries(database, kinds, effectId);
      return {
        step: entry.undone ? 'redo' : 'undo',
        kind: entry.kind,
        // What others did later is none of the business of who does not see all of it.
        later: viewer.sight === null ? entries.map(entryOf) : [],
        laterCount: viewer.sight === null ? count : 0,
      };
    },

    /** Takes back any entry that nothing later built on, or repeats one that was taken back. */
    async reverse(id: number, step: 'undo' | 'redo', accountId: number, running?: Running): Promise<LedgerEntry> {
      const { title } = await requireEntry(id);
      const person = await personOf(accountId);
      const reversed = withoutForeignKeyErrors(title, () =>
        waitingForFiles(database, async (tx) => {
          await begin(tx, running);
          await store.lockEntry(database, id, tx);
          const target = await requireEntry(id, tx);
          if (target.step !== 'do' || target.undone !== (step === 'redo'))
            throw new StellinError(step === 'undo' ? 'nothingToUndo' : 'nothingToRedo');
          const effectId = await store.lastEffect(database, id, step === 'undo' ? 'redo' : 'undo', tx);
          const { entries, count } = await laterEntries(database, kinds, effectId, tx);
          if (count > 0)
            throw new StellinError('builtOn', {
              title,
              reversed: step === 'undo' ? 'taken back' : 'repeated',
              later: entries.map((entry) => `“${entry.title}” (${entry.by})`).join(', '),
              more: count > entries.length ? ` and ${count - entries.length} more` : '',
            });
          return reverse(person, step, target, effectId, tx, running);
        }),
      );
      return committed(accountId, reversed);
    },
  };

  async function requireEntry(id: number, tx?: Transaction): Promise<store.EntryRow> {
    const entry = await store.findEntry(database, id, tx);
    if (!entry) throw new StellinError('notFound', { what: 'such entry in the ledger' });
    return entry;
  }

  /** An entry that exists for somebody. */
  async function requireSeenEntry(id: number, viewer: Viewer): Promise<store.EntryRow> {
    const entry = await store.findSeenEntry(database, viewer, id);
    if (!entry) throw new StellinError('notFound', { what: 'such entry in the ledger' });
    return entry;
  }

  async function begin(tx: Transaction, running: Running | undefined): Promise<void> {
    await store.limitTime(database, STATEMENT_TIMEOUT_SECONDS, tx);
    if (running) running.backend(await store.backendOf(database, tx));
  }
}

function entryOf({ id, at, by, title, photos, objectId, step, undone }: store.EntryRow): LedgerEntry {
  return { id, at, by, title, photos, objectId, state: step === 'do' ? (undone ? 'undone' : 'done') : step };
}

/** A term that photos or other terms still hang on can't vanish: PostgreSQL sees to that, and here it becomes a sentence. */
async function withoutForeignKeyErrors<Result>(title: string, work: () => Promise<Result>): Promise<Result> {
  try {
    return await work();
  } catch (error) {
    if (isTimeOut(error)) throw new StellinError('tookTooLong', { minutes: STATEMENT_TIMEOUT_SECONDS / 60 });
    if (!(error instanceof Error) || error.name !== 'SequelizeForeignKeyConstraintError') throw error;
    throw new StellinError('changedSince', { title, why: 'photos or narrower terms have come to depend on it' });
  }
}

/** Whether PostgreSQL gave a statement up for its time (SQLSTATE 57014, query_canceled). */
function isTimeOut(error: unknown): boolean {
  return error instanceof DatabaseError && systemCode(error.original) === '57014';
}
