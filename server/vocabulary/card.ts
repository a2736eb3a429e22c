// All about one term: what its card says, where its photos are, what was done to it.

import { criterion } from '@stellin/core/query/query';
import { queryText } from '@stellin/core/search/language';
import { keywordsOf } from '@stellin/core/vocabulary/writing';
import type { TermCard, TermUses } from '@stellin/contract/vocabulary';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import { nameOf } from './naming';
import type { Snapshot, VocabularyIndex } from '../catalogue/vocabularySnapshot';
import * as store from './store';
import { bestOf, drivesOf, givenTogether, originsOf, peopleOf, proposersOf, sampleOf, samplesOf } from './cardStore';

/** How often terms are given, for somebody for whom all photos exist, or not. */
export interface TermCounter {
  of: (ids: readonly number[]) => Promise<Map<number, store.TermCounts>>;
  seesAll: boolean;
}

/** What the card of a term says. Throws a StellinError when it is not there. */
export async function cardOf(
  database: Database,
  index: VocabularyIndex,
  id: number,
  counter: TermCounter,
): Promise<TermCard> {
  const { tree, relations, vocabularies, names } = await index.current();
  const term = tree.get(id);
  if (!term) throw new StellinError('termGone');
  const path = tree.path(id);
  const vocabulary = vocabularies.find((one) => one.id === path[0]?.vocabularyId);
  const linked = relations.filter(({ fromId, toId }) => fromId === id || toId === id);
  const others = linked.map(({ fromId, toId }) => (fromId === id ? toId : fromId));
  const [counts, people, example] = await Promise.all([
    counter.of([id, ...others]),
    peopleOf(database, id),
    term.examplePhoto === null || !counter.seesAll ? undefined : sampleOf(database, term.examplePhoto),
  ]);
  const links = (kind: 'broader' | 'related', from?: 'fromId') =>
    linked
      .filter((link) => link.kind === kind && (from === undefined || link[from] === id))
      .map(({ fromId, toId }) => (fromId === id ? toId : fromId))
      .map((other) => ({ ...nameOf(tree, other), photosWithin: counts.get(other)?.photosWithin ?? 0 }))
      .sort((a, b) => (a.label < b.label ? -1 : 1));
  const { parentId, label, otherLabels, heading, status, deprecated, scopeNote, definition, notation, uri } = term;
  const { colour, examplePhoto, byHand, writeSelf, writeBroader, writeOthers, writeLanguage } = term;
  return {
    ...{ id, parentId, label, otherLabels, heading, status, deprecated, scopeNote, definition, notation, uri },
    ...{
      examplePhoto: counter.seesAll ? examplePhoto : null,
      byHand,
      writeSelf,
      writeBroader,
      writeOthers,
      writeLanguage,
    },
    colour: colour as TermCard['colour'],
    vocabulary: { id: vocabulary?.id ?? 0, name: vocabulary?.name ?? '', language: vocabulary?.language ?? '' },
    proposedBy: people.proposedBy,
    replacedBy: term.replacedBy === null ? null : nameOf(tree, term.replacedBy),
    path: path.slice(0, -1).map((above) => nameOf(tree, above.id)),
    broader: links('broader', 'fromId'),
    related: links('related'),
    narrower: tree.narrower(id).length,
    photos: counts.get(id)?.photos ?? 0,
    photosWithin: counts.get(id)?.photosWithin ?? 0,
    lastGivenAt: counts.get(id)?.lastGivenAt ?? null,
    keywords: keywordsOf(tree, id),
    example: example ?? null,
    madeBy: people.madeBy,
    madeAt: people.madeAt,
    query: queryText(criterion('term', names().nameOf(id))),
  };
}

/** Where the photos of a term are, a few of them, and what else they have. */
export async function usesOf(database: Database, index: VocabularyIndex, id: number): Promise<TermUses> {
  const { tree } = await index.current();
  if (!tree.get(id)) throw new StellinError('termGone');
  const [drives, few, together, origins] = await Promise.all([
    drivesOf(database, id),
    bestOf(database, id),
    givenTogether(database, id),
    originsOf(database, id),
  ]);
  return {
    drives,
    samples: few,
    together: together.map(({ id: other, share }) => ({ ...nameOf(tree, other), share })),
    origins,
  };
}

/** Proposals that wait, with terms that they might be already. */
export async function proposalsOf(database: Database, { tree, finder }: Snapshot) {
  const waiting = [...tree.all()].filter(({ status }) => status === 'proposed').sort((a, b) => a.id - b.id);
  const ids = waiting.map(({ id }) => id);
  const [counts, people, few] = await Promise.all([
    store.countsOf(database, ids),
    proposersOf(database, ids),
    samplesOf(database, ids),
  ]);
  const byId = new Map(people.map(({ id, by }) => [id, by]));
  return waiting.map(({ id, label, scopeNote }) => ({
    ...nameOf(tree, id),
    scopeNote,
    by: byId.get(id) ?? '',
    photos: counts.get(id)?.photos ?? 0,
    samples: few
      .filter(({ termId }) => termId === id)
      .map(({ id: photo, previewVersion }) => ({ id: photo, previewVersion })),
    near: finder()
      .find(label, 4, (term) => term.id !== id && term.status === 'accepted')
      .slice(0, 3)
      .map(({ termId }) => nameOf(tree, termId)),
  }));
}
