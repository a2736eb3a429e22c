import type { Photo, PhotoDetails, PhotoGroup, Selection, Sort } from '@stellin/contract/photos';
import type { Database, Transaction } from '../database/database';
import { PART_CONDITIONS } from '../search/compile';
import { foundSql } from '../search/found';
import { selectionSql } from './selection';

const FOLDER_PLACE = `(select concat_ws('/', d.label, nullif(f.path, '')) collate "C" from folder f join drive d on d.id = f.drive_id where f.id = p.folder_id)`;

const ORDERS: Record<Sort, string> = {
  taken: 'p.taken_at nulls last, p.id',
  'taken-desc': 'p.taken_at desc nulls last, p.id desc',
  name: 'p.name, p.id',
  'name-desc': 'p.name desc, p.id desc',
  added: 'p.id',
  'added-desc': 'p.id desc',
  folder: `${FOLDER_PLACE}, p.name, p.id`,
  rating: 'p.rating, p.taken_at nulls last, p.id',
  'rating-desc': 'p.rating desc, p.taken_at nulls last, p.id',
  size: 'p.size_bytes, p.id',
  'size-desc': 'p.size_bytes desc, p.id desc',
  kind: 'p.kind, p.taken_at nulls last, p.id',
  bundle: 'p.bundle nulls last, p.leads desc, p.id',
};

const DAY = `to_char(p.taken_at, 'YYYY-MM-DD')`;
/** What the photos of a group have in common, for orders that begin with it, and how the groups are ordered. */
const GROUPS: Partial<Record<Sort, { key: string; order: string }>> = {
  taken: { key: DAY, order: '1 nulls last' },
  'taken-desc': { key: DAY, order: '1 desc nulls last' },
  folder: { key: FOLDER_PLACE, order: '1' },
  kind: { key: 'p.kind', order: '1' },
  rating: { key: 'p.rating', order: '1' },
  'rating-desc': { key: 'p.rating', order: '1 desc' },
  bundle: { key: 'p.bundle', order: '1 nulls last' },
};
const MOST_GROUPS = 50_000;

/** The groups of a result in its order. */
export async function groupsOf(database: Database, query: string, sort: Sort): Promise<PhotoGroup[]> {
  const group = GROUPS[sort];
  if (!group) return [];
  const condition = foundSql(query);
  return database.rows<PhotoGroup>(
    `select key::text, count from (select ${group.key} as key, count(*)::int as count from photo p where ${condition.sql}
       group by 1 order by ${group.order} limit ${MOST_GROUPS}) g`,
    condition.bind,
  );
}

/** One whose preview is not made yet has a first version already: asking for it makes it at once. */
const PREVIEW_VERSION = `case when p.preview_state = 0 and p.preview_version = 0 and d.attached and p.missing_since is null then 1 else p.preview_version end`;

export const PHOTO_COLUMNS = `p.id, p.name, p.kind, p.drive_id as "driveId", p.folder_id as "folderId", not d.attached as away, p.missing_since is not null as missing, p.damaged,
  case when p.orientation > 4 then p.height else p.width end as width, case when p.orientation > 4 then p.width else p.height end as height,
  to_char(p.taken_at, 'YYYY-MM-DD"T"HH24:MI:SS') as "takenAt", p.rating, p.mark,
  case when p.trashed_from is not null then 'trashed' when p.removed then 'removed' end as "setAside",
  case when p.bundle is not null then (select json_build_object('photos', count(*), 'leads', p.leads, 'closed', coalesce(bool_or(b.folded_into is not null), false)) from photo b where b.bundle = p.bundle) end as bundle,
  w.state as "writeState",
  json_build_object('terms', ${PART_CONDITIONS.terms}, 'caption', ${PART_CONDITIONS.caption}, 'people', ${PART_CONDITIONS.people}, 'location', ${PART_CONDITIONS.location}) as parts,
  v.placeholder, ${PREVIEW_VERSION} as "previewVersion"`;
export const PHOTO_JOINS = `join drive d on d.id = p.drive_id left join write_back w on w.photo_id = p.id left join photo_preview v on v.photo_id = p.id`;

export async function listPhotos(
  database: Database,
  page: { query: string; sort: Sort; offset: number; limit: number },
): Promise<Photo[]> {
  const condition = foundSql(page.query);
  const bind = [...condition.bind];
  const [limit, offset] = [`$${bind.push(page.limit)}`, `$${bind.push(page.offset)}`];
  return database.rows<Photo>(
    `select ${PHOTO_COLUMNS} from (
       select p.id from photo p where ${condition.sql} order by ${ORDERS[page.sort]} limit ${limit} offset ${offset}) found
     join photo p on p.id = found.id ${PHOTO_JOINS} order by ${ORDERS[page.sort]}`,
    bind,
  );
}

export async function photosOfSelection(
  database: Database,
  selection: Selection,
  sort: Sort,
  limit: number,
): Promise<Photo[]> {
  const chosen = selectionSql(selection);
  const bind = [...chosen.bind];
  const most = `$${bind.push(limit)}`;
  return database.rows<Photo>(
    `select ${PHOTO_COLUMNS} from (
       select p.id from (${chosen.sql}) chosen join photo p on p.id = chosen.id where p.folded_into is null order by ${ORDERS[sort]} limit ${most}) found
     join photo p on p.id = found.id ${PHOTO_JOINS} order by ${ORDERS[sort]}`,
    bind,
  );
}

export async function positionOf(database: Database, id: number, query: string, sort: Sort): Promise<number | null> {
  const condition = foundSql(query);
  const bind = [...condition.bind];
  const wanted = `$${bind.push(id)}`;
  const row = await database.row<{ position: number }>(
    `select position from (select p.id, (row_number() over (order by ${ORDERS[sort]}))::int - 1 as position from photo p where ${condition.sql}) ranked where id = ${wanted}`,
    bind,
  );
  return row?.position ?? null;
}

export async function findPhoto(database: Database, id: number): Promise<PhotoDetails | undefined> {
  return database.row<PhotoDetails>(
    `select ${PHOTO_COLUMNS}, d.label as "driveLabel", f.path as "folderPath", p.size_bytes::float8 as "sizeBytes",
       t.facts, t.fields, t.issues, t.disagreements,
       array(select keyword from photo_keyword k where k.photo_id = p.id order by position) as keywords,
       array(select term_id from photo_term g where g.photo_id = p.id) as "termIds",
       coalesce((select json_agg(json_build_object('photoId', o.id, 'path', concat_ws('/', od.label, nullif(of.path, ''), o.name)) order by o.id)
         from photo o join folder of on of.id = o.folder_id join drive od on od.id = o.drive_id
         where o.picture_hash = p.picture_hash and o.id <> p.id and o.shown), '[]') as doubles
     from photo p ${PHOTO_JOINS} join folder f on f.id = p.folder_id join photo_text t on t.photo_id = p.id where p.id = $1`,
    [id],
  );
}

const MAX_KEYWORDS = 30;

export async function describeSelection(database: Database, selection: Selection) {
  const chosen = selectionSql(selection);
  const [drives, terms, within, keywords] = await Promise.all([
    database.rows<{ id: string; label: string; away: boolean; photos: number }>(
      `select d.id, d.label, not d.attached as away, count(*)::int as photos from (${chosen.sql}) chosen
       join photo p on p.id = chosen.id join drive d on d.id = p.drive_id group by d.id order by d.label`,
      chosen.bind,
    ),
    database.rows<{ termId: number; photos: number }>(
      `select g.term_id as "termId", count(*)::int as photos from (${chosen.sql}) chosen join photo_term g on g.photo_id = chosen.id
       group by g.term_id`,
      chosen.bind,
    ),
    database.rows<{ termId: number; photos: number }>(
      `select a.above_id as "termId", count(distinct g.photo_id)::int as photos from (${chosen.sql}) chosen join photo_term g on g.photo_id = chosen.id
       join term_above a on a.term_id = g.term_id and a.above_id <> g.term_id group by a.above_id`,
      chosen.bind,
    ),
    database.rows<{ keyword: string; photos: number }>(
      `select k.keyword, count(*)::int as photos from (${chosen.sql}) chosen join photo_keyword k on k.photo_id = chosen.id
       group by k.keyword order by count(*) desc, k.keyword limit ${MAX_KEYWORDS}`,
      chosen.bind,
    ),
  ]);
  return { count: drives.reduce((sum, drive) => sum + drive.photos, 0), drives, terms, within, keywords };
}

/** Records that photos of a selection get a rating; only those whose rating differs. */
export async function recordRating(
  database: Database,
  entryId: number,
  selection: Selection,
  rating: number,
  tx: Transaction,
): Promise<void> {
  const chosen = selectionSql(selection);
  const bind = [...chosen.bind];
  const [entry, wanted] = [`$${bind.push(entryId)}`, `$${bind.push(rating)}`];
  await database.rows(
    `insert into ledger_photo (entry_id, photo_id, aspect, key, before, after)
     select ${entry}::int, p.id, 'rating', 0, to_jsonb(p.rating), to_jsonb(${wanted}::smallint)
     from (${chosen.sql}) chosen join photo p on p.id = chosen.id where p.rating <> ${wanted}::smallint`,
    bind,
    tx,
  );
}
