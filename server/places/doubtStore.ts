// The SQL of doubts about places: groups of photos that say the same, and photos of one camera that follow one another.

import type { NamesOfPlace } from '@stellin/core/describing/placing';
import { EARTH_METRES } from '@stellin/core/timeplace/areas';
import { JUMP_METRES, JUMP_METRES_PER_SECOND } from '@stellin/core/timeplace/doubts';
import type { Sight } from '@stellin/core/accounts/sight';
import { sightSql } from '../catalogue/sightSql';
import type { Database, Transaction } from '../database/database';

/** Photos that say the same names. */
export interface NamesGroup extends NamesOfPlace {
  photos: number;
  /** One of them. */
  photoId: number;
}

/** Photos that say the same names and lie within a square of a tenth of a degree. */
export interface LyingGroup extends NamesGroup {
  south: number;
  west: number;
  north: number;
  east: number;
}

const said = (field: keyof NamesOfPlace) => `coalesce(t.fields ->> '${field}', '')`;
/** So many groups are looked at, those of most photos first. */
const MAX_GROUPS = 100_000;

const NAMES = `${said('sublocation')} as sublocation, ${said('city')} as city, ${said('provinceState')} as "provinceState",
  ${said('country')} as country, ${said('countryCode')} as "countryCode"`;
const IS_NAMED = `t.fields ?| array['sublocation', 'city', 'provinceState', 'country', 'countryCode']`;

/** The different names that photos say, those of most photos first. */
export function namesSaid(database: Database, sight: Sight): Promise<NamesGroup[]> {
  const seen = sightSql(sight);
  return database.rows<NamesGroup>(
    `select ${NAMES}, count(*)::int as photos, min(p.id) as "photoId"
     from photo p join photo_text t on t.photo_id = p.id where p.shown and ${IS_NAMED} and ${seen.sql}
     group by 1, 2, 3, 4, 5 order by photos desc, 1, 2, 3, 4, 5 limit ${MAX_GROUPS}`,
    seen.bind,
  );
}

/** The same by where the photos lie. */
export function namesLying(database: Database, sight: Sight): Promise<LyingGroup[]> {
  const seen = sightSql(sight);
  return database.rows<LyingGroup>(
    `select ${NAMES}, count(*)::int as photos, min(p.id) as "photoId",
       min(at.latitude) as south, min(at.longitude) as west, max(at.latitude) as north, max(at.longitude) as east
     from photo p join photo_text t on t.photo_id = p.id,
       lateral (select (t.fields -> 'position' ->> 'latitude')::float8 as latitude, (t.fields -> 'position' ->> 'longitude')::float8 as longitude) at
     where p.shown and t.fields ? 'position' and ${IS_NAMED} and ${seen.sql}
     group by 1, 2, 3, 4, 5, floor(at.latitude * 10), floor(at.longitude * 10) order by photos desc, 1, 2, 3, 4, 5 limit ${MAX_GROUPS}`,
    seen.bind,
  );
}

export interface Jump {
  /** How many there are in all. */
  found: number;
  make: string;
  model: string;
  /** When the two were taken, `YYYY-MM-DDTHH:MM:SS`. */
  from: string;
  to: string;
  metres: number;
  photoId: number;
  nextId: number;
}

/** Two photos that one camera took one after the other, so far apart that it can't have been in both places; at most `most`. */
export function impossibleJumps(database: Database, sight: Sight, most: number): Promise<Jump[]> {
  const seen = sightSql(sight);
  const chord = `sin(radians(b.latitude - b."latitudeBefore") / 2) ^ 2 + cos(radians(b."latitudeBefore")) * cos(radians(b.latitude))
    * sin(radians(b.longitude - b."longitudeBefore") / 2) ^ 2`;
  return database.rows<Jump>(
    `with placed as materialized (
       select p.id, t.camera_folded, coalesce(t.facts ->> 'make', '') as make, coalesce(t.facts ->> 'model', '') as model, p.taken_at,
         (t.fields -> 'position' ->> 'latitude')::float8 as latitude, (t.fields -> 'position' ->> 'longitude')::float8 as longitude
       from photo p join photo_text t on t.photo_id = p.id
       where p.shown and p.taken_at is not null and p.taken_until is null and t.fields ? 'position' and t.camera_folded <> '' and ${seen.sql}),
     beside as (
       select *, lag(id) over w as before, lag(taken_at) over w as "takenBefore", lag(latitude) over w as "latitudeBefore",
         lag(longitude) over w as "longitudeBefore"
       from placed window w as (partition by camera_folded order by taken_at, id)),
     far as (
       select *, 2 * ${EARTH_METRES} * asin(sqrt(least(1, ${chord}))) as metres from beside b where before is not null)
     select count(*) over ()::int as found, make, model, before as "photoId", id as "nextId", metres,
       to_char("takenBefore", 'YYYY-MM-DD"T"HH24:MI:SS') as "from", to_char(taken_at, 'YYYY-MM-DD"T"HH24:MI:SS') as "to"
     from far where metres > ${JUMP_METRES} and metres > ${JUMP_METRES_PER_SECOND} * extract(epoch from taken_at - "takenBefore")
     order by taken_at, id limit ${most}`,
    seen.bind,
  );
}

/** The names that are left as they are, as keys. */
export async function namesLeft(database: Database, tx?: Transaction): Promise<Set<string>> {
  const rows = await database.rows<{ key: string }>('select names_key as key from place_name_left', [], tx);
  return new Set(rows.map(({ key }) => key));
}

/** What tells names apart, as a key. */
export function keyOfNames({ sublocation, city, provinceState, country, countryCode }: NamesOfPlace): string {
  return JSON.stringify([sublocation, city, provinceState, country, countryCode]);
}
