// What a file that came back has to say: of the photo that it belongs to, or of the one that it becomes. For the preview and for the
// change alike.

import type { FieldEdit } from '@stellin/core/describing/editing';
import { differing, givenElsewhere, keywordsBack, wordsBack } from '@stellin/core/handover/words';
import type { FieldId, FieldValues } from '@stellin/core/metadata/fields';
import type { TermMatcher } from '@stellin/core/vocabulary/matching';
import type { Given, Has } from '../describing/service';
import type { ReturnedFile } from './store';

export interface Says {
  edits: FieldEdit[];
  given: Given;
  /** Fields that were changed here meanwhile as well. */
  contested: FieldId[];
}

/** What hangs on the cut of a picture: another picture has its own. */
const OF_THE_CUT: ReadonlySet<FieldId> = new Set<FieldId>(['regions', 'imageRegion']);

/** What the words of a file mean for the photo that they are about. `has`: what that has besides fields. */
export function saysOfOriginal(
  { sent, now, said, whole }: ReturnedFile,
  has: Has,
  terms: Pick<TermMatcher, 'meant'>,
): Says {
  const { values, contested } = wordsBack(sent, now, said, whole);
  const keywords = keywordsBack(sent, said, whole);
  const given: Given = { photoId: has.id, terms: { given: [], taken: [] }, keywords: { given: [], taken: [] } };
  for (const how of ['given', 'taken'] as const)
    for (const keyword of keywords[how]) {
      const termId = terms.meant(keyword);
      // A keyword that is no term may have become one since, and the other way round.
      if (termId !== undefined && has.termIds.includes(termId) === (how === 'taken')) given.terms[how].push(termId);
      if (has.keywords.includes(keyword) === (how === 'taken') && (how === 'taken' || termId === undefined))
        given.keywords[how].push(keyword);
    }
  const [rating, mark] = [givenElsewhere('rating', sent, said), givenElsewhere('mark', sent, said)];
  if (typeof rating === 'number' && rating !== has.rating) given.rating = rating;
  if (typeof mark === 'string' && mark !== has.mark) given.mark = mark;
  return { edits: editsTo(values, now, []), given, contested };
}

/** What a photo that a file became is to say besides what the file says itself: all that is said of its original. */
export function saysOfDerivative(
  { sent, now, said }: ReturnedFile,
  original: Has,
  derivative: { id: number; fields: FieldValues; has: Has },
): Says {
  const { values, contested } = wordsBack(sent, now, said, false);
  const { id, has, fields } = derivative;
  const given: Given = {
    photoId: id,
    terms: { given: original.termIds.filter((termId) => !has.termIds.includes(termId)), taken: [] },
    keywords: { given: original.keywords.filter((keyword) => !has.keywords.includes(keyword)), taken: [] },
  };
  if (givenElsewhere('rating', sent, said) === undefined && has.rating !== original.rating)
    given.rating = original.rating;
  if (givenElsewhere('mark', sent, said) === undefined && has.mark !== original.mark) given.mark = original.mark;
  return { edits: editsTo(values, fields, [...OF_THE_CUT]), given, contested };
}

function editsTo(values: FieldValues, now: FieldValues, left: readonly FieldId[]): FieldEdit[] {
  return differing(values, now)
    .filter((id) => !left.includes(id))
    .map((id) => ({ target: id, mode: 'replace', value: values[id] ?? null }));
}
