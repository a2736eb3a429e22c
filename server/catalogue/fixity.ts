// Noting what files hold, and what follows from it: for those who take files in, write them and read them again.

import {
  FIXITY_STATES,
  verdictOn,
  type FileHashes,
  type KnownFile,
  type Origin,
  type Verdict,
} from '@stellin/core/fixity/states';
import type { Database, Transaction } from '../database/database';

/** The state of a photo’s file by its name in core/fixity. */
export const FIXITY_SQL = `case when p.missing_since is not null then 'missing' else (array[${FIXITY_STATES.slice(0, 5)
  .map((state) => `'${state}'`)
  .join(', ')}])[p.fixity + 1] end`;

const placeOf = (state: (typeof FIXITY_STATES)[number]) => FIXITY_STATES.indexOf(state);

export interface Finding {
  photoId: number;
  /** Null where the drive could not read it. */
  found: FileHashes | null;
  /** Why the drive could not read it. */
  problem?: string;
  /** What was known of it before it was read, as SHA-256; null: nothing. If that is not so any more the finding says nothing. */
  expected: string | null;
}

/** What was written by us; the file itself only if it was touched. */
export interface WrittenHashes {
  photoId: number;
  file: Pick<FileHashes, 'sha256' | 'picture'> | null;
  sidecar: string | null;
}

interface KnownRow {
  photoId: number;
  sha256: string | null;
  picture: string | null;
  sidecar: string | null;
  origin: number;
}

/**
 * Notes what was found in files. Photos whose file is being written, or was meanwhile, are left out: the write notes them itself.
 * Returns the photos noted, by state.
 */
export async function noteFindings(
  database: Database,
  findings: readonly Finding[],
  tx: Transaction,
): Promise<Map<number, (typeof FIXITY_STATES)[number]>> {
  const known = await knownOf(
    database,
    findings.map(({ photoId }) => photoId),
    tx,
  );
  const notes = findings.flatMap(({ photoId, found, problem, expected }): Note[] => {
    const before = known.get(photoId);
    // One that can’t be read says nothing of what it should hold.
    if (found === null)
      return before ? [{ photoId, known: before, state: 'damaged', expected, problem: problem ?? null }] : [];
    const same = before !== undefined && found.sha256 === before.sha256;
    const verdict = verdictOn(before, same ? { ...found, picture: before.picture } : found, 'reading');
    return [
      {
        photoId,
        ...verdict,
        expected,
        problem: problemOf(verdict, found),
      },
    ];
  });
  return write(database, notes, 'unlessWritten', tx);
}

/** Notes what our own writes made of files. One that had another picture than it should, had it before. */
export async function noteWritten(
  database: Database,
  written: readonly WrittenHashes[],
  tx: Transaction,
): Promise<void> {
  const known = await knownOf(
    database,
    written.map(({ photoId }) => photoId),
    tx,
  );
  const notes = written.flatMap(({ photoId, file, sidecar }): Note[] => {
    const before = known.get(photoId);
    const now = file ?? before;
    // Nothing is known of a file that was not touched either.
    if (!now) return [];
    const { sha256, picture } = now;
    const verdict = verdictOn(before, { sha256, picture, sidecar }, 'us');
    return [{ photoId, ...verdict, expected: null, problem: problemOf(verdict, now) }];
  });
  await write(database, notes, 'always', tx);
}

function problemOf({ state }: Verdict, { picture }: Pick<FileHashes, 'picture'>): string | null {
  if (state !== 'damaged') return null;
  return picture === null ? 'it can’t be read as a picture any more' : 'its picture is not the one it held';
}

interface Note {
  photoId: number;
  known: KnownFile;
  state: (typeof FIXITY_STATES)[number];
  expected: string | null;
  problem: string | null;
}

async function knownOf(
  database: Database,
  photoIds: readonly number[],
  tx: Transaction,
): Promise<Map<number, KnownFile>> {
  const rows = await database.rows<KnownRow>(
    `select photo_id as "photoId", encode(sha256, 'hex') as sha256, encode(picture_hash, 'hex') as picture,
       encode(sidecar_sha256, 'hex') as sidecar, origin from photo_fixity where photo_id = any($1)`,
    [photoIds],
    tx,
  );
  return new Map(
    rows.map(({ photoId, sha256, picture, sidecar, origin }) => [
      photoId,
      { sha256: sha256 ?? '', picture, sidecar, origin: (FIXITY_STATES[origin] ?? 'unchanged') as Origin },
    ]),
  );
}

async function write(
  database: Database,
  notes: readonly Note[],
  when: 'always' | 'unlessWritten',
  tx: Transaction,
): Promise<Map<number, (typeof FIXITY_STATES)[number]>> {
  if (notes.length === 0) return new Map();
  const json = JSON.stringify(
    notes.map(({ photoId, known: { sha256, picture, sidecar, origin }, state, expected, problem }) => ({
      ...{ id: photoId, sha256, picture, sidecar, expected, problem },
      ...{ origin: placeOf(origin), state: placeOf(state) },
    })),
  );
  const type =
    '(id int, sha256 text, picture text, sidecar text, expected text, problem text, origin smallint, state smallint)';
  // A file that is being written has its journal; one that was written has another hash than expected.
  const [unlessWriting, unlessOther] =
    when === 'always'
      ? ['', '']
      : [
          'where not exists (select 1 from write_journal j where j.photo_id = r.id)',
          `where photo_fixity.sha256 = decode((select r.expected from given r where r.id = photo_fixity.photo_id), 'hex')`,
        ];
  const rows = await database.rows<{ id: number; state: number }>(
    `with given as materialized (select * from jsonb_to_recordset($1::jsonb) as r ${type}),
     noted as (
       insert into photo_fixity (photo_id, sha256, picture_hash, sidecar_sha256, origin, problem)
       select r.id, decode(r.sha256, 'hex'), decode(r.picture, 'hex'), decode(r.sidecar, 'hex'), r.origin, r.problem
       from given r join photo p on p.id = r.id ${unlessWriting}
       on conflict (photo_id) do update set sha256 = excluded.sha256, picture_hash = excluded.picture_hash,
         sidecar_sha256 = excluded.sidecar_sha256, origin = excluded.origin, problem = excluded.problem, proven_at = now()
       ${unlessOther} returning photo_id),
     changed as (
       update photo p set fixity = r.state from given r join noted on noted.photo_id = r.id where p.id = r.id and p.fixity <> r.state)
     select r.id, r.state from given r join noted on noted.photo_id = r.id`,
    [json],
    tx,
  );
  return new Map(rows.map(({ id, state }) => [id, FIXITY_STATES[state] ?? 'unread']));
}
