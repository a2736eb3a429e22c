// The XMP sidecar of a photo as the catalogue describes it, whatever its file says: for taking all of the catalogue out.

import type { FieldValue, FieldValues } from '../metadata/fields';
import { planSidecar, type FieldChanges } from '../metadata/write';
import { aboutOf, hierarchyOf } from '../vocabulary/referring';
import type { Vocabulary } from '../vocabulary/term';
import type { TermTree } from '../vocabulary/tree';

/** What the catalogue says of a photo. */
export interface DescribedPhoto {
  fields: FieldValues;
  /** Those that are no terms, and those for its terms. */
  keywords: readonly string[];
  termIds: readonly number[];
  rating: number;
  mark: string;
}

/** The sidecar as a file. `now`: when it is written, ISO 8601. */
export function describedSidecar(
  { fields, keywords, termIds, rating, mark }: DescribedPhoto,
  { tree, vocabularies }: { tree: TermTree; vocabularies: readonly Vocabulary[] },
  now: string,
): Uint8Array {
  const said: Record<string, FieldValue | undefined> = {
    ...fields,
    keywords: keywords.length > 0 ? [...keywords] : undefined,
    keywordHierarchy: hierarchyOf(tree, termIds, fields.keywordHierarchy, new Set(keywords)),
    aboutCvTerm: aboutOf(tree, vocabularies, termIds, fields.aboutCvTerm),
    rating: rating === 0 ? undefined : rating,
    mark: mark === '' ? undefined : mark,
  };
  const changes = Object.fromEntries(Object.entries(said).filter(([, value]) => value !== undefined)) as FieldChanges;
  return planSidecar(undefined, changes, { now });
}
