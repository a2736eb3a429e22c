// The SQL of projects.

import type { Database, Transaction } from '../database/database';
import type { SqlCondition } from '../catalogue/compile';

/** A row as the ledger keeps it. */
export interface ProjectRow {
  id: number;
  dossier_id: number;
  starts: string;
  ends: string;
  field_set_id: number | null;
  template_id: number | null;
  rule_id: number | null;
  closed: boolean;
  created_by: number | null;
}

const COLUMNS = 'id, dossier_id, starts, ends, field_set_id, template_id, rule_id, closed, created_by';

export function listProjects(database: Database, tx?: Transaction): Promise<ProjectRow[]> {
  return database.rows<ProjectRow>(`select ${COLUMNS} from project order by closed, id`, [], tx);
}

/** The project that a dossier lies in, or is the dossier of. */
export function projectOf(database: Database, dossierId: number, tx: Transaction): Promise<ProjectRow | undefined> {
  return database.row<ProjectRow>(
    `select ${COLUMNS} from project where dossier_id in (select above_id from dossier_above where id = $1)`,
    [dossierId],
    tx,
  );
}

/** The photos that an entry puts into a dossier and that are new to the project it lies in, as a statement (column `id`). */
export function newPhotosSql(entryId: number, dossierId: number, project: ProjectRow): SqlCondition {
  return {
    sql: `select l.photo_id as id from ledger_photo l
      where l.entry_id = $1::int and l.aspect = 'dossier' and l.key = $2::int and l.before = 'false'
        and not exists (select 1 from dossier_photo put join dossier_above a on a.id = put.dossier_id
          where put.photo_id = l.photo_id and a.above_id = $3::int)`,
    bind: [entryId, dossierId, project.dossier_id],
  };
}

/** Gives whoever holds a right in one dossier the same right in another. */
export async function copyMembers(database: Database, from: number, to: number, tx: Transaction): Promise<void> {
  await database.rows(
    `insert into held_right (account_id, team_id, role_id, dossier_id)
     select account_id, team_id, role_id, $2 from held_right where dossier_id = $1`,
    [from, to],
    tx,
  );
}

export async function isAnyClosed(database: Database, tx: Transaction): Promise<boolean> {
  return (await database.row('select 1 as closed from project where closed limit 1', [], tx)) !== undefined;
}

/** The name of a closed project that an entry would change: its dossiers, what is in them, its searches (where those are `meant`), or what its own fields say. */
export async function closedTouched(
  database: Database,
  { entryId, searches }: { entryId: number; searches: boolean },
  tx: Transaction,
): Promise<string | undefined> {
  const said = (when: string) =>
    `coalesce((select each -> 'Value' from jsonb_array_elements(case when jsonb_typeof(l.${when} -> 'custom') = 'array' then l.${when} -> 'custom' end) each
       where each ->> 'Name' = own.name limit 1), 'null')`;
  const row = await database.row<{ name: string }>(
    `with shut as materialized (
       select p.id, p.field_set_id, d.name, a.id as dossier_id from project p join dossier d on d.id = p.dossier_id
       join dossier_above a on a.above_id = p.dossier_id where p.closed),
     own as materialized (
       select p.id, substr(e ->> 'target', length('custom:') + 1) as name from project p join field_set s on s.id = p.field_set_id
       cross join jsonb_array_elements(s.entries) e where p.closed and e ->> 'target' like 'custom:%')
     select name from shut where
       exists (select 1 from ledger_photo l where l.entry_id = $1 and l.aspect = 'dossier' and l.key = shut.dossier_id)
       or exists (select 1 from ledger_object o where o.entry_id = $1 and o.kind = 'dossier' and shut.dossier_id in
         (o.object_id, (o.before ->> 'parent_id')::int, (o.after ->> 'parent_id')::int))
       or ($2 and exists (select 1 from ledger_object o where o.entry_id = $1 and o.kind = 'saved_search' and shut.dossier_id in
         ((o.before ->> 'dossier_id')::int, (o.after ->> 'dossier_id')::int)))
       or exists (select 1 from own join ledger_photo l on l.entry_id = $1 and l.aspect = 'fields' and l.after ? 'custom'
         join dossier_photo put on put.photo_id = l.photo_id and put.dossier_id = shut.dossier_id
         where own.id = shut.id and ${said('before')} <> ${said('after')})
     limit 1`,
    [entryId, searches],
    tx,
  );
  return row?.name;
}

/** A project that stands on what an entry removes, or moves below another dossier: its name, and what it is of the project. */
export async function standsOn(
  database: Database,
  entryId: number,
  tx: Transaction,
): Promise<{ name: string; what: 'dossier' | 'other' } | undefined> {
  return database.row<{ name: string; what: 'dossier' | 'other' }>(
    `select d.name, case o.kind when 'dossier' then 'dossier' else 'other' end as what
     from ledger_object o join project p on o.object_id = case o.kind when 'dossier' then p.dossier_id when 'field_set' then p.field_set_id
       when 'template' then p.template_id when 'quality_rule' then p.rule_id end
     join dossier d on d.id = p.dossier_id
     where o.entry_id = $1 and (o.after is null or o.after ->> 'parent_id' is not null)
       and not exists (select 1 from ledger_object own where own.entry_id = $1 and own.kind = 'project' and own.object_id = p.id)
     limit 1`,
    [entryId],
    tx,
  );
}
