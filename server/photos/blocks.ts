// What each block of a photo's file says right now: read from the file, not from the catalogue.

import { join } from 'node:path';
import type { PhotoBlocks } from '@stellin/contract/photos';
import type { Database } from '../database/database';
import type { Drives } from '../drives/service';
import { StellinError } from '../errors';
import { resolveInside } from '../files/drivePath';
import { sidecarBeside } from '../files/sidecars';
import type { FileReader } from '../catalogue/reader';
import { requireSeen } from '../catalogue/seen';
import type { Viewer } from '../catalogue/viewer';
import { placeOfPhoto } from './store';

/** Reads the blocks of a photo's file and its sidecar. Throws a StellinError when the file can't be reached. */
export async function readBlocks(
  { database, drives, reader }: { database: Database; drives: Drives; reader: FileReader },
  viewer: Viewer,
  photoId: number,
): Promise<PhotoBlocks> {
  await requireSeen(database, viewer, photoId);
  const photo = await placeOfPhoto(database, photoId);
  if (!photo) throw new StellinError('notFound', { what: 'such photo' });
  const { mountPoint } = await drives.requireAttached(photo.driveId);
  const path = await resolveInside(mountPoint, join(photo.folder, photo.name)).catch(() => {
    throw new StellinError('fileMissing', { file: photo.name });
  });
  const [result] = await reader.read([{ path, sidecarPath: sidecarBeside(path) }]);
  if (!result?.ok)
    throw new StellinError('fileUnreadable', { file: photo.name, why: result?.message ?? 'it was not read' });
  const { blocks, disagreements, issues, fields } = result.metadata;
  return { blocks, disagreements, issues, fields };
}
