// Filing: what moving, copying, renaming, trashing and removing would do, and setting the job to work that does it.

import { MOST_COUNTED_FILES, type FilingAction, type FilingPlan, type Renaming } from '@stellin/contract/filing';
import type { Job } from '@stellin/contract/jobs';
import type { Selection } from '@stellin/contract/photos';
import type { LedgerEntry } from '@stellin/contract/ledger';
import type { Database, Transaction } from '../database/database';
import { holdFilesAlone } from '../database/filesLock';
import type { Drives } from '../drives/service';
import { StellinError, systemCode } from '../errors';
import { joinPath } from '../files/drivePath';
import { faultPoint } from '../files/fault';
import { filesBelow, makeFolder, removeFolder, renameFolder } from '../files/folders';
import type { Jobs } from '../jobs/service';
import type { AfterChange } from '../ledger/service';
import { FILING_JOB } from './job';
import { EMPTY_TRASH_JOB } from './emptying';
import { newNames, type ReplaceTexts } from './renaming';
import * as store from './store';
import { filesKnown, findFolderById, folderOfEntry, type FolderRow } from './folderStore';

export type Filing = ReturnType<typeof filingService>;

const EXAMPLES_SHOWN = 200;
/** Why what is in a folder can’t be told. */
const UNREACHABLE = new Set(['driveAway', 'ENOENT', 'ENOTDIR', 'EACCES', 'EPERM', 'EIO']);

interface PlanRequest extends Renaming {
  action: FilingAction;
  selection: Selection;
  driveId?: string | undefined;
  folder: string;
  keepBelow?: string | null;
}

export function filingService(database: Database, drives: Drives, jobs: Jobs, replaceTexts: ReplaceTexts) {
  // One closure for what its functions share; each of them fits a screen.
  return {
    /** What an action would do, and to how many photos. */
    async plan({ action, selection, driveId, folder, keepBelow, ...renaming }: PlanRequest): Promise<FilingPlan> {
      const target = driveId === undefined ? undefined : { driveId, folder, keepBelow: keepBelow ?? null };
      const counts = await store.countAction(database, action, selection, target);
      if (action !== 'rename') return { ...counts, examples: [], problem: null };
      try {
        return { ...counts, ...(await namesOf({ selection, ...renaming })), problem: null };
      } catch (error) {
        if (!(error instanceof StellinError)) throw error;
        return { ...counts, examples: [], problem: error.message };
      }
    },

    /** What is in a folder and all below it. */
    async contents(folderId: number) {
      const folder = await findFolderById(database, folderId);
      if (!folder) throw new StellinError('notFound', { what: 'such folder' });
      const { photos, folders, files } = await filesKnown(database, folder, MOST_COUNTED_FILES);
      const others = files && (await filesBeside(folder, files));
      return { photos, folders, others: others ?? null };
    },

    /** Records that photos have come with an entry: when it is taken back, their files go to the trash. */
    recordArrived: (entryId: number, photoIds: readonly number[], tx: Transaction): Promise<void> =>
      store.recordArrived(database, entryId, photoIds, tx),

    listTrash: () => store.listTrash(database),

    /** Starts deleting what is in the trash of a drive. */
    async emptyTrash(driveId: string, accountId: number): Promise<Job> {
      const { label } = await drives.requireWritable(driveId);
      if ((await store.countTrashed(database, driveId)) === 0)
        throw new StellinError('nothingToDo', { why: `The trash of “${label}” is empty.` });
      return jobs.start(EMPTY_TRASH_JOB, `Empty the trash of ${label}`, { driveId }, accountId);
    },

    /** Refuses to reverse what is still going on, and makes and renames folders. */
    afterChange: (async (entryId, tx) => {
      await store.dropAbandoned(database, FILING_JOB, tx);
      const title = await store.reversedOnTheWay(database, entryId, tx);
      if (title !== undefined) throw new StellinError('filesOnTheWay', { title });
      await changeFolders(entryId, tx);
    }) satisfies AfterChange,

    /** Sets the job to work that does what an entry of the ledger has to do with files. */
    async start({ id, title }: Pick<LedgerEntry, 'id' | 'title'>, accountId: number | null): Promise<void> {
      if ((await store.countSteps(database, id)) > 0) await jobs.start(FILING_JOB, title, { entryId: id }, accountId);
    },

    /** Goes on with what a server that died had not set to work. */
    async recover(): Promise<void> {
      for (const { id, title, accountId } of await store.strandedEntries(database, FILING_JOB))
        await jobs.start(FILING_JOB, title, { entryId: id }, accountId);
    },
  };

  /** How many files lie in a folder and below it that are neither known nor a sidecar of one that is; undefined where that can’t be told. */
  async function filesBeside({ drive_id: driveId, path }: FolderRow, known: readonly string[]) {
    let found: string[] | undefined;
    try {
      const { mountPoint } = await drives.requireAttached(driveId);
      found = await filesBelow(mountPoint, path, MOST_COUNTED_FILES);
    } catch (error) {
      // Away, gone or not to be read: all else is a fault.
      if (!UNREACHABLE.has(systemCode(error) ?? '')) throw error;
    }
    const ours = new Set(known);
    // Sidecars belong to the file they stand beside.
    const bases = new Set(known.map((file) => file.replace(/\.[^./]*$/, '')));
    const isSidecar = (file: string) => /\.xmp$/i.test(file) && [ours, bases].some((all) => all.has(file.slice(0, -4)));
    return found?.filter((file) => !ours.has(file) && !isSidecar(file)).length;
  }

  /** The first new names, and how many are taken where they go: what another photo gives up in the same step is free. */
  async function namesOf(renaming: Renaming & { selection: Selection }) {
    return database.transaction(async (tx) => {
      const examples: (FilingPlan['examples'][number] & { key: string })[] = [];
      const given = new Set<string>();
      const staying = new Set<string>();
      const known = new Map<string, { driveId: string; folder: string; name: string }>();
      let twice = 0;
      for await (const page of newNames(database, renaming, replaceTexts, tx)) {
        const places = page.map(({ photo: { id, driveId, folder, name: before }, name }) => {
          const place = { driveId, folder, name };
          return { id, before, place, key: store.placeKey(place) };
        });
        const found = await store.knownPlaces(
          database,
          places.map(({ place }) => place),
          tx,
        );
        for (const { id, before, place, key } of places) {
          const stays = before === place.name;
          const taken = !stays && given.has(key);
          if (stays) staying.add(key);
          else if (taken) twice += 1;
          else if (found.has(key)) known.set(key, place);
          if (!stays) given.add(key);
          if (examples.length < EXAMPLES_SHOWN) examples.push({ photoId: id, before, after: place.name, taken, key });
        }
      }
      const free = await store.renamedFrom(database, renaming.selection, [...known.values()], tx);
      const isTaken = (key: string) => known.has(key) && (staying.has(key) || !free.has(key));
      return {
        examples: examples.map(({ key, ...example }) => ({
          ...example,
          taken: example.taken || (example.before !== example.after && isTaken(key)),
        })),
        taken: twice + [...known.keys()].filter(isTaken).length,
      };
    });
  }

  /** What an entry says of folders is done on their drives, last of all: should it fail, nothing has happened. */
  async function changeFolders(entryId: number, tx: Transaction): Promise<void> {
    const changes = await folderOfEntry(database, entryId, tx);
    for (const { drive, before, after } of changes) {
      const { mountPoint, label } = await drives.requireWritable(drive, tx);
      await database.notify(['drives'], tx);
      await holdFilesAlone(database, tx);
      if (before !== null && after !== null) {
        await renameFolder(mountPoint, before, after);
        faultPoint('folder:renamed');
      } else if (after !== null) await makeFolder(mountPoint, after);
      else if (before !== null && !(await removeFolder(mountPoint, before)))
        throw new StellinError('folderNotEmpty', {
          folder: joinPath(label, before),
          why: 'it is not empty on its drive',
        });
    }
  }
}
