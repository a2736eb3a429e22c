// The SQL of reports.

import type { ReportPreset, ReportPresetForm } from '@stellin/contract/reports';
import { localSql } from '../catalogue/clock';
import type { Database } from '../database/database';
import { isoSql } from '../database/isoSql';

/** Days as `YYYY-MM-DD`; empty where there is no limit. */
export interface Period {
  from: string;
  until: string;
}

/** The condition that a time with zone lies in the days of a period; it takes $1 and $2. */
function inPeriod(column: string): string {
  return `($1 = '' or ${localSql(column)}::date >= nullif($1, '')::date) and ($2 = '' or ${localSql(column)}::date <= nullif($2, '')::date)`;
}

const bindOf = ({ from, until }: Period) => [from, until];

export interface AccessionRow {
  id: number;
  number: string;
  day: string;
  place: string;
  donor: string;
  source: string;
  agreement: string;
  restrictions: string;
  ends: string;
  note: string;
  by: string;
  photosNew: number;
  photosChanged: number;
  photosMissing: number;
  bytes: number;
}

/** Takings-in of a period, or just one, the earliest first. */
export function accessionsIn(database: Database, period: Period, id: number | null = null): Promise<AccessionRow[]> {
  return database.rows<AccessionRow>(
    `select c.id, coalesce(o.number, '') as number, to_char(${localSql('c.started_at')}, 'YYYY-MM-DD') as day,
       d.label || case when c.folder = '' then '' else '/' || c.folder end as place,
       coalesce(o.donor, '') as donor, coalesce(nullif(o.source, ''), c.source) as source, coalesce(o.agreement, '') as agreement,
       coalesce(o.restrictions, '') as restrictions, coalesce(o.ends, '') as ends, coalesce(o.note, '') as note,
       coalesce(a.display_name, '') as by, c.photos_new as "photosNew", c.photos_changed as "photosChanged", c.photos_missing as "photosMissing",
       (select coalesce(sum(p.size_bytes), 0)::float8 from photo p where p.accession_id = c.id and p.shown) as bytes
     from accession c join drive d on d.id = c.drive_id left join account a on a.id = c.account_id
     left join provenance o on o.accession_id = c.id
     where ${inPeriod('c.started_at')} and ($3::int is null or c.id = $3) order by c.started_at, c.id`,
    [...bindOf(period), id],
  );
}

/** Who has described how many photos in a period; what was undone counts for nothing. */
export function workIn(
  database: Database,
  period: Period,
  kinds: readonly string[],
): Promise<{ by: string; changes: number; photos: number }[]> {
  return database.rows<{ by: string; changes: number; photos: number }>(
    `select a.display_name as by, count(*)::int as changes, sum(e.photos)::int as photos
     from ledger_entry e join account a on a.id = e.account_id
     where ${inPeriod('e.at')} and e.kind = any($3::text[]) and e.step = 'do' and not e.undone and e.photos > 0
     group by 1 order by 3 desc, 1`,
    [...bindOf(period), [...kinds]],
  );
}

export interface DeliveryRow {
  day: string;
  title: string;
  recipient: string;
  reason: string;
  by: string;
  photos: number;
}

/** What was delivered in a period, the earliest first. */
export function deliveriesIn(database: Database, period: Period): Promise<DeliveryRow[]> {
  return database.rows<DeliveryRow>(
    `select to_char(${localSql('v.at')}, 'YYYY-MM-DD') as day, v.title, v.recipient, v.reason, coalesce(a.display_name, '') as by,
       (select count(*)::int from delivery_file f where f.delivery_id = v.id and f.state = 'written') as photos
     from delivery v left join account a on a.id = v.account_id where ${inPeriod('v.at')} order by v.at, v.id`,
    bindOf(period),
  );
}

/** Files whose picture was found not to be as it was, in a period. */
export function damagedIn(
  database: Database,
  period: Period,
): Promise<{ day: string; path: string; problem: string; id: number }[]> {
  return database.rows<{ day: string; path: string; problem: string; id: number }>(
    `select p.id, to_char(${localSql('x.proven_at')}, 'YYYY-MM-DD') as day, concat_ws('/', d.label, nullif(f.path, ''), p.name) as path,
       coalesce(x.problem, '') as problem
     from photo_fixity x join photo p on p.id = x.photo_id join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id
     where p.fixity = 4 and p.shown and ${inPeriod('x.proven_at')} order by x.proven_at, p.id limit 1000`,
    bindOf(period),
  );
}

export function presets(database: Database): Promise<ReportPreset[]> {
  return database.rows<ReportPreset>(
    `select r.id, r.name, r.settings, r.monthly_to as "monthlyTo", a.display_name as by, ${isoSql('r.sent_at')} as "sentAt"
     from report_preset r left join account a on a.id = r.account_id order by lower(r.name), r.id`,
  );
}

export async function keepPreset(
  database: Database,
  { name, settings, monthlyTo }: ReportPresetForm,
  accountId: number,
): Promise<number> {
  const row = await database.row<{ id: number }>(
    `insert into report_preset (name, settings, monthly_to, account_id) values ($1, $2, $3, $4)
     on conflict (name) do update set settings = excluded.settings, monthly_to = excluded.monthly_to, account_id = excluded.account_id
     returning id`,
    [name, JSON.stringify(settings), monthlyTo, accountId],
  );
  if (!row) throw new Error('the report was not kept');
  return row.id;
}

/** Returns whether there was such a one. */
export async function removePreset(database: Database, id: number): Promise<boolean> {
  return (await database.rows('delete from report_preset where id = $1 returning id', [id])).length > 0;
}

/** Reports that are to be sent and were not since the beginning of a month (`YYYY-MM-01`); each is noted as sent with that. */
export function takeDue(
  database: Database,
  month: string,
): Promise<{ name: string; settings: unknown; monthlyTo: string; accountId: number }[]> {
  return database.rows<{ name: string; settings: unknown; monthlyTo: string; accountId: number }>(
    `update report_preset r set sent_at = now() from account a
     where a.id = r.account_id and a.disabled_at is null and r.monthly_to <> ''
       and (r.sent_at is null or ${localSql('r.sent_at')}::date < $1::date)
     returning r.name, r.settings, r.monthly_to as "monthlyTo", r.account_id as "accountId"`,
    [month],
  );
}
