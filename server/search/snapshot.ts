// The snapshot of the finder index on disk, so that a restart reads only what has changed since. It is never the truth: one
// that does not fit the catalogue or the program is ignored.

import type { Client } from 'pg';
import type { FinderIndex } from '@stellin/core/search/index/finderIndex';
import { messageOf } from '../errors';
import { readParts, writeParts } from '../files/partsFile';
import { catalogueOf, deletedUntil } from './changeFeed';

/** Of what catalogue and by which program a snapshot was written, and up to where it knows it. */
interface Header {
  snapshot: string;
  /** ISO 8601; changes since then must still be known. */
  at: string;
  catalogue: string;
  program: string;
}

/** Where a snapshot is written, and the version of the program that writes it: others would build the index differently. */
export interface SnapshotFile {
  path: string;
  program: string;
}

const HEADER_PART = 'header';
/** Fills an empty index from a snapshot; returns up to where it knows the catalogue, undefined when there is none that fits. */
export async function readSnapshot(
  client: Client,
  { path, program }: SnapshotFile,
  index: FinderIndex,
): Promise<{ snapshot: string } | undefined> {
  const [catalogue, deletedTo] = await Promise.all([catalogueOf(client), deletedUntil(client)]);
  try {
    const parts = await readParts(path, (first) => {
      const header = first as Header;
      return header.catalogue === catalogue && header.program === program && header.at >= deletedTo;
    });
    if (!parts) return undefined;
    index.append(parts);
    return { snapshot: (parts.get(HEADER_PART) as Header).snapshot };
  } catch (error) {
    process.emitWarning(`the snapshot of the index can’t be used and the index is made anew: ${messageOf(error)}`);
    return undefined;
  }
}

/** Writes the parts of an index that knows the catalogue up to a snapshot of the database, taken at a time. */
export async function writeSnapshot(
  client: Client,
  { path, program }: SnapshotFile,
  saved: Iterable<readonly [name: string, part: unknown]>,
  { snapshot, at }: { snapshot: string; at: Date },
): Promise<void> {
  const catalogue = await catalogueOf(client);
  const header: Header = { snapshot, at: at.toISOString(), catalogue, program };
  function* parts(): Generator<readonly [string, unknown]> {
    yield [HEADER_PART, header];
    yield* saved;
  }
  await writeParts(path, parts());
}
