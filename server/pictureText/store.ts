// The tables' side of text in pictures.

import type { FieldValues } from '@stellin/core/metadata/fields';
import { kindsWhere, type FileKind } from '@stellin/core/metadata/containers/index';
import type { FileFacts } from '@stellin/core/metadata/read';
import type { TextLine } from '@stellin/core/pictureText/lines';
import type { Database, Transaction } from '../database/database';

const STILLS = kindsWhere(({ media }) => media === 'still')
  .map((kind) => `'${kind}'`)
  .join(', ');

export interface TextTask {
  id: number;
  kind: FileKind;
  orientation: number;
  path: string;
  driveId: string;
  drive: string;
  /** Null while it is away. */
  mountPoint: string | null;
  hash: string | null;
}

const TASK = `select p.id, p.kind, p.orientation, ltrim(f.path || '/' || p.name, '/') as path, d.id as "driveId", d.label as drive,
  case when d.attached then d.mount_point end as "mountPoint", encode(p.picture_hash, 'hex') as hash
  from photo p join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id`;

/** Pictures whose text is to be read and has not been, as they are now. */
const WAITING = `left join photo_lettering l on l.photo_id = p.id
  where d.read_text and d.attached and p.preview_state = 1 and p.missing_since is null and p.shown and p.kind in (${STILLS})
    and (l.photo_id is null or l.picture_hash is distinct from p.picture_hash)`;

/** The next ones, by id. */
export function nextToRead(database: Database, after: number, limit: number): Promise<TextTask[]> {
  return database.rows<TextTask>(`${TASK} ${WAITING} and p.id > $1 order by p.id limit $2`, [after, limit]);
}

export async function countToRead(database: Database): Promise<number> {
  const row = await database.row<{ photos: number }>(
    `select count(*)::int as photos from photo p join drive d on d.id = p.drive_id ${WAITING}`,
  );
  return row?.photos ?? 0;
}

export function findTask(database: Database, photoId: number): Promise<TextTask | undefined> {
  return database.row<TextTask>(`${TASK} where p.id = $1 and p.kind in (${STILLS}) and p.missing_since is null`, [
    photoId,
  ]);
}

export interface Lettering {
  lines: TextLine[];
  orientation: number;
  problem: string;
  /** How the picture is seen now. */
  seenAs: number;
}

/** What was read in a picture; undefined where nobody has. */
export function findLettering(database: Database, photoId: number): Promise<Lettering | undefined> {
  return database.row<Lettering>(
    `select l.lines, l.orientation, l.problem, p.orientation as "seenAs" from photo_lettering l join photo p on p.id = l.photo_id
     where p.id = $1`,
    [photoId],
  );
}

export interface ReadText {
  id: number;
  lines: readonly TextLine[];
  text: string;
  orientation: number;
  hash: string | null;
  problem: string;
}

export async function noteRead(database: Database, read: readonly ReadText[], tx: Transaction): Promise<void> {
  await database.rows(
    `insert into photo_lettering (photo_id, lines, text, orientation, picture_hash, problem)
     select p.id, r.lines, r.text, r.orientation, decode(r.hash, 'hex'), r.problem
     from jsonb_to_recordset($1::jsonb) as r (id int, lines jsonb, text text, orientation smallint, hash text, problem text) join photo p on p.id = r.id
     on conflict (photo_id) do update set lines = excluded.lines, text = excluded.text, orientation = excluded.orientation,
       picture_hash = excluded.picture_hash, problem = excluded.problem, at = now()`,
    [JSON.stringify(read)],
    tx,
  );
}

export interface DerivingRow {
  id: number;
  name: string;
  fields: FieldValues;
  facts: FileFacts;
  lettering: string;
  keywords: string[];
}

/** Of some photos whose text was read what they are found by follows from. */
export function toDerive(database: Database, photoIds: readonly number[], tx: Transaction): Promise<DerivingRow[]> {
  return database.rows<DerivingRow>(
    `select p.id, p.name, t.fields, t.facts, l.text as lettering,
       array(select k.keyword from photo_keyword k where k.photo_id = p.id) as keywords
     from photo_lettering l join photo p on p.id = l.photo_id join photo_text t on t.photo_id = p.id where p.id = any($1::int[]) for update of t`,
    [photoIds],
    tx,
  );
}

export interface DerivedRow {
  id: number;
  facts: FileFacts;
  fields_folded: Record<string, string[]>;
  words: string;
}

export async function writeDerived(database: Database, rows: readonly DerivedRow[], tx: Transaction): Promise<void> {
  await database.rows(
    `update photo_text t set facts = r.facts, fields_folded = r.fields_folded, words = r.words
     from jsonb_to_recordset($1::jsonb) as r (id int, facts jsonb, fields_folded jsonb, words tsvector)
     where t.photo_id = r.id and (t.facts, t.fields_folded, t.words) is distinct from (r.facts, r.fields_folded, r.words)`,
    [JSON.stringify(rows)],
    tx,
  );
}

/** Chooses whether the text in the pictures of a drive is read; false when there is no such drive. */
export async function setReadText(database: Database, driveId: string, on: boolean): Promise<boolean> {
  const row = await database.row('update drive set read_text = $2 where id = $1 returning id', [driveId, on]);
  return row !== undefined;
}
