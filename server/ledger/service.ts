// The one way to change anything: a change is looked up in the table of handlers, which write what it does into the
// ledger as before and after; from that record it takes effect, in one transaction. Undo and redo record the reverse of
// an earlier record and let it take effect the same way.

import type { Topic } from '@stellin/contract/events';
import type { Change, ChangeKind, ChangeOf, LedgerEntry } from '@stellin/contract/ledger';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import * as store from './store';

export interface ChangeContext {
  tx: Transaction;
  /** The entry that rows of ledger_photo and ledger_object belong to. */
  entryId: number;
  accountId: number;
}

/** Records what the change does under the entry; it takes effect from there. Returns the title, given how many photos change. */
export type ChangeHandler<Kind extends ChangeKind> = (
  change: ChangeOf<Kind>,
  context: ChangeContext,
) => Promise<(photos: number) => string>;

export type ChangeHandlers = { [Kind in ChangeKind]: ChangeHandler<Kind> };

/** Runs inside the transaction of every change, after it took effect: brings derived data in line. */
export type AfterChange = (entryId: number, tx: Transaction) => Promise<void>;

export type Ledger = ReturnType<typeof ledgerService>;

const TOPICS: readonly Topic[] = ['ledger', 'photos', 'vocabulary', 'searches', 'marks', 'writeBack'];

export function ledgerService(
  database: Database,
  handlers: ChangeHandlers,
  afterChange: readonly AfterChange[],
  /** Runs before an entry is taken back or repeated: keeps others away from what it touches. */
  beforeReverse: readonly AfterChange[] = [],
  /** Told when a change is in the catalogue for good. */
  afterCommit: (entry: LedgerEntry, accountId: number) => Promise<void> = () => Promise.resolve(),
) {
  const committed = async (accountId: number, change: Promise<LedgerEntry>): Promise<LedgerEntry> => {
    const entry = await change;
    await afterCommit(entry, accountId);
    return entry;
  };

  const settle = async (entryId: number, title: (photos: number) => string, tx: Transaction): Promise<LedgerEntry> => {
    await store.takeEffect(database, entryId, tx);
    for (const hook of afterChange) await hook(entryId, tx);
    const { photos } = await store.countOf(database, entryId, tx);
    await store.finishEntry(database, entryId, title(photos), tx);
    await database.notify(TOPICS, tx);
    const entry = await store.findEntry(database, entryId, tx);
    if (!entry) throw new Error('the entry is gone');
    return entryOf(entry);
  };

  const reverse = async (
    accountId: number,
    step: 'undo' | 'redo',
    target: { id: number; title: string },
    reversed: number,
    tx: Transaction,
  ) => {
    for (const hook of beforeReverse) await hook(reversed, tx);
    const changed = await store.objectsChangedSince(database, reversed, tx);
    if (changed.length)
      throw new StellinError('changedSince', {
        title: target.title,
        why: `“${changed.join('”, “')}” has been changed since`,
      });
    const entryId = await store.insertEntry(
      database,
      { accountId, kind: step, title: '', parameters: {}, reverses: target.id, step },
      tx,
    );
    await store.recordReverse(database, reversed, entryId, tx);
    await store.markUndone(database, target.id, step === 'undo', tx);
    return settle(entryId, () => `${step === 'undo' ? 'Undo' : 'Redo'}: ${target.title}`, tx);
  };

  return {
    /** Applies a change as one step that can be undone. */
    apply(change: Change, accountId: number): Promise<LedgerEntry> {
      const applied = withoutForeignKeyErrors(change.kind, () =>
        database.transaction(async (tx) => {
          const entryId = await store.insertEntry(
            database,
            { accountId, kind: change.kind, title: '', parameters: change, reverses: null, step: 'do' },
            tx,
          );
          // The table's entry for a kind takes changes of that kind; TypeScript can't see that through the lookup.
          const handler = handlers[change.kind] as ChangeHandler<ChangeKind>;
          const title = await handler(change, { tx, entryId, accountId });
          const { photos, objects } = await store.countOf(database, entryId, tx);
          if (photos === 0 && objects === 0)
            throw new StellinError('nothingToDo', { why: 'Nothing would change: all of it is so already.' });
          return settle(entryId, title, tx);
        }),
      );
      return committed(accountId, applied);
    },

    /** Takes back a person's last change. */
    async undo(accountId: number): Promise<LedgerEntry> {
      const next = await store.nextUndo(database, accountId);
      const undone = withoutForeignKeyErrors(next?.title ?? '', () =>
        database.transaction(async (tx) => {
          const target = await store.nextUndo(database, accountId, tx);
          if (!target) throw new StellinError('nothingToUndo');
          return reverse(accountId, 'undo', target, await lastEffect(target.id, tx), tx);
        }),
      );
      return committed(accountId, undone);
    },

    /** Repeats the change that was taken back last. */
    redo(accountId: number): Promise<LedgerEntry> {
      const redone = database.transaction(async (tx) => {
        const target = await store.nextRedo(database, accountId, tx);
        if (!target) throw new StellinError('nothingToRedo');
        return reverse(accountId, 'redo', target, target.reversedBy, tx);
      });
      return committed(accountId, redone);
    },

    /** What undo and redo would do. */
    async nextSteps(accountId: number) {
      const [undo, redo] = await Promise.all([
        store.nextUndo(database, accountId),
        store.nextRedo(database, accountId),
      ]);
      return { undo: undo ?? null, redo: redo ? { id: redo.id, title: redo.title } : null };
    },

    async list(filter: { before?: number; photoId?: number; limit: number }): Promise<LedgerEntry[]> {
      return (await store.listEntries(database, filter)).map(entryOf);
    },

    photosOf: (id: number) => store.photosOfEntry(database, id),
  };

  /** The entry whose record holds what a change last did: itself, or its last redo, which may have reached fewer photos. */
  async function lastEffect(id: number, tx: Transaction): Promise<number> {
    const row = await database.row<{ id: number | null }>(
      `select max(id) as id from ledger_entry where reverses = $1 and step = 'redo'`,
      [id],
      tx,
    );
    return row?.id ?? id;
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
    if (!(error instanceof Error) || error.name !== 'SequelizeForeignKeyConstraintError') throw error;
    throw new StellinError('changedSince', { title, why: 'photos or narrower terms have come to depend on it' });
  }
}
