// The filing job: takes files where the ledger says they are to be, batch by batch, with their sidecars. A step that was
// begun is written down before, so that a process that is killed leaves nothing the next one can't go on with.

import { join } from 'node:path';
import { z } from 'zod';
import { numberedName } from '@stellin/core/filing/names';
import type { Database, Transaction } from '../database/database';
import { holdingFiles } from '../database/filesLock';
import type { Drives } from '../drives/service';
import { messageOf, systemCode } from '../errors';
import { ensureFolderInside, joinPath, resolveInside } from '../files/drivePath';
import { faultPoint } from '../files/fault';
import { problemOf } from '../files/problem';
import { hashOfFile, isTaken, relocate, type Relocation } from '../files/relocate';
import { isOwnSidecar, renamedSidecar, sidecarFor, type Sidecars } from '../files/sidecars';
import { sidecarsIn } from '../files/walk';
import { ensureFolder } from '../catalogue/folders';
import { DriveGone, type JobKind, type JobRun } from '../jobs/service';
import type { Reread, Unread } from '../catalogue/rereading';
import * as store from './store';

export const FILING_JOB = 'filing';
export const filingParameters = z.object({ entryId: z.number() });

const STEPS_PER_BATCH = 100;
const MAX_NUMBER = 10_000;

interface Services {
  database: Database;
  drives: Drives;
  reread: Reread;
  /** Queues what the catalogue says of some photos and their files do not. */
  waiting: (photoIds: readonly number[], tx: Transaction) => Promise<void>;
}

export function filingJob(services: Services): JobKind {
  const { database } = services;
  return {
    kind: FILING_JOB,
    async run(run) {
      const { entryId } = filingParameters.parse(run.parameters);
      const counts = { moved: 0, copied: 0, failed: 0 };
      const left = await store.countSteps(database, entryId);
      await run.progress({ total: Math.max(run.total, left), done: Math.max(0, run.total - left) });
      for (;;) {
        const done = await holdingFiles(database, 'alone', () => fileBatch(services, run, entryId));
        if (done.made.length + done.failed === 0) break;
        for (const { step } of done.made) if (!step.aside) counts[step.copies ? 'copied' : 'moved'] += 1;
        counts.failed += done.failed;
        const last = done.made.at(-1)?.step;
        await run.progress({
          done: run.done + done.made.length + done.failed,
          current: last ? joinPath(last.toFolder, last.toName) : '',
        });
      }
      return counts;
    },
  };
}

/** Files that share a base name, and the sidecar, and go to the same folder. */
interface Unit {
  steps: store.Step[];
  /** The one that its files share. */
  sidecar: string | undefined;
  /** Those that are a file’s own, by the file’s name. */
  ownSidecars: Sidecars;
  /** Others stay that need the shared sidecar as well. */
  sharesSidecar: boolean;
  from: string;
  to: string;
}

async function fileBatch(services: Services, run: JobRun, entryId: number) {
  const { database } = services;
  const page = await store.nextSteps(database, entryId, STEPS_PER_BATCH);
  const groups = wholeGroups(page);
  for (const { mountPoint, driveId, label, toMountPoint, toDrive, toLabel } of groups.flat()) {
    if (mountPoint === null) throw new DriveGone(driveId, label);
    if (toMountPoint === null) throw new DriveGone(toDrive, toLabel);
  }
  const failed: store.Step[] = [];
  const problems: Unread[] = [];
  const fail = async (steps: readonly store.Step[], error: unknown) => {
    for (const { driveId, label, toDrive, toLabel } of steps) {
      if (!(await services.drives.isAttached(driveId))) throw new DriveGone(driveId, label);
      if (!(await services.drives.isAttached(toDrive))) throw new DriveGone(toDrive, toLabel);
    }
    failed.push(...steps);
    const message = systemCode(error) === undefined ? messageOf(error) : problemOf(error);
    for (const { label, folder, name } of steps) await run.failure(`${label}: ${joinPath(folder, name)}`, message);
  };

  const units: Unit[] = [];
  const sharers = await store.sharersOf(database, groups.flat());
  const listings = new Map<string, Promise<Sidecars>>();
  for (const steps of groups) {
    try {
      units.push(await unitOf(steps, sharers, listings));
    } catch (error) {
      await fail(steps, error);
    }
  }
  await settleNames(database, units);
  faultPoint('file:settled');
  const made: store.Made[] = [];
  // Asked before any file is touched: between a file that was moved and its record nothing else may go wrong.
  const folderOf = folderIds(database);
  const targets = new Map<Unit, number>();
  for (const unit of units) targets.set(unit, await folderOf(unit));
  for (const unit of units) {
    try {
      await relocate(relocationsOf(unit));
    } catch (error) {
      await fail(unit.steps, error);
      continue;
    }
    const toFolderId = targets.get(unit) ?? 0;
    for (const step of unit.steps)
      made.push({ step, toFolderId, sidecarPath: ownTarget(unit, step) ?? sharedTarget(unit) });
  }
  problems.push(...(await database.transaction((tx) => record(services, entryId, made, failed, tx))));
  for (const { name, message } of problems)
    await run.failure(`${name}: ${message}`, 'could not be read under its new name');
  faultPoint('file:recorded');
  return { made, failed: failed.length };
}

/** The ids of the folders that units go to, each looked up or made once. */
function folderIds(database: Database): (unit: Unit) => Promise<number> {
  const known = new Map<string, Promise<number>>();
  return ({ steps: [first], to }) => {
    const id = known.get(to) ?? ensureFolder(database, first?.toDrive ?? '', first?.toFolder ?? '');
    known.set(to, id);
    return id;
  };
}

/** Writes down what was done. Returns what could not be read under its new name. */
async function record(
  { database, reread, waiting }: Services,
  entryId: number,
  made: readonly store.Made[],
  failed: readonly store.Step[],
  tx: Transaction,
): Promise<Unread[]> {
  await store.recordMoved(
    database,
    entryId,
    made.filter(({ step }) => !step.copies),
    tx,
  );
  const copies = await store.recordCopied(
    database,
    entryId,
    made.filter(({ step }) => step.copies),
    tx,
  );
  if (copies.length > 0) await waiting(copies, tx);
  await store.dropSteps(database, entryId, failed, tx);
  await database.notify(['photos', 'drives', 'ledger', 'writeBack'], tx);
  // What a file is called is among the words it is found by.
  const renamed = made.filter(({ step }) => step.name !== step.toName);
  if (renamed.length === 0) return [];
  return reread(
    renamed.map(({ step, toFolderId, sidecarPath }) => {
      const folder = join(step.toMountPoint ?? '', step.toFolder);
      return {
        driveId: step.toDrive,
        folderId: toFolderId,
        name: step.toName,
        path: join(folder, step.toName),
        sidecarPath,
      };
    }),
    tx,
  );
}

/** The steps of a page by base name and target. The last group may go on beyond the page: it is left for the next. */
function wholeGroups(page: readonly store.Step[]): store.Step[][] {
  const groups: store.Step[][] = [];
  let key = '';
  for (const step of page) {
    const now = [store.sharerKey(step.folderId, step.base), step.toDrive, step.toFolder, step.started].join('\n');
    if (now === key) groups.at(-1)?.push(step);
    else groups.push([step]);
    key = now;
  }
  return page.length === STEPS_PER_BATCH && groups.length > 1 ? groups.slice(0, -1) : groups;
}

async function unitOf(
  steps: store.Step[],
  sharers: ReadonlyMap<string, number>,
  listings: Map<string, Promise<Sidecars>>,
): Promise<Unit> {
  const [first] = steps;
  if (!first) throw new Error('there is nothing to move');
  const from = await resolveInside(first.mountPoint ?? '', first.folder);
  const to = await ensureFolderInside(first.toMountPoint ?? '', first.toFolder);
  const listing = listings.get(from) ?? sidecarsIn(from);
  listings.set(from, listing);
  const sidecars = await listing;
  const ownSidecars = new Map(
    steps.flatMap(({ name }) => {
      const sidecar = sidecarFor(sidecars, name);
      return sidecar !== undefined && isOwnSidecar(sidecar, name) ? [[name, sidecar] as const] : [];
    }),
  );
  const sharesSidecar = (sharers.get(store.sharerKey(first.folderId, first.base)) ?? 0) > steps.length;
  // Files that have all their own leave the shared one to those who need it.
  const isNeeded = !sharesSidecar || ownSidecars.size < steps.length;
  return {
    steps,
    sidecar: isNeeded ? sidecars.get(first.base) : undefined,
    ownSidecars,
    sharesSidecar,
    from,
    to,
  };
}

/** Gives every unit that was not begun the first number under which all its names are free, and writes that down. */
async function settleNames(database: Database, units: readonly Unit[]): Promise<void> {
  const fresh = units.filter(({ steps }) => !steps[0]?.started);
  let open = fresh;
  const promised = new Set<string>();
  for (let number = 1; open.length > 0; number += 1) {
    if (number > MAX_NUMBER) throw new Error('too many files of the same name');
    const tried = open.map((unit) => ({ unit, names: unit.steps.map(({ toName }) => numberedName(toName, number)) }));
    const known = await store.knownPlaces(
      database,
      tried.flatMap(({ unit: { steps }, names }) =>
        steps.map(({ toDrive, toFolder }, i) => ({ driveId: toDrive, folder: toFolder, name: names[i] ?? '' })),
      ),
    );
    const again: Unit[] = [];
    for (const { unit, names } of tried) {
      const keys = unit.steps.map(({ toDrive, toFolder }, i) =>
        store.placeKey({ driveId: toDrive, folder: toFolder, name: names[i] ?? '' }),
      );
      const isFree = keys.every((key) => !known.has(key) && !promised.has(key)) && (await areFree(unit, names));
      if (!isFree) {
        again.push(unit);
        continue;
      }
      for (const key of keys) promised.add(key);
      unit.steps.forEach((step, i) => (step.toName = names[i] ?? step.toName));
    }
    open = again;
  }
  await store.startSteps(
    database,
    fresh.flatMap(({ steps }) => steps),
  );
}

async function areFree(unit: Unit, names: readonly string[]): Promise<boolean> {
  for (const name of names) if (await isTaken(join(unit.to, name))) return false;
  for (const [i, { name }] of unit.steps.entries()) {
    const own = unit.ownSidecars.get(name);
    if (own !== undefined && (await isTaken(join(unit.to, renamedSidecar(own, name, names[i] ?? ''))))) return false;
  }
  const [first] = unit.steps;
  if (unit.sidecar === undefined || !first) return true;
  const target = renamedSidecar(unit.sidecar, first.name, names[0] ?? '');
  const [from, to] = [join(unit.from, unit.sidecar), join(unit.to, target)];
  // It may have come along with another file of this name before.
  return !(await isTaken(to)) || (await hashOfFile(from)) === (await hashOfFile(to));
}

/** Where the sidecar goes that the files of a unit share, if there is one. */
function sharedTarget({ steps: [first], sidecar, to }: Unit): string | undefined {
  return sidecar === undefined || !first ? undefined : join(to, renamedSidecar(sidecar, first.name, first.toName));
}

/** Where the sidecar goes that is a file’s own, if there is one. */
function ownTarget({ ownSidecars, to }: Unit, { name, toName }: store.Step): string | undefined {
  const own = ownSidecars.get(name);
  return own === undefined ? undefined : join(to, renamedSidecar(own, name, toName));
}

function relocationsOf(unit: Unit): Relocation[] {
  const { steps, from, to, sidecar, ownSidecars, sharesSidecar } = unit;
  const files = steps.map(({ name, toName, copies, started, sizeBytes, sha256 }): Relocation => ({
    from: join(from, name),
    to: join(to, toName),
    copies,
    mayStand: started,
    sizeBytes,
    sha256: sha256 ?? undefined,
  }));
  const owned = steps.flatMap((step): Relocation[] => {
    const [own, beside] = [ownSidecars.get(step.name), ownTarget(unit, step)];
    if (own === undefined || beside === undefined) return [];
    return [{ from: join(from, own), to: beside, copies: step.copies, mayStand: true }];
  });
  const beside = sharedTarget(unit);
  if (sidecar === undefined || beside === undefined) return [...files, ...owned];
  const copies = sharesSidecar || (steps[0]?.copies ?? false);
  return [...files, ...owned, { from: join(from, sidecar), to: beside, copies, mayStand: true }];
}
