// What was said of a photo while it was elsewhere: what it said when it was handed over, what the catalogue says now, and what comes
// back go together as in any reading of a file that others have changed.

import { FIELDS, type FieldId, type FieldValues } from '../metadata/fields';
import { KEPT_APART, mergeValues } from '../metadata/merge';
import { sameValue } from '../metadata/values';

export interface WordsBack {
  /** What the photo is to say. */
  values: FieldValues;
  /** Fields that were changed here meanwhile as well: what came back stands. */
  contested: FieldId[];
}

/**
 * @param whole what came back says all there is to say, as a sidecar does: what it does not say was taken out. Of a picture, which
 *   programs may save without its words, only what it says counts.
 */
export function wordsBack(sent: FieldValues, now: FieldValues, back: FieldValues, whole: boolean): WordsBack {
  const [base, ours] = [described(sent), described(now)];
  const theirs = whole ? described(back) : { ...base, ...described(back) };
  const { values, conflicts } = mergeValues(base, ours, theirs);
  for (const id of conflicts) {
    const value = theirs[id];
    if (value === undefined) delete values[id];
    else Object.assign(values, { [id]: value });
  }
  return { values, contested: conflicts };
}

/** What another program makes of a picture may be turned, and is a picture of its own then. */
const isApart = (id: string) => KEPT_APART.has(id) || id === 'orientation';

/** The fields in which two descriptions differ, in the order of fields. */
export function differing(one: FieldValues, other: FieldValues): FieldId[] {
  return FIELDS.flatMap(({ id }) => (isApart(id) || sameValue(one[id], other[id]) ? [] : [id]));
}

/** Keywords that came in addition, and those that are gone; none are gone where what came back has none at all and is not the whole. */
export function keywordsBack(
  sent: FieldValues,
  back: FieldValues,
  whole: boolean,
): { given: string[]; taken: string[] } {
  const [before, after] = [keywordsOf(sent), keywordsOf(back)];
  return {
    given: after.filter((keyword) => !before.includes(keyword)),
    taken: whole || after.length > 0 ? before.filter((keyword) => !after.includes(keyword)) : [],
  };
}

/** The rating or mark that was given elsewhere; undefined where it stayed as it was, or was lost on the way. */
export function givenElsewhere<Id extends 'rating' | 'mark'>(
  id: Id,
  sent: FieldValues,
  back: FieldValues,
): FieldValues[Id] | undefined {
  return back[id] === undefined || sameValue(back[id], sent[id]) ? undefined : back[id];
}

function keywordsOf({ keywords }: FieldValues): string[] {
  return Array.isArray(keywords) ? keywords.filter((keyword): keyword is string => typeof keyword === 'string') : [];
}

function described(fields: FieldValues): FieldValues {
  return Object.fromEntries(Object.entries(fields).filter(([id]) => !isApart(id))) as FieldValues;
}
