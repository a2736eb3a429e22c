// Drives: which are there, which are away, recognised by their marker (or their file system) wherever they are mounted.

import { randomUUID } from 'node:crypto';
import { stat } from 'node:fs/promises';
import { basename, isAbsolute, resolve } from 'node:path';
import type { Logger } from 'pino';
import type { Drive } from '@stellin/contract/drives';
import type { Config } from '../config';
import type { Viewer } from '../catalogue/viewer';
import type { Database, Transaction } from '../database/database';
import { messageOf, StellinError } from '../errors';
import type { Presence } from '../jobs/presence';
import { relabelMarker, replaceMarker, writeMarker, type Marker } from './marker';
import * as store from './store';
import { findMounted, tellCopies, type Mounted } from './mounted';

export type Drives = ReturnType<typeof driveService>;

const PLACES = 'drive places';
const WATCH_MS = 1500;

export function driveService(
  database: Database,
  config: Pick<Config, 'kind' | 'mountRoots' | 'mountTable'>,
  log: Logger,
  presence: Presence,
) {
  // One closure for what its functions share; each of them fits a screen.
  let mounted: Mounted[] = [];
  /** Mount points of drives that carry the marker of another one that is there as well. */
  let copies = new Map<string, string>();
  /** As whom this process has told what it sees; undefined before the first look. */
  let seer: string | undefined;
  let timer: NodeJS.Timeout | undefined;
  let watching = false;
  let stopped = false;

  // One look after the other: one that began earlier must not have the last word.
  let lastLook: Promise<void> = Promise.resolve();
  const refresh = (): Promise<void> => {
    if (stopped) return lastLook;
    lastLook = lastLook.catch(() => undefined).then(lookAround);
    return lastLook;
  };

  const lookAround = async (): Promise<void> => {
    mounted = await findMounted(config, await store.addedPlaces(database, PLACES), log);
    const byFileSystem = await store.drivesByFileSystem(database);
    const seen = mounted.flatMap(({ mountPoint, marker, volume }) => {
      const id = marker?.id ?? byFileSystem.get(volume.fileSystem);
      return id === undefined ? [] : [{ id, mountPoint, volume }];
    });
    const told = tellCopies(seen, await store.lastPlaces(database));
    copies = told.copies;
    const { owner } = await presence.current();
    const changed = await store.noteSeen(database, owner, told.originals);
    seer = owner;
    if (changed) await database.notify(['drives', 'photos', 'writeBack']);
  };

  const lookOn = async (): Promise<void> => {
    try {
      const before = JSON.stringify(mounted);
      await refresh();
      if (JSON.stringify(mounted) !== before) await database.notify(['drives']);
    } catch (error) {
      log.warn(`drives: ${messageOf(error)}`);
    }
    if (!stopped) timer = setTimeout(() => void lookOn(), WATCH_MS);
  };

  /** Where this process sees a drive. */
  const placeSeen = async (id: string, tx?: Transaction): Promise<string | undefined> => {
    const { owner } = await presence.current();
    // Its connection was lost, and with it what was known of what it sees.
    if (owner !== seer && !tx) await refresh();
    return store.placeSeen(database, id, owner, tx);
  };

  const requireAttached = async (id: string, tx?: Transaction): Promise<store.DriveRow & { mountPoint: string }> => {
    const drive = await store.findDrive(database, id, tx);
    if (!drive) throw new StellinError('notFound', { what: 'such drive' });
    const mountPoint = await placeSeen(id, tx);
    // It may be attached to another machine.
    if (mountPoint === undefined) throw new StellinError('driveAway', { drive: drive.label });
    return { ...drive, mountPoint };
  };

  return {
    refresh,
    /** Keeps looking which drives are there; asked for once more it goes on as it does. */
    watch(): void {
      if (!watching) void lookOn();
      watching = true;
    },
    /** Looks no more; resolves when the last look has ended. */
    async stop(): Promise<void> {
      stopped = true;
      clearTimeout(timer);
      await lastLook.catch(() => undefined);
    },

    requireAttached,

    /** A drive that is there and can be written to. */
    async requireWritable(id: string, tx?: Transaction): Promise<store.DriveRow & { mountPoint: string }> {
      const drive = await requireAttached(id, tx);
      if (drive.readOnly) throw new StellinError('driveReadOnly', { drive: drive.label });
      return drive;
    },

    /** Whether this process sees a drive right now, looked up afresh. */
    async isAttached(id: string): Promise<boolean> {
      await refresh();
      return (await placeSeen(id)) !== undefined;
    },

    /** Catalogued drives that exist for somebody, and new ones for whom everything does. */
    async list(viewer: Viewer): Promise<Drive[]> {
      const known = await store.listDrives(database, viewer);
      const ids = new Set(known.map(({ id }) => id));
      const places = new Set(known.flatMap(({ attached, mountPoint }) => (attached && mountPoint ? [mountPoint] : [])));
      const fresh = mounted.filter(
        ({ mountPoint, marker }) =>
          !places.has(mountPoint) && (copies.has(mountPoint) || !marker || !ids.has(marker.id)),
      );
      return [
        ...known.map(({ attached, ...drive }): Drive => ({
          ...drive,
          key: drive.id,
          state: attached ? 'attached' : 'away',
          mountPoint: attached ? drive.mountPoint : null,
          copyOf: null,
        })),
        ...(viewer.sight === null ? fresh : []).map((found) =>
          newDrive(found, known.find(({ id }) => id === copies.get(found.mountPoint))?.label),
        ),
      ];
    },

    listFolders: (viewer: Viewer) => store.listFolders(database, viewer),

    /** Where the drive of a key (an id, or the mount point of a new drive) is mounted. Only places that the last look found count. */
    async mountPointOf(key: string): Promise<{ mountPoint: string; label: string }> {
      const fresh = mounted.find(({ mountPoint }) => mountPoint === key);
      if (fresh) return { mountPoint: fresh.mountPoint, label: fresh.marker?.label ?? basename(fresh.mountPoint) };
      return requireAttached(requireUuid(key));
    },

    /** The drive of a key, catalogued (and marked) now if it was new. */
    async catalogue(key: string): Promise<{ id: string; label: string }> {
      await refresh();
      const fresh = mounted.find(({ mountPoint }) => mountPoint === key);
      if (!fresh) return requireAttached(requireUuid(key));
      if (copies.has(fresh.mountPoint)) throw new StellinError('copiedDrive', { drive: basename(fresh.mountPoint) });
      const label = basename(fresh.mountPoint);
      const drive = fresh.marker ?? (await mark(fresh, label));
      await store.insertDrive(database, { ...drive, mountPoint: fresh.mountPoint, volume: fresh.volume });
      await refresh();
      return drive;
    },

    /** Makes a drive of its own of one that carries the marker of another. */
    async separate(mountPoint: string): Promise<void> {
      await refresh();
      if (!copies.has(mountPoint)) throw new StellinError('notFound', { what: 'copy of a drive at this place' });
      await replaceMarker(mountPoint, basename(mountPoint));
      await refresh();
      await database.notify(['drives']);
    },

    /** Gives a drive another label or note. */
    async change(id: string, changes: { label?: string; note?: string }): Promise<void> {
      const drive = await store.findDrive(database, id);
      if (!drive) throw new StellinError('notFound', { what: 'such drive' });
      await store.updateDrive(database, id, changes);
      if (changes.label && drive.attached && drive.mountPoint) {
        // On a drive that can't be written to the label stays in the catalogue alone.
        await relabelMarker(drive.mountPoint, { id, label: changes.label }).catch((error: unknown) =>
          log.info(`drives: ${messageOf(error)}`),
        );
      }
      await database.notify(['drives', 'photos']);
    },

    /** Looks at one more folder from now on, as if it were a drive: a network folder, or one of this machine. */
    async addPlace(path: string): Promise<void> {
      if (config.kind === 'demo') throw new StellinError('demoOnly');
      const isFolder =
        isAbsolute(path) &&
        (await stat(path).then(
          (found) => found.isDirectory(),
          () => false,
        ));
      if (!isFolder) throw new StellinError('folderMissing', { drive: 'this machine', folder: path });
      await store.addPlace(database, PLACES, resolve(path));
      await refresh();
      await database.notify(['drives']);
    },

    /** Notes that a drive was looked through just now. */
    noteChecked: (id: string) => store.noteChecked(database, id),
  };

  /** Marks a new drive; one that can't be written to is known by its file system. */
  async function mark({ mountPoint, volume }: Mounted, label: string): Promise<Marker> {
    if (volume.readOnly) return { id: randomUUID(), label };
    return writeMarker(mountPoint, label);
  }
}

function requireUuid(key: string): string {
  if (!/^[0-9a-f-]{36}$/i.test(key))
    throw new StellinError('notFound', { what: 'such drive; it may have been unplugged' });
  return key;
}

/** A drive that is not in the catalogue; `copyOf` names the drive whose marker it carries. */
function newDrive({ mountPoint, marker, volume }: Mounted, copyOf: string | undefined): Drive {
  return {
    key: mountPoint,
    id: null,
    label: copyOf === undefined ? (marker?.label ?? basename(mountPoint)) : basename(mountPoint),
    state: copyOf === undefined ? 'new' : 'copy',
    mountPoint,
    copyOf: copyOf ?? null,
    capacityBytes: volume.capacityBytes,
    freeBytes: volume.freeBytes,
    readOnly: volume.readOnly,
    note: '',
    browseAway: false,
    readText: false,
    photos: 0,
    photoBytes: 0,
    missing: 0,
    lastSeen: null,
    lastChecked: null,
  };
}
