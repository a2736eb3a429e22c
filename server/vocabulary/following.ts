// What names terms follows them: saved searches, term pads, and decisions on incoming keywords.

import { followTerms, TermNames } from '@stellin/core/vocabulary/following';
import type { Plan, VocabularyState } from '@stellin/core/vocabulary/editor';
import { TermTree } from '@stellin/core/vocabulary/tree';
import type { Query } from '@stellin/core/query/query';
import type { Database, Transaction } from '../database/database';
import { recordObjects } from '../ledger/recording';

/** How queries change with a plan; undefined where no term is named otherwise than before. */
export function queryFollower(state: VocabularyState, plan: Plan): ((query: Query) => Query) | undefined {
  const renames = plan.terms.some(
    ({ before, after }) =>
      !before ||
      !after ||
      before.label !== after.label ||
      before.parentId !== after.parentId ||
      before.otherLabels !== after.otherLabels,
  );
  if (!renames) return undefined;
  // Made when the first query is looked at: there may be none.
  let names: [before: TermNames, after: TermNames] | undefined;
  return (query) => {
    names ??= [new TermNames(state.tree), new TermNames(treeAfter(state, plan))];
    return followTerms(query, ...names, (id) => plan.becomes(id));
  };
}

/** The tree as a plan makes it. */
export function treeAfter({ tree, relations, vocabularies }: VocabularyState, plan: Plan): TermTree {
  const terms = new Map([...tree.all()].map((term) => [term.id, term]));
  for (const { before, after } of plan.terms) {
    if (after) terms.set(after.id, after);
    else if (before) terms.delete(before.id);
  }
  const gone = new Set(plan.relations.flatMap(({ before }) => (before ? [JSON.stringify(before)] : [])));
  const kept = relations.filter((relation) => !gone.has(JSON.stringify(relation)));
  const made = plan.relations.flatMap(({ after }) => after ?? []);
  return new TermTree(terms.values(), [...kept, ...made], vocabularies);
}

/** Terms that are no longer there, each with the one that stands for it now. */
export function goneTerms(plan: Plan): { from: number; to: number | null }[] {
  return plan.terms.flatMap(({ before, after }) =>
    before && !after ? [{ from: before.id, to: plan.becomes(before.id) ?? null }] : [],
  );
}

/** Records that pads and decisions which name a term that goes name the one that stands for it, or lose it. */
export async function recordFollowers(database: Database, entryId: number, plan: Plan, tx: Transaction): Promise<void> {
  const gone = goneTerms(plan);
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
