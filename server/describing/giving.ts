// Giving photos what is no field, each photo its own: terms, keywords, rating, mark.

import type { z } from 'zod';
import { foldText } from '@stellin/core/text/words';
import type { changedField } from '@stellin/contract/describing';
import type { Database, Transaction } from '../database/database';
import type { ChangeContext } from '../ledger/service';
import type { Has } from './givenStore';
import * as store from './givenStore';

type ChangedField = z.infer<typeof changedField>;

/** What a photo gets and loses. */
export interface Given {
  photoId: number;
  terms: { given: number[]; taken: number[] };
  keywords: { given: string[]; taken: string[] };
  rating?: number | undefined;
  mark?: string | undefined;
}

/** Makes keywords known, so that they can be recorded. */
export type NoteKeywords = (keywords: readonly string[], tx: Transaction) => Promise<void>;

/** Records what photos get and lose. What is so already is passed over. */
export async function recordGiven(
  { database, noteKeywords }: { database: Database; noteKeywords: NoteKeywords },
  photos: readonly Given[],
  { entryId, tx }: Pick<ChangeContext, 'entryId' | 'tx'>,
): Promise<void> {
  const terms = photos.flatMap(({ photoId, terms: { given, taken } }) => [
    ...given.map((termId) => ({ photoId, termId, given: true })),
    ...taken.map((termId) => ({ photoId, termId, given: false })),
  ]);
  const keywords = photos.flatMap(({ photoId, keywords: { given, taken } }) => [
    ...given.map((keyword) => ({ photoId, keyword, given: true })),
    ...taken.map((keyword) => ({ photoId, keyword, given: false })),
  ]);
  await store.recordTerms(database, entryId, terms, tx);
  if (keywords.length > 0) await noteKeywords([...new Set(keywords.map(({ keyword }) => keyword))], tx);
  await store.recordKeywords(database, entryId, keywords, tx);
  const rated = photos.flatMap(({ photoId, rating }) => (rating === undefined ? [] : [{ photoId, rating }]));
  await store.recordRatings(database, entryId, rated, tx);
  const marked = photos.flatMap(({ photoId, mark }) =>
    mark === undefined ? [] : [{ photoId, name: mark, folded: foldText(mark) }],
  );
  await store.recordMarks(database, entryId, marked, tx);
}

/** What a photo gets and loses, as before and after. `has`: what it has now. */
export function otherChanges(
  given: Given | undefined,
  has: Has | undefined,
  labels: (termIds: readonly number[]) => string[],
): ChangedField[] {
  if (!given || !has) return [];
  const changes: ChangedField[] = [];
  const add = (field: string, label: string, before: ChangedField['before'], after: typeof before) =>
    changes.push({ field, label, before, after, cut: false });
  const { terms, keywords, rating, mark } = given;
  if (terms.given.length + terms.taken.length > 0) add('terms', 'Terms', labels(terms.taken), labels(terms.given));
  if (keywords.given.length + keywords.taken.length > 0)
    add('keywords', 'Other keywords', keywords.taken, keywords.given);
  if (rating !== undefined && rating !== has.rating) add('rating', 'Rating', has.rating, rating);
  if (mark !== undefined && mark !== has.mark) add('mark', 'Mark', has.mark, mark);
  return changes;
}
