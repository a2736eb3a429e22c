// Names that files bring: kept as they stand there, settled like keywords, and those of persons recognised by themselves.

import type { Box } from '@stellin/core/people/boxes';
import type { FieldValue } from '@stellin/core/metadata/fields';
import type { Database, Transaction } from '../database/database';

export interface DecisionRow {
  id: number;
  name: string;
  name_folded: string;
  person_id: number | null;
}

export function listDecisions(database: Database, tx?: Transaction): Promise<DecisionRow[]> {
  return database.rows<DecisionRow>('select * from name_decision', [], tx);
}

/** Photos whose names, as files or fields give them, are among some: with their regions and faces. */
export interface NamedPhoto {
  id: number;
  names: string[];
  /** Keywords that came with the file and are no term, folded: they name persons that are known. */
  keywords: string[];
  regions: FieldValue | null;
  orientation: number;
  width: number | null;
  height: number | null;
  faces: { id: number; state: string; box: Box }[];
}

const NAMED_PHOTO = `select p.id, array(select jsonb_array_elements_text(case when jsonb_typeof(t.fields -> 'personInImage') = 'array' then t.fields -> 'personInImage' else '[]' end)
    union select jsonb_path_query(t.fields, '$.regions.RegionList[*].Name') #>> '{}') as names,
  array(select k.folded from photo_keyword k where k.photo_id = p.id) as keywords, t.fields -> 'regions' as regions, p.orientation,
  case when p.orientation > 4 then p.height else p.width end as width, case when p.orientation > 4 then p.width else p.height end as height,
  coalesce((select json_agg(json_build_object('id', f.id, 'state', f.state, 'box', json_build_object('left', f.box_left, 'top', f.box_top, 'width', f.box_width, 'height', f.box_height)) order by f.id)
    from face f where f.photo_id = p.id and f.state <> 'removed'), '[]') as faces
  from photo p join photo_text t on t.photo_id = p.id`;

/** Photos that give one of some names, folded as searches do: as a name, or as a keyword. */
export function photosGiving(database: Database, folded: readonly string[], tx: Transaction): Promise<NamedPhoto[]> {
  return database.rows<NamedPhoto>(
    `${NAMED_PHOTO} where p.id in (select i.photo_id from incoming_name i where i.folded = any($1) union select k.photo_id from photo_keyword k where k.folded = any($1)) order by p.id`,
    [folded],
    tx,
  );
}

export function namedPhotos(database: Database, ids: readonly number[], tx?: Transaction): Promise<NamedPhoto[]> {
  return database.rows<NamedPhoto>(`${NAMED_PHOTO} where p.id = any($1) order by p.id`, [ids], tx);
}

/** Notes faces as those of persons whose names stand in the file: no change of anybody's, so not in the ledger. */
export async function nameFromFiles(
  database: Database,
  found: {
    faces: { faceId: number; personId: number }[];
    photos: { photoId: number; personId: number }[];
    looked: number[];
  },
  tx?: Transaction,
): Promise<void> {
  await database.rows(
    `update face f set state = 'named', person_id = r."personId" from jsonb_to_recordset($1::jsonb) as r ("faceId" int, "personId" int)
     where f.id = r."faceId" and f.state = 'open' and r."personId" <> all(f.refused)`,
    [JSON.stringify(found.faces)],
    tx,
  );
  await database.rows(
    `delete from photo_person g using person n where n.id = g.person_id and not n.private and g.photo_id = any($2)
       and not exists (select 1 from jsonb_to_recordset($1::jsonb) as r ("photoId" int, "personId" int) where r."photoId" = g.photo_id and r."personId" = g.person_id)`,
    [JSON.stringify(found.photos), found.looked],
    tx,
  );
  await database.rows(
    `insert into photo_person (photo_id, person_id) select r."photoId", r."personId" from jsonb_to_recordset($1::jsonb) as r ("photoId" int, "personId" int)
     where not exists (select 1 from face f where f.photo_id = r."photoId" and f.person_id = r."personId" and f.state = 'named') on conflict do nothing`,
    [JSON.stringify(found.photos)],
    tx,
  );
  await database.rows(
    `delete from photo_person g where g.photo_id = any($1)
       and exists (select 1 from face f where f.photo_id = g.photo_id and f.person_id = g.person_id and f.state = 'named')`,
    [found.looked],
    tx,
  );
}

/** Keeps the names that photos give, so that they can be counted and found: as files and fields have them. JSON of {photoId, name, folded}. */
export async function noteNames(
  database: Database,
  photoIds: readonly number[],
  json: string,
  tx?: Transaction,
): Promise<void> {
  await database.rows('delete from incoming_name where photo_id = any($1)', [photoIds], tx);
  await database.rows(
    `insert into incoming_name (photo_id, name, folded)
     select distinct r."photoId", r.name, r.folded from jsonb_to_recordset($1::jsonb) as r ("photoId" int, name text, folded text) on conflict do nothing`,
    [json],
    tx,
  );
}

/** Names that photos give and that nobody of the catalogue has, the most frequent first. */
export function openNames(
  database: Database,
): Promise<{ name: string; folded: string; photos: number; samples: { photoId: number; version: number }[] }[]> {
  return database.rows(
    `select min(i.name) as name, i.folded, count(distinct i.photo_id)::int as photos,
       (select json_agg(json_build_object('photoId', s.id, 'version', s.preview_version)) from (
         select p.id, p.preview_version from incoming_name j join photo p on p.id = j.photo_id
         where j.folded = i.folded and p.preview_version > 0 order by p.id limit 3) s) as samples
     from incoming_name i where not exists (select 1 from person n where i.folded = any(n.names_folded))
       and not exists (select 1 from name_decision d where d.name_folded = i.folded)
     group by i.folded order by count(distinct i.photo_id) desc, i.folded limit 500`,
  );
}
