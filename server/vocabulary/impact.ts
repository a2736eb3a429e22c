// What a change to vocabularies would touch: counted from its plan, before anything is written.

import type { Plan, VocabularyState } from '@stellin/core/vocabulary/editor';
import { queryText } from '@stellin/core/search/language';
import { allOf, criterion, type Query } from '@stellin/core/query/query';
import type { Term } from '@stellin/core/vocabulary/term';
import { keywordsOf } from '@stellin/core/vocabulary/writing';
import type { Change } from '@stellin/contract/ledger';
import type { Impact } from '@stellin/contract/vocabulary';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import type { Search } from '../search/service';
import type { GivenKeyword } from '../catalogue/givenKeyword';
import type { WriteBack } from '../writeback/service';
import { goneTerms, queryFollower, treeAfter } from './following';
import { isPlanned, makePlan, titleOf } from './planning';
import type { Snapshot, VocabularyIndex } from '../catalogue/vocabularySnapshot';
import { dividedPhotos, regivenPhotos, photosWithin } from './impactStore';
import { padsNaming } from './followingStore';

/** Counts what a change would touch; nothing is changed. */
export async function impactOf(
  {
    database,
    index,
    search,
    writeBack,
  }: { database: Database; index: VocabularyIndex; search: Search; writeBack: WriteBack },
  change: Change,
  accountId: number,
): Promise<Impact> {
  if (!isPlanned(change)) throw new StellinError('badRequest', { problem: 'this change is not one to vocabularies' });
  const snapshot = await index.current();
  const { impact, given } = await database.transaction(async (tx) => {
    const { plan, state } = await makePlan(database, snapshot, change, accountId, tx);
    const touched =
      change.kind === 'splitTerm' ? await dividedPhotos(database, change, tx) : await regivenPhotos(database, plan, tx);
    const found = refoundTerms(plan);
    const follow = queryFollower(state, plan);
    const counted = {
      title: titleOf(change, state, plan),
      terms: plan.terms.length,
      ...touched,
      within: found.length ? await photosWithin(database, found, tx) : 0,
      searches: follow ? await search.rewritten(follow, tx) : [],
      pads: await padsNaming(
        database,
        goneTerms(plan).map(({ from }) => from),
        tx,
      ),
      keptLabels: keptLabels(plan),
      query: photosQuery(snapshot, plan, found),
    };
    return { impact: counted, given: change.kind === 'splitTerm' ? [] : givenKeywords(state, plan) };
  });
  // Counted by several connections at once: none is held meanwhile.
  return { drives: await writeBack.filesToWrite(given), ...impact };
}

/** Terms that are there already and whose photos are found otherwise than before: moved, or called otherwise. */
function refoundTerms(plan: Plan): number[] {
  const relinked = plan.relations.flatMap(({ before, after }) => {
    const link = after ?? before;
    return link?.kind === 'broader' ? [link.fromId] : [];
  });
  const edited = plan.terms.flatMap(({ before, after }) =>
    before && after && (before.parentId !== after.parentId || labelsDiffer(before, after)) ? [after.id] : [],
  );
  return [...new Set([...edited, ...relinked])];
}

function labelsDiffer(before: Term, after: Term): boolean {
  return before.label !== after.label || JSON.stringify(before.otherLabels) !== JSON.stringify(after.otherLabels);
}

/** The keywords that terms give and will give, for those whose keywords may change. */
function givenKeywords(state: VocabularyState, plan: Plan): GivenKeyword[] {
  const after = treeAfter(state, plan);
  const instead = new Map(plan.regiven.map(({ from, to }) => [from, to]));
  const concerned = new Set<number>(instead.keys());
  const concern = (id: number) => {
    for (const one of [id, ...state.tree.below(id), ...after.below(id)]) concerned.add(one);
  };
  for (const { before } of plan.terms) if (before) concern(before.id);
  for (const { before, after: now } of plan.relations) {
    const link = now ?? before;
    if (link?.kind === 'broader') concern(link.fromId);
  }
  return [...concerned].flatMap((termId) => {
    if (!state.tree.get(termId)) return [];
    const was = new Set(keywordsOf(state.tree, termId));
    const becomes = instead.has(termId) ? (instead.get(termId) ?? null) : (plan.becomes(termId) ?? null);
    const will = new Set(becomes === null ? [] : keywordsOf(after, becomes));
    return [...new Set([...was, ...will])].map((keyword) => ({
      termId,
      keyword,
      was: was.has(keyword),
      will: will.has(keyword),
    }));
  });
}

function keptLabels(plan: Plan): string[] {
  const gone = new Set(
    plan.terms.flatMap(({ before, after }) => (before && before.label !== after?.label ? [before.label] : [])),
  );
  const kept = plan.terms.flatMap(({ before, after }) => {
    const had = new Set(before?.otherLabels.map(({ label }) => label));
    return after?.otherLabels.flatMap(({ label }) => (had.has(label) ? [] : [label])) ?? [];
  });
  return [...new Set(kept.filter((label) => gone.has(label)))];
}

/** The query that finds the photos, where few enough terms are concerned to name them. */
function photosQuery({ names, tree }: Snapshot, plan: Plan, found: readonly number[]): string | null {
  const direct = plan.regiven.map(({ from }) => criterion('only', names().nameOf(from)));
  const within = found.filter((id) => tree.get(id)).map((id) => criterion('term', names().nameOf(id)));
  const parts: Query[] = direct.length ? direct : within;
  if (parts.length === 0 || parts.length > 20) return null;
  return queryText(parts.length === 1 ? allOf(parts) : { kind: 'any', of: parts });
}
