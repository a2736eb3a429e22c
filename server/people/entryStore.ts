// How changes to people stand in the ledger, and which photos they touch.

import type { Box } from '@stellin/core/people/boxes';
import type { Shown } from '@stellin/core/people/following';
import type { FieldValue } from '@stellin/core/metadata/fields';
import type { Database, Transaction } from '../database/database';
import type { SqlCondition } from '../catalogue/compile';
import { FACE_STATE } from './states';
import type { PersonRow } from './store';
import { recordPhotos } from '../ledger/recordStore';

/** Records what some faces become: parts of their state as the ledger keeps it. Faces that are so already are left out. */
export async function recordFaces(
  database: Database,
  entryId: number,
  faceIds: readonly number[],
  becoming: { state?: string; person?: number | null; refuse?: number; allow?: number; box?: Box },
  tx: Transaction,
): Promise<void> {
  const { refuse = null, allow = null, box, ...plain } = becoming;
  const said = JSON.stringify({ ...plain, ...(box ? { box: [box.left, box.top, box.width, box.height] } : {}) });
  const sql = `select n.photo_id, n.id, n.before, n.after from (
      select f.photo_id, f.id, ${FACE_STATE} as before, ${FACE_STATE} || $2::jsonb || jsonb_build_object('refused',
        to_jsonb(array(select distinct r from unnest(f.refused || array_remove(array[$3::int], null)) r where $4::int is null or r <> $4 order by r))) as after
      from face f where f.id = any($1::int[]) and f.state <> 'removed' order by f.id for update) n
    where n.before <> n.after`;
  await recordPhotos(database, entryId, 'face', { sql, bind: [faceIds, said, refuse, allow] }, tx, 'replaced');
}

/** A new face that is not there yet: it appears with what is recorded next. Returns its id. */
export async function insertDrawn(database: Database, photoId: number, box: Box, tx: Transaction): Promise<number> {
  const row = await database.row<{ id: number }>(
    `insert into face (photo_id, source, state, box_left, box_top, box_width, box_height)
     select p.id, 'drawn', 'removed', $2, $3, $4, $5 from photo p where p.id = $1 returning id`,
    [photoId, box.left, box.top, box.width, box.height],
    tx,
  );
  return row?.id ?? 0;
}

export async function recordDrawn(
  database: Database,
  entryId: number,
  faceId: number,
  person: number | null,
  tx: Transaction,
): Promise<void> {
  const sql = `select f.photo_id, f.id, ${FACE_STATE},
      ${FACE_STATE} || jsonb_build_object('state', case when $2::int is null then 'open' else 'named' end, 'person', $2::int)
    from face f where f.id = $1`;
  await recordPhotos(database, entryId, 'face', { sql, bind: [faceId, person] }, tx);
}

/** Records that somebody is in photos without a face, where no face of theirs is and they are not yet. */
export async function recordInPhotos(
  database: Database,
  entryId: number,
  personId: number,
  photos: SqlCondition,
  tx: Transaction,
): Promise<void> {
  const bind = [...photos.bind];
  const [entry, person] = [`$${bind.push(entryId)}::int`, `$${bind.push(personId)}::int`];
  const sql = `select p.id, ${person}, 'false', 'true' from (${photos.sql}) p
    where not exists (select 1 from photo_person g where g.photo_id = p.id and g.person_id = ${person})
      and not exists (select 1 from face f where f.photo_id = p.id and f.person_id = ${person} and f.state = 'named')
      and not exists (select 1 from ledger_photo l where l.entry_id = ${entry} and l.photo_id = p.id and l.aspect = 'face' and (l.after ->> 'person')::int = ${person})`;
  await recordPhotos(database, entryId, 'person', { sql, bind }, tx, 'stays');
}

/** Records that somebody is no longer in photos without a face: of all, or of those that an entry gives a face of theirs. */
export async function recordNotInPhotos(
  database: Database,
  entryId: number,
  personId: number,
  photos: SqlCondition | 'with a face',
  tx: Transaction,
): Promise<void> {
  const bind: unknown[] = photos === 'with a face' ? [entryId] : [...photos.bind];
  const person = `$${bind.push(personId)}::int`;
  const which =
    photos === 'with a face'
      ? `select l.photo_id from ledger_photo l where l.entry_id = $1::int and l.aspect = 'face' and (l.after ->> 'person')::int = ${person}`
      : photos.sql;
  const sql = `select g.photo_id, ${person}, 'true', 'false' from photo_person g
    where g.person_id = ${person} and g.photo_id in (${which})`;
  await recordPhotos(database, entryId, 'person', { sql, bind }, tx, 'stays');
}

/** The faces of a person: of all photos, or of some. */
export async function facesNamed(
  database: Database,
  personId: number,
  photos: SqlCondition | undefined,
  tx: Transaction,
): Promise<number[]> {
  const bind = [...(photos?.bind ?? [])];
  const person = `$${bind.push(personId)}::int`;
  const rows = await database.rows<{ id: number }>(
    `select id from face where person_id = ${person} and state = 'named' ${photos ? `and photo_id in (${photos.sql})` : ''}`,
    bind,
    tx,
  );
  return rows.map(({ id }) => id);
}

/** A photo whose people an entry changes, with what it said of them before. */
export interface ChangedPeople {
  id: number;
  names: FieldValue | null;
  details: FieldValue | null;
  regions: FieldValue | null;
  orientation: number;
  width: number | null;
  height: number | null;
  before: { personId: number; box: Box | null }[];
  after: { personId: number; box: Box | null }[];
}

const PHOTOS_PER_PAGE = 2000;

/** The photos whose people an entry changes, or whose persons it calls otherwise, page by page. */
export async function* photosWithChangedPeople(
  database: Database,
  entryId: number,
  tx: Transaction,
): AsyncGenerator<ChangedPeople[]> {
  const box = (value: string) =>
    `json_build_object('left', ${value} -> 0, 'top', ${value} -> 1, 'width', ${value} -> 2, 'height', ${value} -> 3)`;
  const shown = `json_agg(json_build_object('personId', s.person_id, 'box', s.box) order by s.face)`;
  await database.rows(
    `declare changed_people no scroll cursor for
     with touched as materialized (
       select photo_id from ledger_photo where entry_id = $1 and aspect in ('face', 'person')
       union select f.photo_id from ledger_object o join face f on f.person_id = o.object_id and f.state = 'named'
         where o.entry_id = $1 and o.kind = 'person' and o.before is not null
       union select g.photo_id from ledger_object o join photo_person g on g.person_id = o.object_id
         where o.entry_id = $1 and o.kind = 'person' and o.before is not null)
     select p.id, t.fields -> 'personInImage' as names, t.fields -> 'personInImageDetails' as details, t.fields -> 'regions' as regions, p.orientation,
       case when p.orientation > 4 then p.height else p.width end as width, case when p.orientation > 4 then p.width else p.height end as height,
       coalesce((select ${shown} from (
         select f.person_id, ${box('jsonb_build_array(f.box_left, f.box_top, f.box_width, f.box_height)')} as box, f.id as face
         from face f where f.photo_id = p.id and f.state = 'named'
         union all select g.person_id, null, null from photo_person g where g.photo_id = p.id) s), '[]') as before,
       coalesce((select ${shown} from (
         select (a.said ->> 'person')::int as person_id, ${box(`(a.said -> 'box')`)} as box, a.id as face from (
           select f.id, coalesce(l.after, ${FACE_STATE}) as said from face f
           left join ledger_photo l on l.entry_id = $1 and l.photo_id = p.id and l.aspect = 'face' and l.key = f.id where f.photo_id = p.id) a
         where a.said ->> 'state' = 'named'
         union all select g.person_id, null, null from photo_person g where g.photo_id = p.id
           and not exists (select 1 from ledger_photo l where l.entry_id = $1 and l.photo_id = p.id and l.aspect = 'person' and l.key = g.person_id and l.after = 'false')
         union all select l.key, null, null from ledger_photo l where l.entry_id = $1 and l.photo_id = p.id and l.aspect = 'person' and l.after = 'true') s), '[]') as after
     from touched join photo p on p.id = touched.photo_id join photo_text t on t.photo_id = p.id order by p.id for update of t`,
    [entryId],
    tx,
  );
  for (;;) {
    const rows = await database.rows<ChangedPeople>(`fetch ${PHOTOS_PER_PAGE} from changed_people`, [], tx);
    if (rows.length === 0) break;
    yield rows;
  }
  await database.rows('close changed_people', [], tx);
}

/** Persons as an entry has them before and after it. */
export async function personsOfEntry(
  database: Database,
  entryId: number,
  tx: Transaction,
): Promise<{ id: number; before: PersonRow | null; after: PersonRow | null }[]> {
  return database.rows(
    `select object_id as id, before, after from ledger_object where entry_id = $1 and kind = 'person'`,
    [entryId],
    tx,
  );
}

/** The addresses of terms that stand for persons of whom files say more than the name. */
export async function termUris(
  database: Database,
  persons: readonly PersonRow[],
  tx: Transaction,
): Promise<Map<number, string>> {
  const ids = persons.flatMap(({ detailed, term_id }) => (detailed && term_id !== null ? [term_id] : []));
  if (ids.length === 0) return new Map();
  const rows = await database.rows<{ id: number; uri: string }>(
    'select id, uri from term where id = any($1)',
    [ids],
    tx,
  );
  return new Map(rows.map(({ id, uri }) => [id, uri]));
}

/** Persons as they are shown in files, by id: those who are private are not. */
export function shownPersons(
  persons: Iterable<PersonRow>,
  uris: ReadonlyMap<number, string>,
): Map<number, Omit<Shown, 'box'>> {
  return new Map(
    [...persons].flatMap(({ id, name, note, detailed, term_id, private: isPrivate }) => {
      if (isPrivate) return [];
      const uri = term_id === null ? undefined : uris.get(term_id);
      return [[id, { name, ...(detailed ? { details: { note, ...(uri ? { uri } : {}) } } : {}) }] as const];
    }),
  );
}

export function shownOf(people: ChangedPeople['before'], persons: ReadonlyMap<number, Omit<Shown, 'box'>>): Shown[] {
  return people.flatMap(({ personId, box }): Shown[] => {
    const shown = persons.get(personId);
    return shown === undefined ? [] : [{ ...shown, box: box ?? undefined }];
  });
}
