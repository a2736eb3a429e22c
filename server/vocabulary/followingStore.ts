// Pads and decisions that name terms, as a change finds them.

import type { Database, Transaction } from '../database/database';
import { recordObjects } from '../ledger/recordStore';

/** Records that pads and decisions which name a term that goes name the one that stands for it, or lose it. */
export async function recordFollowers(
  database: Database,
  entryId: number,
  gone: readonly { from: number; to: number | null }[],
  tx: Transaction,
): Promise<void> {
  if (gone.length === 0) return;
  const bind = [JSON.stringify(gone)];
  const table = `jsonb_to_recordset($1::jsonb) as r ("from" int, "to" int)`;
  const decisions = `select d.id, to_jsonb(d), case when r."to" is not null then to_jsonb(d) || jsonb_build_object('term_id', r."to") end
    from ${table} join keyword_decision d on d.term_id = r."from"`;
  await recordObjects(database, entryId, 'keyword_decision', { sql: decisions, bind }, tx);
  const pads = `select p.id, to_jsonb(p), to_jsonb(p) || jsonb_build_object('keys', coalesce((
      select jsonb_object_agg(k.key, coalesce(r."to", k.value::int)) from jsonb_each_text(p.keys) k left join ${table} on r."from" = k.value::int
      where r."from" is null or r."to" is not null), '{}'))
    from term_pad p where exists (select 1 from jsonb_each_text(p.keys) k join ${table} on r."from" = k.value::int)`;
  await recordObjects(database, entryId, 'term_pad', { sql: pads, bind }, tx);
}

/** The names of pads that name one of some terms. */
export async function padsNaming(database: Database, ids: readonly number[], tx: Transaction): Promise<string[]> {
  const rows = await database.rows<{ name: string }>(
    `select p.name from term_pad p where exists (select 1 from jsonb_each_text(p.keys) k where k.value::int = any($1)) order by p.name`,
    [ids],
    tx,
  );
  return rows.map(({ name }) => name);
}
