// Copies as one ZIP that is made while it is read: nothing of it is kept on a disk of ours.

import type { Readable } from 'node:stream';
import pLimit from 'p-limit';
import { sidecarOf } from '@stellin/core/delivering/names';
import type { CopySettings } from '@stellin/contract/delivering';
import type { Viewer } from '../catalogue/viewer';
import type { Database } from '../database/database';
import { holdingFiles } from '../database/filesLock';
import { messageOf, systemCode } from '../errors';
import { insideDrives } from '../files/drivePath';
import type { FileContent } from '../files/fileContent';
import { problemOf } from '../files/problem';
import { bagTags } from './bags';
import { makeCopy, placeOf, type LetOut, type MadeCopy } from './copy';
import * as store from './store';
import { zipStream, type ZipStream } from './zipStream';

const PHOTOS_PER_BATCH = 100;
/** Pictures are made as many ahead of the one that is being read. */
const SIDE_BY_SIDE = 2;
const NOT_DELIVERED = 'Not delivered.txt';

interface Zipping {
  database: Database;
  viewer: Viewer;
  delivery: store.DeliveryRow;
  settings: CopySettings;
  letOut: LetOut;
}

/** Begins the ZIP; what goes wrong with single photos stands in it in a list. Ends with an error where it can’t go on. */
export function zipDelivery(zipping: Zipping): Readable {
  return zipStream(zipping.delivery.at, (zip) => fill(zip, zipping));
}

interface Made {
  photo: store.DeliveredPhoto;
  copy: MadeCopy | undefined;
  problem: string | null;
}

async function fill(zip: ZipStream, zipping: Zipping): Promise<void> {
  const { database, delivery, settings } = zipping;
  const hashes = new Map<string, string>();
  const problems: string[] = [];
  const add = async (path: string, content: FileContent): Promise<string | null> => {
    if (!settings.bag) {
      await zip.add(path, content);
      return null;
    }
    const sha256 = await zip.addHashed(path, content);
    hashes.set(path, sha256);
    return sha256;
  };
  for (let after = -1; ;) {
    const photos = await holdingFiles(database, 'together', () =>
      store.nextPhotos(database, zipping.viewer, {
        deliveryId: delivery.id,
        after,
        limit: PHOTOS_PER_BATCH,
        all: true,
      }),
    );
    if (photos.length === 0) break;
    after = photos.at(-1)?.position ?? after;
    const outcomes: store.FileOutcome[] = [];
    for await (const { photo, copy, problem } of madeAhead(photos, zipping)) {
      const { position, path } = photo;
      if (!copy) {
        problems.push(`${photo.original}: ${problem ?? ''}`);
        outcomes.push({ position, path, state: 'failed', bytes: null, sha256: null, problem });
        continue;
      }
      const sha256 = await add(placeOf(settings, path), copy.content);
      if (copy.sidecar) await add(placeOf(settings, sidecarOf(path)), { bytes: copy.sidecar });
      const bytes = 'bytes' in copy.content ? copy.content.bytes.length : null;
      outcomes.push({ position, path, state: 'written', bytes, sha256, problem: null });
    }
    await store.recordOutcomes(database, delivery.id, outcomes);
  }
  if (problems.length > 0) await zip.add(NOT_DELIVERED, { bytes: Buffer.from(`${problems.join('\n')}\n`) });
  if (settings.bag)
    for (const [name, text] of Object.entries(bagTags(delivery, hashes)))
      await zip.add(name, { bytes: Buffer.from(text) });
}

/** Makes copies a little ahead of who takes them, in their order. */
async function* madeAhead(photos: readonly store.DeliveredPhoto[], zipping: Zipping): AsyncGenerator<Made> {
  const resolve = insideDrives();
  const limit = pLimit(SIDE_BY_SIDE);
  const begun: Promise<Made>[] = [];
  let next = 0;
  const begin = () => {
    const photo = photos[next++];
    if (photo) begun.push(limit(() => make(photo, zipping, resolve)));
  };
  for (let i = 0; i <= SIDE_BY_SIDE; i++) begin();
  for (let made = begun.shift(); made; made = begun.shift()) {
    begin();
    yield await made;
  }
}

async function make(
  photo: store.DeliveredPhoto,
  { settings, letOut }: Zipping,
  resolve: ReturnType<typeof insideDrives>,
): Promise<Made> {
  const { attached, mountPoint } = photo;
  if (!attached || mountPoint === null) return { photo, copy: undefined, problem: 'its drive is away' };
  try {
    return { photo, copy: await makeCopy({ ...photo, mountPoint }, settings, letOut, resolve), problem: null };
  } catch (error) {
    const problem = systemCode(error) === undefined ? messageOf(error) : problemOf(error);
    return { photo, copy: undefined, problem };
  }
}
