// What names terms follows them: saved searches, term pads, and decisions on incoming keywords.

import { followTerms, TermNames } from '@stellin/core/vocabulary/following';
import type { Plan, VocabularyState } from '@stellin/core/vocabulary/editor';
import { TermTree } from '@stellin/core/vocabulary/tree';
import type { Query } from '@stellin/core/query/query';

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
