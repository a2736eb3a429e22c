// Linking a missing photo by hand: the files of a folder that it may be, and giving it the one that a person chose.

import { join } from 'node:path';
import { kindByName } from '@stellin/core/metadata/containers/index';
import type { LinkCandidate } from '@stellin/contract/intake';
import type { Database } from '../database/database';
import type { Drives } from '../drives/service';
import { holdingFiles } from '../database/filesLock';
import { StellinError } from '../errors';
import { joinPath, resolveInside } from '../files/drivePath';
import { baseName, sidecarFor } from '../files/sidecars';
import { walkFolders } from '../files/walk';
import { ensureFolder } from '../catalogue/folders';
import type { Reread } from '../catalogue/rereading';
import { moveHere } from './movesStore';
import type { FileReader } from '../catalogue/reader';
import { namesKnownIn, findMissing, makePreviewAnew, dropPhoto, photoAt, type MissingPhoto } from './linkingStore';

interface Services {
  database: Database;
  drives: Drives;
  reader: FileReader;
  reread: Reread;
}

const MAX_CANDIDATES = 200;

export type Linking = ReturnType<typeof linkingService>;

export function linkingService({ database, drives, reader, reread }: Services) {
  return {
    /** The files of a folder that a missing photo may be, the likeliest first. */
    async candidates(photoId: number, driveId: string, folder: string): Promise<LinkCandidate[]> {
      const photo = await requireMissing(photoId);
      const { mountPoint } = await drives.requireAttached(driveId);
      const listing = await listingOf(mountPoint, folder);
      const inside = await resolveInside(mountPoint, folder);
      const names = listing.photos.filter(
        (name) => kindByName(name) === photo.kind || baseName(name) === baseName(photo.name),
      );
      const stats = await reader.stats({ folder: inside, names, sidecars: names.map(() => undefined) });
      const known = await knownNames(driveId, folder);
      return names
        .map((name, i) => ({
          name,
          sizeBytes: stats.sizes[i] ?? 0,
          sameName: name === photo.name,
          sameSize: stats.sizes[i] === photo.sizeBytes,
          described: known.get(name) ?? false,
          known: known.has(name),
        }))
        .sort((a, b) => likelihood(b) - likelihood(a) || a.name.localeCompare(b.name))
        .slice(0, MAX_CANDIDATES);
    },

    /** Gives a missing photo a file. Throws unless the picture is the same, or `otherPicture` says that this is known. */
    async link(
      photoId: number,
      { driveId, folder, name, otherPicture }: { driveId: string; folder: string; name: string; otherPicture: boolean },
    ): Promise<void> {
      const photo = await requireMissing(photoId);
      const { mountPoint } = await drives.requireAttached(driveId);
      await holdingFiles(database, 'together', async () => {
        const listing = await listingOf(mountPoint, folder);
        if (!listing.photos.includes(name)) throw new StellinError('fileMissing', { file: name });
        const inside = await resolveInside(mountPoint, folder);
        const path = join(inside, name);
        const [hash] = await reader.hashes([path]);
        if (!hash?.ok)
          throw new StellinError('fileUnreadable', { file: name, why: hash?.message ?? 'it was not read' });
        if (!otherPicture && photo.hash && photo.hash.toString('hex') !== hash.picture)
          throw new StellinError('otherPicture', { file: name });
        const sidecar = sidecarFor(listing.sidecars, name);
        const folderId = await ensureFolder(database, driveId, folder);
        const problems = await database.transaction(async (tx) => {
          const there = await photoAt(database, folderId, name, photoId, tx);
          if (there?.said) throw new StellinError('placeTaken', { file: joinPath(folder, name) });
          if (there) await dropPhoto(database, there.id, tx);
          await moveHere(database, { driveId, folderId }, [{ id: photoId, name }], tx);
          await makePreviewAnew(database, photoId, tx);
          return reread(
            [{ driveId, folderId, name, path, sidecarPath: sidecar === undefined ? undefined : join(inside, sidecar) }],
            tx,
          );
        });
        const [problem] = problems;
        if (problem !== undefined) throw new StellinError('fileUnreadable', { file: name, why: problem.message });
      });
      await database.notify(['photos', 'drives']);
    },
  };

  async function requireMissing(photoId: number): Promise<MissingPhoto> {
    const photo = await findMissing(database, photoId);
    if (!photo) throw new StellinError('notFound', { what: 'such missing photo; it may have been found meanwhile' });
    return photo;
  }

  /** Names the catalogue knows in a folder, and whether somebody said something of them. */
  async function knownNames(driveId: string, folder: string): Promise<Map<string, boolean>> {
    const rows = await namesKnownIn(database, driveId, folder);
    return new Map(rows.map(({ name, said }) => [name, said]));
  }
}

async function listingOf(mountPoint: string, folder: string) {
  for await (const listing of walkFolders(mountPoint, folder, { subFolders: false })) return listing;
  throw new StellinError('folderMissing', { drive: mountPoint, folder });
}

function likelihood({ sameName, sameSize, known, described }: LinkCandidate): number {
  return (sameName ? 4 : 0) + (sameSize ? 4 : 0) + (known ? 0 : 1) - (described ? 8 : 0);
}
