// What the card of a term shows besides the term: its photos, its people, what was done to it.

import type { Database } from '../database/database';
import type { TermUses } from '@stellin/contract/vocabulary';
import { isoSql } from '../database/isoSql';

/** How many photos are looked at for what else they have. */
const PHOTOS_SAMPLED = 2000;
/** The photos of the term $1 and of all narrower than it, and the latest of them. */
const WITHIN = `(select distinct g.photo_id from term_above a join photo_term g on g.term_id = a.term_id where a.above_id = $1)`;
const LATEST = `(select photo_id from ${WITHIN} within order by photo_id desc limit ${PHOTOS_SAMPLED})`;

/** How many photos with a term, or a narrower one, each drive has. */
export function drivesOf(database: Database, id: number): Promise<TermUses['drives'][number][]> {
  return database.rows<TermUses['drives'][number]>(
    `select d.label, not d.attached as away, count(*)::int as photos from ${WITHIN} w join photo p on p.id = w.photo_id and p.shown
       join drive d on d.id = p.drive_id group by d.id order by count(*) desc, d.label`,
    [id],
  );
}

/** Which other terms the latest photos of a term have, and what share of them. */
export function givenTogether(database: Database, id: number): Promise<{ id: number; share: number }[]> {
  return database.rows<{ id: number; share: number }>(
    `with few as materialized ${LATEST}
       select g.term_id as id, count(*)::float8 / (select count(*) from few) as share from few join photo_term g on g.photo_id = few.photo_id
       where not exists (select 1 from term_above a where a.term_id = g.term_id and a.above_id = $1)
         and not exists (select 1 from term_above a where a.term_id = $1 and a.above_id = g.term_id)
       group by g.term_id having count(*) > 1 order by count(*) desc, g.term_id limit 8`,
    [id],
  );
}

/** How photos came by a term. */
export function originsOf(database: Database, id: number): Promise<TermUses['origins'][number][]> {
  return database.rows<TermUses['origins'][number]>(
    `select origin, count(*)::int as photos from photo_term where term_id = $1 group by origin order by count(*) desc`,
    [id],
  );
}

/** Who proposed terms. */
export function proposersOf(database: Database, ids: readonly number[]): Promise<{ id: number; by: string }[]> {
  return database.rows<{ id: number; by: string }>(
    `select t.id, coalesce(a.display_name, 'Stellin') as by from term t left join account a on a.id = t.proposed_by where t.id = any($1)`,
    [ids],
  );
}

/** A few photos of each of some terms. */
export function samplesOf(
  database: Database,
  ids: readonly number[],
): Promise<{ termId: number; id: number; previewVersion: number }[]> {
  return database.rows<{ termId: number; id: number; previewVersion: number }>(
    `select t.id as "termId", s.id, s.preview_version as "previewVersion" from unnest($1::int[]) t (id) cross join lateral (
         select p.id, p.preview_version from photo_term g join photo p on p.id = g.photo_id where g.term_id = t.id and p.shown and p.preview_version > 0 order by p.id limit 4) s`,
    [ids],
  );
}

/** Who made a term and when, and who proposed it. */
export async function peopleOf(
  database: Database,
  id: number,
): Promise<{ madeBy: string | null; madeAt: string | null; proposedBy: string | null }> {
  const row = await database.row<{ madeBy: string | null; madeAt: string | null; proposedBy: string | null }>(
    `select (select display_name from account where id = t.proposed_by) as "proposedBy", made.by as "madeBy", ${isoSql('made.at')} as "madeAt"
     from term t left join lateral (
       select a.display_name as by, e.at from ledger_object l join ledger_entry e on e.id = l.entry_id left join account a on a.id = e.account_id
       where l.kind = 'term' and l.object_id = t.id and l.before is null order by l.entry_id limit 1) made on true where t.id = $1`,
    [id],
  );
  return row ?? { madeBy: null, madeAt: null, proposedBy: null };
}

interface Sample {
  id: number;
  previewVersion: number;
}

/** A few of the best of a term's latest photos. */
export function bestOf(database: Database, id: number): Promise<Sample[]> {
  return database.rows<Sample>(
    `select p.id, p.preview_version as "previewVersion" from photo p
     where p.id in ${LATEST} and p.shown and p.preview_version > 0 order by p.rating desc, p.id desc limit 8`,
    [id],
  );
}

/** A photo that can be shown, unless it has gone or is hidden. */
export function sampleOf(database: Database, photoId: number): Promise<Sample | undefined> {
  return database.row<Sample>(
    'select id, preview_version as "previewVersion" from photo where id = $1 and shown and preview_version > 0',
    [photoId],
  );
}

/** What was done to a term, newest first. */
export async function historyOf(database: Database, id: number) {
  return database.rows<{ id: number; at: string; by: string; title: string }>(
    `select e.id, ${isoSql('e.at')} as at, coalesce(a.display_name, 'Stellin') as by, e.title
     from ledger_object l join ledger_entry e on e.id = l.entry_id left join account a on a.id = e.account_id
     where l.kind = 'term' and l.object_id = $1 order by e.id desc limit 50`,
    [id],
  );
}

/** What became of the proposals that somebody made, newest first. */
export async function settledProposals(database: Database, accountId: number) {
  return database.rows<{ at: string; title: string; by: string; word: string }>(
    `select ${isoSql('e.at')} as at, e.title, coalesce(a.display_name, 'Stellin') as by, coalesce(e.parameters ->> 'word', '') as word
     from ledger_object l join ledger_entry e on e.id = l.entry_id left join account a on a.id = e.account_id
     where l.kind = 'term' and (l.before ->> 'proposed_by')::int = $1 and l.before ->> 'status' = 'proposed' and (l.after is null or l.after ->> 'status' = 'accepted')
       and e.step = 'do' and not e.undone order by e.id desc limit 10`,
    [accountId],
  );
}
