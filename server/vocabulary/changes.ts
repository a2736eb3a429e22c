// What changes to vocabularies, and to which terms photos have, do.

import type { Term } from '@stellin/core/vocabulary/term';
import { countText } from '@stellin/contract/wording';
import type { Database } from '../database/database';
import type { ChangeContext, ChangeHandlers } from '../ledger/service';
import type { SqlCondition } from '../catalogue/compile';
import { selectionSql } from '../catalogue/selection';
import type { Search } from '../search/service';
import { goneTerms, queryFollower } from './following';
import { makePlan, PLANNED_KINDS, titleOf, type PlannedChange, type PlannedKind } from './planning';
import { requireAssignable, requireTerms } from './required';
import type { VocabularyIndex } from '../catalogue/vocabularySnapshot';
import * as store from './store';
import { recordFollowers } from './followingStore';

type Handled = 'giveTerms' | 'takeTerms' | PlannedKind;

export function vocabularyChanges(
  database: Database,
  index: VocabularyIndex,
  search: Search,
): Pick<ChangeHandlers, Handled> {
  const carryOut = async (change: PlannedChange, { tx, entryId, accountId }: ChangeContext) => {
    const { plan, state } = await makePlan(database, await index.locked(tx), change, accountId, tx);
    await store.recordVocabularies(database, entryId, plan.vocabularies, tx);
    await store.recordTerms(database, entryId, plan.terms, tx);
    await store.recordRelations(database, entryId, plan.relations, tx);
    for (const regiven of plan.regiven) await store.recordRegiven(database, entryId, regiven, tx);
    await recordFollowers(database, entryId, goneTerms(plan), tx);
    const follow = queryFollower(state, plan);
    if (follow) await search.rewrite(entryId, follow, tx);
    const made = plan.terms.flatMap(({ before, after }) => (before === null && after ? [after.id] : []));
    if (change.kind === 'splitTerm')
      for (const [i, { selection }] of change.into.entries())
        await store.recordDivided(
          database,
          entryId,
          selectionSql(selection),
          { from: change.termId, to: made[i] ?? 0 },
          tx,
        );
    const title = titleOf(change, state, plan);
    if (!(change.kind === 'proposeTerm' || change.kind === 'addTerms') || !change.selection) return () => title;
    const given = plan.terms.flatMap(({ before, after }) =>
      before === null && after?.heading === false ? [after.id] : [],
    );
    await store.recordTermsOfPhotos(database, entryId, selectionSql(change.selection), given, true, tx);
    return (photos: number) => `${title}, given to ${countText(photos, 'photo')}`;
  };

  return {
    async giveTerms({ selection, termIds }, { tx, entryId }) {
      const terms = await giveTermsTo(database, selectionSql(selection), termIds, { tx, entryId });
      return (photos) => `Give ${labelsText(terms)} to ${countText(photos, 'photo')}`;
    },

    async takeTerms({ selection, termIds }, { tx, entryId }) {
      const terms = await requireTerms(database, termIds, tx);
      await store.recordTermsOfPhotos(database, entryId, selectionSql(selection), termIds, false, tx);
      return (photos) => `Take ${labelsText(terms)} off ${countText(photos, 'photo')}`;
    },

    ...(Object.fromEntries(PLANNED_KINDS.map((kind) => [kind, carryOut])) as unknown as Pick<
      ChangeHandlers,
      PlannedKind
    >),
  };
}

/** Records that photos (a statement) get terms, which are returned. */
export async function giveTermsTo(
  database: Database,
  photos: SqlCondition,
  termIds: readonly number[],
  { tx, entryId }: Pick<ChangeContext, 'tx' | 'entryId'>,
): Promise<Term[]> {
  const terms = await requireAssignable(database, termIds, tx);
  await store.recordTermsOfPhotos(database, entryId, photos, termIds, true, tx);
  return terms;
}

function labelsText(terms: readonly Term[]): string {
  const [first] = terms;
  return terms.length === 1 && first ? `“${first.label}”` : countText(terms.length, 'term');
}
