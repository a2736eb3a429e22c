// What is kept of the finder index on disk, so that a restart reads only what has changed since. It is never the truth: what
// does not fit the catalogue or the program is left aside.

import type { Client } from 'pg';
import type { FinderIndex } from '@stellin/core/search/index/finderIndex';
import { messageOf } from '../errors';
import { readParts, writeParts } from '../files/partsFile';

/** Of what catalogue and by which program an index was kept, and up to where it knows it. */
interface Header {
  snapshot: string;
  /** ISO 8601; changes since then must still be known. */
  at: string;
  catalogue: string;
  program: string;
}

/** Where an index is kept, and the name of the program that makes it: others would make it differently. */
export interface Kept {
  path: string;
  program: string;
}

const FIRST = 'header';
/** The changes before it are no longer known; a time as text in `setting`. */
const FORGOTTEN = 'changesForgotten';

/** Fills an index that knows nothing with what was kept; returns up to where it knows the catalogue, undefined when nothing fits. */
export async function readKept(
  client: Client,
  { path, program }: Kept,
  index: FinderIndex,
): Promise<{ snapshot: string } | undefined> {
  const [catalogue, forgotten] = await Promise.all([catalogueOf(client), forgottenUntil(client)]);
  try {
    const parts = await readParts(path, (first) => {
      const header = first as Header;
      return header.catalogue === catalogue && header.program === program && header.at >= forgotten;
    });
    if (!parts) return undefined;
    index.append(parts);
    return { snapshot: (parts.get(FIRST) as Header).snapshot };
  } catch (error) {
    process.emitWarning(`the kept index can’t be used and is made anew: ${messageOf(error)}`);
    return undefined;
  }
}

/** Keeps an index that knows the catalogue up to a snapshot, taken at a time. */
export async function keep(
  client: Client,
  { path, program }: Kept,
  saved: Iterable<readonly [name: string, part: unknown]>,
  { snapshot, at }: { snapshot: string; at: Date },
): Promise<void> {
  const catalogue = await catalogueOf(client);
  const header: Header = { snapshot, at: at.toISOString(), catalogue, program };
  function* parts(): Generator<readonly [string, unknown]> {
    yield [FIRST, header];
    yield* saved;
  }
  await writeParts(path, parts());
}

/** Forgets changes that are older than some hours: no index that was kept before can follow them any more. */
export async function forgetChanges(client: Client, hours: number): Promise<void> {
  const until = new Date(Date.now() - hours * 3_600_000);
  await client.query(
    `with forgotten as (insert into setting (name, value) values ($1, to_jsonb($2::text)) on conflict (name) do update set value = excluded.value)
     delete from catalogue_change where at < $2::timestamptz`,
    [FORGOTTEN, until.toISOString()],
  );
}

async function forgottenUntil(client: Client): Promise<string> {
  const { rows } = await client.query<{ at: string }>(`select value #>> '{}' as at from setting where name = $1`, [
    FORGOTTEN,
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
