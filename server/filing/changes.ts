// What changes to places of files do: they record where files are to be, and the filing job takes them there.

import { nameProblem } from '@stellin/core/filing/names';
import type { Selection } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import type { Database, Transaction } from '../database/database';
import { holdFilesAlone } from '../database/filesLock';
import type { Drives } from '../drives/service';
import { StellinError } from '../errors';
import { joinPath } from '../files/drivePath';
import type { ChangeContext, ChangeHandlers } from '../ledger/service';
import { isInTrash } from '../files/trash';
import { newNames, type ReplaceTexts } from './renaming';
import { FILING_JOB } from './job';
import * as store from './store';
import { objectRows, recordObjects } from '../ledger/recordStore';
import {
  dropVanishedFolder,
  foldersUnder,
  findFolderById,
  nextFolderId,
  folderAt,
  whatIsIn,
  type FolderRow,
} from './folderStore';

type Kinds =
  | 'moveFiles'
  | 'copyFiles'
  | 'renameFiles'
  | 'trashFiles'
  | 'restoreFiles'
  | 'removePhotos'
  | 'returnPhotos'
  | 'makeFolder'
  | 'renameFolder'
  | 'moveFolder'
  | 'removeFolder'
  | 'describeFolder';

export function filingChanges(
  database: Database,
  drives: Drives,
  replaceTexts: ReplaceTexts,
): Pick<ChangeHandlers, Kinds> {
  // One closure for what its functions share; each of them fits a screen.
  const record = async (
    action: keyof typeof store.ACTIONS,
    selection: Selection,
    target: store.Target | undefined,
    { tx, entryId }: ChangeContext,
  ) => {
    await store.dropAbandoned(database, FILING_JOB, tx);
    await store.recordAction(database, entryId, action, selection, target, tx);
  };
  const transfer =
    (action: 'move' | 'copy', verb: string) =>
    async (
      { selection, driveId, folder, keepBelow }: { selection: Selection } & store.Target,
      context: ChangeContext,
    ) => {
      const label = await requireTarget(drives, driveId, folder, context.tx);
      await record(action, selection, { driveId, folder, keepBelow }, context);
      return (photos: number) =>
        `${verb} ${countText(photos, 'photo')} to ${joinPath(label, folder).replace(/\/$/, '')}`;
    };
  const simple =
    (action: keyof typeof store.ACTIONS, title: (photos: string) => string) =>
    async ({ selection }: { selection: Selection }, context: ChangeContext) => {
      await record(action, selection, undefined, context);
      return (photos: number) => title(countText(photos, 'photo'));
    };

  return {
    moveFiles: transfer('move', 'Move'),
    copyFiles: transfer('copy', 'Copy'),
    trashFiles: simple('trash', (photos) => `Trash ${photos}`),
    restoreFiles: simple('restore', (photos) => `Restore ${photos} from the trash`),
    removePhotos: simple('remove', (photos) => `Take ${photos} out of the catalogue`),
    returnPhotos: simple('return', (photos) => `Bring ${photos} back into the catalogue`),

    async renameFiles(change, { tx, entryId }) {
      await store.dropAbandoned(database, FILING_JOB, tx);
      for await (const page of newNames(database, change, replaceTexts, tx))
        await store.recordNames(
          database,
          entryId,
          page.map(({ photo: { id }, name }) => ({ id, name })),
          tx,
        );
      return (photos) => `Rename ${countText(photos, 'photo')}`;
    },

    async makeFolder({ driveId, parent, name }, { tx, entryId }) {
      const label = await requireTarget(drives, driveId, parent, tx);
      requireName(name);
      // Before any row is touched: it may have to be begun anew.
      await holdFilesAlone(database, tx);
      const above = await folderAt(database, driveId, parent, tx);
      if (!above) throw new StellinError('folderMissing', { drive: label, folder: parent });
      const path = joinPath(parent, name);
      await requireFree(driveId, label, path, tx);
      const id = await nextFolderId(database, tx);
      const after: FolderRow = { id, drive_id: driveId, parent_id: above.id, name, path, colour: '', note: '' };
      await recordFolders([{ before: null, after }], entryId, tx);
      return () => `Make the folder ${joinPath(label, path)}`;
    },

    async renameFolder({ folderId, name }, context) {
      requireName(name);
      const { folder, label } = await requireFolder(folderId, context.tx);
      const path = folder.path.slice(0, folder.path.length - folder.name.length) + name;
      await recordPlaced(folder, { name, path, parentId: folder.parent_id }, label, context);
      return () => `Rename the folder ${joinPath(label, folder.path)} to ${name}`;
    },

    async moveFolder({ folderId, parent }, context) {
      const { folder, label } = await requireFolder(folderId, context.tx);
      await requireTarget(drives, folder.drive_id, parent, context.tx);
      const above = await folderAt(database, folder.drive_id, parent, context.tx);
      if (!above) throw new StellinError('folderMissing', { drive: label, folder: parent });
      if (parent === folder.path || parent.startsWith(`${folder.path}/`))
        throw new StellinError('badRequest', { problem: 'A folder can’t be put into itself.' });
      const path = joinPath(parent, folder.name);
      await recordPlaced(folder, { name: folder.name, path, parentId: above.id }, label, context);
      return () => `Move the folder ${joinPath(label, folder.path)} into ${joinPath(label, parent).replace(/\/$/, '')}`;
    },

    async removeFolder({ folderId }, { tx, entryId }) {
      const { folder, label } = await requireFolder(folderId, tx);
      const why = await whatIsIn(database, folder, tx);
      if (why) throw new StellinError('folderNotEmpty', { folder: joinPath(label, folder.path), why });
      await recordFolders([{ before: folder, after: null }], entryId, tx);
      return () => `Delete the empty folder ${joinPath(label, folder.path)}`;
    },

    async describeFolder({ folderId, colour, note }, { tx, entryId }) {
      const folder = await findFolderById(database, folderId, tx);
      if (!folder || isInTrash(folder.path)) throw new StellinError('notFound', { what: 'such folder' });
      await recordFolders([{ before: folder, after: { ...folder, colour, note } }], entryId, tx);
      return () => `Colour and note of ${folder.path === '' ? 'a drive' : `the folder ${folder.path}`}`;
    },
  };

  /** A folder that can be renamed, moved or deleted, of a drive that can be written to, while nobody else works on files. */
  async function requireFolder(folderId: number, tx: Transaction): Promise<{ folder: FolderRow; label: string }> {
    await holdFilesAlone(database, tx);
    const folder = await findFolderById(database, folderId, tx);
    if (!folder || folder.path === '' || isInTrash(folder.path))
      throw new StellinError('notFound', { what: 'such folder that can be changed' });
    return { folder, label: await requireTarget(drives, folder.drive_id, folder.path, tx) };
  }

  /** Records that a folder is elsewhere or called otherwise, with all below it. */
  async function recordPlaced(
    folder: FolderRow,
    { name, path, parentId }: { name: string; path: string; parentId: number | null },
    label: string,
    { tx, entryId }: ChangeContext,
  ): Promise<void> {
    await requireFree(folder.drive_id, label, path, tx);
    const within = await foldersUnder(database, folder.drive_id, folder.path, tx);
    await recordFolders(
      within.map((before) => ({
        before,
        after: {
          ...before,
          ...(before.id === folder.id ? { name, parent_id: parentId } : {}),
          path: path + before.path.slice(folder.path.length),
        },
      })),
      entryId,
      tx,
    );
  }

  /** Folders that vanished and left no photo behind give their path up; any other keeps it. */
  async function requireFree(driveId: string, label: string, path: string, tx: Transaction): Promise<void> {
    await dropVanishedFolder(database, driveId, path, tx);
    if (await folderAt(database, driveId, path, tx))
      throw new StellinError('folderExists', { drive: label, folder: path });
  }

  async function recordFolders(
    changes: readonly { before: FolderRow | null; after: FolderRow | null }[],
    entryId: number,
    tx: Transaction,
  ): Promise<void> {
    const rows = changes.map(({ before, after }) => ({ id: (after ?? before)?.id ?? 0, before, after }));
    await recordObjects(database, entryId, 'folder', objectRows(rows), tx);
  }
}

/** The label of a drive that files can be put on. */
async function requireTarget(drives: Drives, driveId: string, folder: string, tx: Transaction): Promise<string> {
  const { label } = await drives.requireWritable(driveId, tx);
  const hidden = folder.split('/').find((name) => name !== '' && nameProblem(name));
  if (hidden !== undefined) throw new StellinError('nameRefused', { name: hidden, why: nameProblem(hidden) ?? '' });
  return label;
}

function requireName(name: string): void {
  const why = nameProblem(name);
  if (why) throw new StellinError('nameRefused', { name, why });
}
