// The SQL of site plans.

import type { PinKind, PinLook, Spot } from '@stellin/core/plans/pins';
import type { Tie } from '@stellin/core/plans/tying';
import type { FieldValues } from '@stellin/core/metadata/fields';
import { PLAN_PICTURE } from '../database/models/plans';
import { modelOf } from '../database/models/table';
import type { Database, Transaction } from '../database/database';
import type { SqlCondition } from '../catalogue/compile';
import { sightSql } from '../catalogue/sightSql';
import type { Viewer } from '../catalogue/viewer';
import { recordPhotos } from '../ledger/recordStore';

/** A plan as the ledger keeps it. */
export interface PlanRecord {
  id: number;
  name: string;
  name_folded: string;
  note: string;
  picture_id: number;
  ties: readonly Tie[];
  created_by: number | null;
}

/** A pin as the ledger keeps it. */
export interface PinRecord {
  id: number;
  plan_id: number;
  kind: PinKind;
  number: number;
  x: number;
  y: number;
  corners: readonly Spot[] | null;
  direction: number | null;
  label: string;
  /** What it is called: its label, or its number. */
  name: string;
  name_folded: string;
  note: string;
  colour: string;
  shape: PinLook;
  layer: string;
  term_id: number | null;
  place_id: number | null;
  created_by: number | null;
}

const PLAN_COLUMNS = 'l.id, l.name, l.name_folded, l.note, l.picture_id, l.ties, l.created_by';
const PIN_COLUMNS =
  'n.id, n.plan_id, n.kind, n.number, n.x, n.y, n.corners, n.direction, n.label, n.name, n.name_folded, n.note, n.colour, n.shape, n.layer, n.term_id, n.place_id, n.created_by';

/** A plan with the picture it is made of. */
export interface PlanRow extends PlanRecord {
  width: number;
  height: number;
  photoId: number | null;
  page: number;
  pins: number;
  addedBy: string | null;
}

/** The plans that exist for somebody, or the one of a number: one that shows a photo does where the photo does. */
export function listPlans(
  database: Database,
  { sight }: Viewer,
  { planId = null, tx }: { planId?: number | null; tx?: Transaction | undefined } = {},
): Promise<PlanRow[]> {
  const seen = sightSql(sight, [planId]);
  const isSeen =
    sight === null
      ? 'true'
      : `(case when c.photo_id is null then not c.private else exists (select 1 from photo p where p.id = c.photo_id and ${seen.sql}) end)`;
  return database.rows<PlanRow>(
    `select ${PLAN_COLUMNS}, c.width, c.height, c.photo_id as "photoId", c.page, a.display_name as "addedBy",
       (select count(*)::int from plan_pin n where n.plan_id = l.id) as pins
     from plan l join plan_picture c on c.id = l.picture_id left join account a on a.id = l.created_by
     where ($1::int is null or l.id = $1::int) and ${isSeen} order by lower(l.name), l.id`,
    seen.bind,
    tx,
  );
}

/** All plans, for changes. */
export function plans(database: Database, tx: Transaction): Promise<PlanRecord[]> {
  return database.rows<PlanRecord>(`select ${PLAN_COLUMNS} from plan l order by l.id`, [], tx);
}

/** The pins of a plan, by their numbers. */
export function pinsOf(database: Database, planId: number, tx?: Transaction): Promise<PinRecord[]> {
  return database.rows<PinRecord>(
    `select ${PIN_COLUMNS} from plan_pin n where n.plan_id = $1 order by n.number, n.id`,
    [planId],
    tx,
  );
}

/** The plan on which a pin is. */
export async function planOfPin(database: Database, pinId: number, tx: Transaction): Promise<number | undefined> {
  return (await database.row<{ id: number }>('select plan_id as id from plan_pin where id = $1', [pinId], tx))?.id;
}

/** Numbers for pins that are yet to be made. */
export async function nextPinIds(database: Database, count: number, tx: Transaction): Promise<number[]> {
  const rows = await database.rows<{ id: number }>(
    `select nextval(pg_get_serial_sequence('plan_pin', 'id'))::int as id from generate_series(1, $1::int)`,
    [count],
    tx,
  );
  return rows.map(({ id }) => id);
}

/** Of each pin of a plan the first of the photos it holds that exist for somebody. */
export async function coversOf(
  database: Database,
  planId: number,
  { sight }: Viewer,
): Promise<Map<number, { photoId: number; version: number }>> {
  const seen = sightSql(sight, [planId]);
  const rows = await database.rows<{ pinId: number; photoId: number; version: number }>(
    `select distinct on (h.pin_id) h.pin_id as "pinId", p.id as "photoId", p.preview_version as version
     from plan_pin n join plan_photo h on h.pin_id = n.id join photo p on p.id = h.photo_id
     where n.plan_id = $1::int and p.shown and ${seen.sql} order by h.pin_id, p.taken_at nulls last, p.id`,
    seen.bind,
  );
  return new Map(rows.map(({ pinId, ...cover }) => [pinId, cover]));
}

/** What pins stand for: terms by their labels and addresses, own places by their names. */
export async function linksOf(
  database: Database,
  planId: number,
  tx?: Transaction,
): Promise<{ terms: Map<number, { label: string; uri: string }>; places: Map<number, string> }> {
  const terms = await database.rows<{ id: number; label: string; uri: string }>(
    'select t.id, t.label, t.uri from term t where t.id in (select n.term_id from plan_pin n where n.plan_id = $1)',
    [planId],
    tx,
  );
  const places = await database.rows<{ id: number; name: string }>(
    'select o.id, o.name from own_place o where o.id in (select n.place_id from plan_pin n where n.plan_id = $1)',
    [planId],
    tx,
  );
  return {
    terms: new Map(terms.map(({ id, ...term }) => [id, term])),
    places: new Map(places.map(({ id, name }) => [id, name])),
  };
}

/** The terms of some addresses and the own places of some names, where there is just one of each. */
export async function linksNamed(
  database: Database,
  { uris, names }: { uris: readonly string[]; names: readonly string[] },
): Promise<{ terms: Map<string, number>; places: Map<string, number> }> {
  const [terms, places] = await Promise.all([
    database.rows<{ name: string; id: number }>(
      'select uri as name, min(id) as id from term where uri = any($1::text[]) group by uri',
      [uris],
    ),
    database.rows<{ name: string; id: number }>(
      'select name, min(id) as id from own_place where name = any($1::text[]) group by name having count(*) = 1',
      [names],
    ),
  ]);
  const byName = (rows: { name: string; id: number }[]) => new Map(rows.map(({ name, id }) => [name, id]));
  return { terms: byName(terms), places: byName(places) };
}

/** Records that photos (a statement) come to a pin. */
export async function recordPinned(
  database: Database,
  entryId: number,
  pinId: number,
  photos: SqlCondition,
  tx: Transaction,
): Promise<void> {
  const bind = [...photos.bind];
  const pin = `$${bind.push(pinId)}::int`;
  const sql = `select chosen.id, ${pin}, 'false', 'true' from (${photos.sql}) chosen
    where not exists (select 1 from plan_photo h where h.pin_id = ${pin} and h.photo_id = chosen.id)`;
  await recordPhotos(database, entryId, 'pin', { sql, bind }, tx);
}

/** Records that photos (a statement) leave some pins. */
export async function recordUnpinned(
  database: Database,
  entryId: number,
  pinIds: readonly number[],
  photos: SqlCondition,
  tx: Transaction,
): Promise<void> {
  const bind = [...photos.bind];
  const pins = `$${bind.push(pinIds)}::int[]`;
  const sql = `select h.photo_id, h.pin_id, 'true', 'false' from (${photos.sql}) chosen
    join plan_photo h on h.photo_id = chosen.id where h.pin_id = any(${pins})`;
  await recordPhotos(database, entryId, 'pin', { sql, bind }, tx);
}

/** The photos of a pin, as a statement. */
export function photosAt(pinId: number): SqlCondition {
  return { sql: 'select photo_id as id from plan_photo where pin_id = $1', bind: [pinId] };
}

/** The photos on a plan, as a statement. */
export function photosOn(planId: number): SqlCondition {
  return {
    sql: 'select distinct h.photo_id as id from plan_photo h join plan_pin n on n.id = h.pin_id where n.plan_id = $1',
    bind: [planId],
  };
}

/** Which pins of a plan hold some photos, by photo; the lowest number first. */
export async function pinsHolding(
  database: Database,
  planId: number,
  photoIds: readonly number[],
  tx: Transaction,
): Promise<Map<number, PinRecord>> {
  const rows = await database.rows<PinRecord & { photoId: number }>(
    `select distinct on (h.photo_id) h.photo_id as "photoId", ${PIN_COLUMNS} from plan_photo h join plan_pin n on n.id = h.pin_id
     where n.plan_id = $1::int and h.photo_id = any($2::int[]) order by h.photo_id, n.number, n.id`,
    [planId, photoIds],
    tx,
  );
  return new Map(rows.map(({ photoId, ...pin }) => [photoId, pin]));
}

/** Where some photos lie, with what they are called, in the order of their ids. */
export function positionsOf(
  database: Database,
  ids: readonly number[],
): Promise<{ photoId: number; name: string; version: number; position: FieldValues['position'] }[]> {
  return database.rows(
    `select p.id as "photoId", p.name, p.preview_version as version, t.fields -> 'position' as position
     from photo p join photo_text t on t.photo_id = p.id where p.id = any($1::int[]) order by array_position($1::int[], p.id)`,
    [ids],
  );
}

/** The pins that hold a photo, with their plans. */
export function pinsOfPhoto(
  database: Database,
  photoId: number,
): Promise<{ planId: number; pinId: number; plan: string; pin: string }[]> {
  return database.rows(
    `select l.id as "planId", n.id as "pinId", l.name as plan, n.name as pin
     from plan_photo h join plan_pin n on n.id = h.pin_id join plan l on l.id = n.plan_id where h.photo_id = $1 order by lower(l.name), n.number`,
    [photoId],
  );
}

/** What is said of the regions of a photo. */
export async function regionsIn(
  database: Database,
  photoId: number,
  tx?: Transaction,
): Promise<FieldValues['imageRegion']> {
  const row = await database.row<{ said: FieldValues['imageRegion'] | null }>(
    `select fields -> 'imageRegion' as said from photo_text where photo_id = $1`,
    [photoId],
    tx,
  );
  return row?.said ?? undefined;
}

/** The photos at each pin of a plan that exist for somebody, in the order of capture; of each pin the first so many. */
export function photosByPin(
  database: Database,
  planId: number,
  { sight }: Viewer,
  most: number,
): Promise<
  { pinId: number; photoId: number; version: number; name: string; caption: string; takenAt: string | null }[]
> {
  const seen = sightSql(sight, [planId, most]);
  return database.rows(
    `select h.* from plan_pin n cross join lateral (
       select n.id as "pinId", p.id as "photoId", p.preview_version as version, p.name, t.caption,
         to_char(p.taken_at, 'YYYY-MM-DD') as "takenAt"
       from plan_photo h join photo p on p.id = h.photo_id join photo_text t on t.photo_id = p.id
       where h.pin_id = n.id and p.shown and ${seen.sql} order by p.taken_at nulls last, p.id limit $2::int) h
     where n.plan_id = $1::int order by n.number, n.id`,
    seen.bind,
  );
}

/** Keeps a picture; gives its number. */
export async function keepPicture(
  database: Database,
  given: { picture: Buffer; width: number; height: number; photoId: number | null; page: number; addedBy: number },
): Promise<number> {
  const { id } = await modelOf(database, PLAN_PICTURE).create(given);
  return id;
}

/** A picture that somebody has added and of which no plan is made yet, or any that a plan is made of. */
export async function pictureOf(database: Database, pictureId: number): Promise<Buffer | undefined> {
  return (await modelOf(database, PLAN_PICTURE).findByPk(pictureId))?.picture;
}

/** Whether there is a picture that somebody may make a plan of: their own, so that nobody makes a plan of what they can't see. */
export async function isPictureOf(
  database: Database,
  pictureId: number,
  accountId: number,
  tx: Transaction,
): Promise<boolean> {
  const row = await database.row(
    'select 1 from plan_picture where id = $1 and added_by = $2',
    [pictureId, accountId],
    tx,
  );
  return row !== undefined;
}
