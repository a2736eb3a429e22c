// The tables of people: persons, faces, who is in which photo.

import type { Face } from '@stellin/contract/people';
import { DRIVE } from '../database/models/drives';
import { FACE_EXCEPTION } from '../database/models/people';
import { modelOf } from '../database/models/table';
import type { Database, Transaction } from '../database/database';
import type { SqlCondition } from '../catalogue/compile';
import { sightSql } from '../catalogue/sightSql';
import type { Viewer } from '../catalogue/viewer';
import type { Box } from '@stellin/core/people/boxes';

export interface PersonRow {
  id: number;
  name: string;
  name_folded: string;
  other_names: string[];
  names_folded: string[];
  note: string;
  born: string;
  died: string;
  private: boolean;
  detailed: boolean;
  term_id: number | null;
}

/** The persons that exist for somebody: who sees only some photos does not know who is in none of them, nor private ones. */
export function listPersons(database: Database, viewer: Viewer, tx?: Transaction): Promise<PersonRow[]> {
  if (viewer.sight === null) return database.rows<PersonRow>('select * from person order by name_folded, id', [], tx);
  const seen = sightSql(viewer.sight);
  return database.rows<PersonRow>(
    `select n.* from person n where true${knownTo(viewer)} and exists (
       select 1 from ${SEEN_IN} s join photo p on p.id = s.photo_id where s.person_id = n.id and ${seen.sql})
     order by n.name_folded, n.id`,
    seen.bind,
    tx,
  );
}

/** Who is in which photo, with a face or without. */
const SEEN_IN = `(select person_id, photo_id from face where state = 'named' union all select person_id, photo_id from photo_person)`;

/** That a person `n` is not a private one, for whom these do not exist. */
function knownTo({ knowsPrivate }: Viewer): string {
  return knowsPrivate ? '' : ' and not n.private';
}

/** The photo that a face is in. */
export async function photoOfFace(database: Database, faceId: number): Promise<number | undefined> {
  return (await database.row<{ id: number }>('select photo_id as id from face where id = $1', [faceId]))?.id;
}

const FACE_COLUMNS = `f.id, f.photo_id as "photoId", p.name as "photoName", p.preview_version as "previewVersion",
  json_build_object('left', f.box_left, 'top', f.box_top, 'width', f.box_width, 'height', f.box_height) as box, f.state,
  case when f.state = 'named' and n.id is not null then json_build_object('id', n.id, 'name', n.name) end as person, f.source = 'drawn' as drawn,
  f.quality, f.smile, f.eyes_open as "eyesOpen", to_char(p.taken_at, 'YYYY-MM-DD"T"HH24:MI:SS') as "takenAt"`;
/** Faces with the persons that exist for somebody. */
const facesSeenBy = (viewer: Viewer): string =>
  `from face f join photo p on p.id = f.photo_id left join person n on n.id = f.person_id${knownTo(viewer)}`;

/** Faces by their ids; those that are removed are left out. */
export async function facesById(
  database: Database,
  ids: readonly number[],
  viewer: Viewer,
): Promise<Map<number, Face>> {
  const seen = sightSql(viewer.sight, [ids]);
  const rows = await database.rows<Face>(
    `select ${FACE_COLUMNS} ${facesSeenBy(viewer)} where f.id = any($1) and f.state <> 'removed' and p.shown and ${seen.sql}`,
    seen.bind,
  );
  return new Map(rows.map((row) => [row.id, row]));
}

export function facesOfPhotos(
  database: Database,
  viewer: Viewer,
  photos: SqlCondition,
  limit: number,
): Promise<Face[]> {
  const bind = [...photos.bind];
  return database.rows<Face>(
    `select ${FACE_COLUMNS} ${facesSeenBy(viewer)} where f.photo_id in (${photos.sql}) and f.state <> 'removed' order by f.photo_id, f.box_left limit $${bind.push(limit)}`,
    bind,
  );
}

export function facesOfPerson(
  database: Database,
  viewer: Viewer,
  personId: number,
  which: 'confirmed' | 'refused',
): Promise<Face[]> {
  const seen = sightSql(viewer.sight, [personId]);
  const condition =
    which === 'confirmed' ? `f.person_id = $1 and f.state = 'named'` : `$1 = any(f.refused) and f.state <> 'removed'`;
  return database.rows<Face>(
    `select ${FACE_COLUMNS} ${facesSeenBy(viewer)} where ${condition} and p.shown and ${seen.sql}
     order by p.taken_at nulls last, f.id limit 500`,
    seen.bind,
  );
}

/** Of some faces, in their order, those in photos that a query finds. */
export async function facesWithin(
  database: Database,
  ids: readonly number[],
  photos: SqlCondition,
  limit: number,
): Promise<number[]> {
  const bind = [...photos.bind];
  const rows = await database.rows<{ id: number }>(
    `select f.id from unnest($${bind.push(ids)}::int[]) with ordinality as w (id, place) join face f on f.id = w.id join photo p on p.id = f.photo_id
     where ${photos.sql} order by w.place limit $${bind.push(limit)}`,
    bind,
  );
  return rows.map(({ id }) => id);
}

export function personsIn(
  database: Database,
  viewer: Viewer,
  photos: SqlCondition,
  faces: 'with or without a face' | 'without a face',
): Promise<{ id: number; name: string; photos: number }[]> {
  return database.rows(
    `with meant as materialized (${photos.sql})
     select n.id, n.name, count(distinct s.photo_id)::int as photos from (
       select g.person_id, g.photo_id from photo_person g join meant on meant.id = g.photo_id
       ${faces === 'without a face' ? '' : `union all select f.person_id, f.photo_id from face f join meant on meant.id = f.photo_id where f.state = 'named'`}) s
     join person n on n.id = s.person_id${knownTo(viewer)}
     group by n.id, n.name order by count(distinct s.photo_id) desc, n.name`,
    photos.bind,
  );
}

/** How often each person is seen, with the face that shows them best. */
export function countPersons(
  database: Database,
  { sight }: Viewer,
): Promise<{ id: number; photos: number; faces: number; coverFace: number | null; termLabel: string | null }[]> {
  const seen = sightSql(sight);
  return database.rows(
    `select n.id, (select t.label from term t where t.id = n.term_id) as "termLabel",
       (select count(*)::int from (select f.photo_id from face f join photo p on p.id = f.photo_id where f.person_id = n.id and f.state = 'named' and p.shown and ${seen.sql}
         union select g.photo_id from photo_person g join photo p on p.id = g.photo_id where g.person_id = n.id and p.shown and ${seen.sql}) s) as photos,
       (select count(*)::int from face f join photo p on p.id = f.photo_id where f.person_id = n.id and f.state = 'named' and ${seen.sql}) as faces,
       (select f.id from face f join photo p on p.id = f.photo_id where f.person_id = n.id and f.state = 'named' and ${seen.sql} order by f.quality desc, f.id limit 1) as "coverFace"
     from person n`,
    seen.bind,
  );
}

const PHOTOS_OF = `(select f.photo_id from face f where f.person_id = $1 and f.state = 'named' union select g.photo_id from photo_person g where g.person_id = $1)`;

export function yearsOf(
  database: Database,
  { sight }: Viewer,
  personId: number,
): Promise<{ year: number; photos: number }[]> {
  const seen = sightSql(sight, [personId]);
  return database.rows(
    `select extract(year from p.taken_at)::int as year, count(*)::int as photos from photo p
     where p.id in ${PHOTOS_OF} and p.taken_at is not null and p.shown and ${seen.sql} group by 1 order by 1`,
    seen.bind,
  );
}

export function alongWith(
  database: Database,
  viewer: Viewer,
  personId: number,
): Promise<{ personId: number; name: string; photos: number }[]> {
  const seen = sightSql(viewer.sight, [personId]);
  return database.rows(
    `select n.id as "personId", n.name, count(distinct s.photo_id)::int as photos from (
       select f.person_id, f.photo_id from face f where f.state = 'named' union all select person_id, photo_id from photo_person) s
     join person n on n.id = s.person_id${knownTo(viewer)} join photo p on p.id = s.photo_id
     where s.person_id <> $1 and s.photo_id in ${PHOTOS_OF} and ${seen.sql}
     group by n.id, n.name order by count(distinct s.photo_id) desc, n.name limit 24`,
    seen.bind,
  );
}

/** The next few faces of a person, or of all, by their ids. */
export async function nextFaceIds(
  database: Database,
  personId: number | null,
  after: number,
  limit: number,
): Promise<number[]> {
  const rows = await database.rows<{ id: number }>(
    'select id from face where ($1::int is null or person_id = $1) and id > $2 order by id limit $3',
    [personId, after, limit],
  );
  return rows.map(({ id }) => id);
}

/** Deletes faces for good: of a person, or all. Who is named in a photo stays named there, without a face. Returns how many. */
export async function forgetFaces(database: Database, personId: number | null, tx: Transaction): Promise<number> {
  await database.rows(
    `insert into photo_person (photo_id, person_id) select distinct photo_id, person_id from face
     where state = 'named' and ($1::int is null or person_id = $1) on conflict do nothing`,
    [personId],
    tx,
  );
  const row = await database.row<{ faces: number }>(
    `with gone as (delete from face where $1::int is null or person_id = $1 returning id) select count(*)::int as faces from gone`,
    [personId],
    tx,
  );
  if (personId === null) await database.rows('delete from face_scan', [], tx);
  await database.rows(`select nextval('face_generation')`, [], tx);
  return row?.faces ?? 0;
}

export interface Exception {
  driveId: string;
  drive: string;
  folder: string;
}

export function listExceptions(database: Database): Promise<Exception[]> {
  return database.rows(
    `select e.drive_id as "driveId", d.label as drive, e.folder from face_exception e join drive d on d.id = e.drive_id order by d.label, e.folder`,
  );
}

export async function isDrive(database: Database, id: string): Promise<boolean> {
  return (await modelOf(database, DRIVE).count({ where: { id } })) > 0;
}

export async function setException(
  database: Database,
  { driveId, folder, off }: { driveId: string; folder: string; off: boolean },
): Promise<void> {
  const exceptions = modelOf(database, FACE_EXCEPTION);
  if (off) await exceptions.upsert({ driveId, folder });
  else await exceptions.destroy({ where: { driveId, folder } });
}

/** Whether any face was looked at. */
export function hasFaces(database: Database): Promise<object | undefined> {
  return database.row<object>('select 1 as found from face where vector is not null limit 1');
}

/** Where a face is: its photo and box. */
export function findFaceBox(database: Database, faceId: number): Promise<{ photoId: number; box: Box } | undefined> {
  return database.row<{ photoId: number; box: Box }>(
    `select photo_id as "photoId", json_build_object('left', box_left, 'top', box_top, 'width', box_width, 'height', box_height) as box from face where id = $1`,
    [faceId],
  );
}

/** Photos of which an entry changes the fields that name people, unless it changes the people themselves. */
export function photosRenaming(database: Database, entryId: number, tx: Transaction): Promise<{ id: number }[]> {
  return database.rows<{ id: number }>(
    `select photo_id as id from ledger_photo where entry_id = $1 and aspect = 'fields' and (after ? 'personInImage' or after ? 'regions')
           and not exists (select 1 from ledger_photo l where l.entry_id = $1 and l.aspect in ('face', 'person'))`,
    [entryId],
    tx,
  );
}

/** Faces an entry draws that nobody has looked into yet. */
export function drawnFaces(
  database: Database,
  entryId: number,
): Promise<{ id: number; photoId: number; box: Face['box'] }[]> {
  return database.rows<{ id: number; photoId: number; box: Face['box'] }>(
    `select f.id, f.photo_id as "photoId", json_build_object('left', f.box_left, 'top', f.box_top, 'width', f.box_width, 'height', f.box_height) as box
         from ledger_photo l join face f on f.id = l.key where l.entry_id = $1 and l.aspect = 'face' and f.source = 'drawn' and f.vector is null and f.state <> 'removed'`,
    [entryId],
  );
}

/** Photos in which somebody is without a face of theirs. */
export function photosWithPerson(personId: number): SqlCondition {
  return { sql: 'select photo_id as id from photo_person where person_id = $1', bind: [personId] };
}
