// A stand-in for another program that changes the metadata of files: for trying out how Stellin meets that.

import { join } from 'node:path';
import type { FieldChanges } from '@stellin/core/metadata/write';
import { places } from '../config';
import { StellinError } from '../errors';
import { touchPictures } from '../files/touchPictures';
import { listBay } from './bay';

/** What the other program writes. */
const TOUCHES: FieldChanges = { headline: 'Changed by another program', city: 'Elsewhere' };

/**
 * Changes the first so many pictures of a drive in the bay, in the order of their paths. Returns their paths below the drive.
 * Throws a StellinError when the drive is not plugged in.
 */
export async function touch(home: string, name: string, count: number): Promise<string[]> {
  const drive = (await listBay(home)).find((each) => each.name === name || each.label === name);
  if (!drive?.attachedAt) throw new StellinError('bayDrive', { why: `“${name}” is not plugged in.` });
  return touchPictures(join(places.mounts(home), drive.attachedAt), count, TOUCHES);
}
