// The snapshot of the finder index on disk, so that a restart reads only what has changed since. It is never the truth: one
// that does not fit the catalogue or the program is ignored.

import type { Client } from 'pg';
import type { FinderIndex } from '@stellin/core/search/index/finderIndex';
import { messageOf } from '../errors';
import { readParts, writeParts } from '../files/partsFile';

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
/** The setting that tells until when rows of the change feed were deleted; a time as text. */
const CHANGES_DELETED = 'changesForgotten';

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

/** Deletes rows of the change feed older than some hours: no snapshot that was written before can follow them any more. */
export async function deleteOldChanges(client: Client, hours: number): Promise<void> {
  const until = new Date(Date.now() - hours * 3_600_000);
  await client.query(
    `with forgotten as (insert into setting (name, value) values ($1, to_jsonb($2::text)) on conflict (name) do update set value = excluded.value)
     delete from catalogue_change where at < $2::timestamptz`,
    [CHANGES_DELETED, until.toISOString()],
  );
}

async function deletedUntil(client: Client): Promise<string> {
  const { rows } = await client.query<{ at: string }>(`select value #>> '{}' as at from setting where name = $1`, [
    CHANGES_DELETED,
  ]);
  return rows[0]?.at ?? '';
}

/** What tells a catalogue from all others, and from what it was before it was restored. */
async function catalogueOf(client: Client): Promise<string> {
  const { rows } = await client.query<{ catalogue: string }>(
    `select concat_ws('/', (select system_identifier from pg_control_system()), (select timeline_id from pg_control_checkpoint()),
       (select oid from pg_database where datname = current_database()), (select string_agg(name, ' ' order by name) from migration)) as catalogue`,
  );
  return rows[0]?.catalogue ?? '';
}
