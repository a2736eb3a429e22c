// What is kept of a photo besides its fields so that it is found by them: made here, whether the fields come from a file
// or from a description.

import type { FieldValues } from '@stellin/core/metadata/fields';
import type { FileFacts } from '@stellin/core/metadata/read';
import { wordsOfStretches } from '@stellin/core/media/stretches';
import { orientationOf } from '@stellin/core/metadata/orientation';
import { textsOf } from '@stellin/core/metadata/values';
import { pointOf, saidOf } from '@stellin/core/search/said';
import { foldText } from '@stellin/core/text/words';
import { edtfInterval, type DateInterval } from '@stellin/core/timeplace/edtf';
import { wordVector } from './vector';

/** Names are those of the columns of photo and photo_text. */
export interface Derived {
  /** How it is seen (core/metadata/orientation). */
  orientation: number;
  taken_at: string | null;
  /** The first moment after it, where less than the second is known. */
  taken_until: string | null;
  has_caption: boolean;
  has_people: boolean;
  has_location: boolean;
  caption: string;
  fields_folded: Record<string, string[]>;
  caption_folded: string;
  words: string;
}

/** Fields whose text the words of a query are looked for in. */
const WORD_FIELDS = [
  'title',
  'headline',
  'description',
  'creator',
  'personInImage',
  'sublocation',
  'city',
  'provinceState',
  'country',
  'jobId',
  'source',
] as const;

/** What follows from a photo's fields, its name, its free keywords and the words on its pages. */
export function derivedOf(name: string, fields: FieldValues, facts: FileFacts, keywords: readonly string[]): Derived {
  const caption = textsOf(fields.description)[0] ?? '';
  const said = saidOf(fields, facts);
  const taken = takenSpan(fields, facts);
  return {
    orientation: orientationOf(fields.orientation) ?? orientationOf(facts.orientation) ?? 1,
    taken_at: taken?.from ?? null,
    taken_until: taken?.to ?? null,
    has_caption: caption !== '',
    has_people: said.person !== undefined,
    has_location: said.place !== undefined || pointOf(fields) !== undefined,
    caption,
    fields_folded: Object.fromEntries(Object.entries(said).map(([id, texts]) => [id, texts.map(foldText)])),
    caption_folded: foldText(caption),
    words: wordVector([
      name,
      ...WORD_FIELDS.flatMap((field) => textsOf(fields[field])),
      ...keywords,
      facts.text ?? '',
      facts.lettering ?? '',
      facts.project ?? '',
      facts.scene ?? '',
      facts.tape ?? '',
      facts.note ?? '',
      ...wordsOfStretches(fields.stretches),
    ]),
  };
}

/**
 * When a picture was taken: what is said of an uncertain date, else the date created, of which a part may be known, else
 * what the camera's clock said. The end is left out where the second is known.
 */
export function takenSpan(fields: FieldValues, facts: FileFacts): DateInterval | undefined {
  const uncertain = edtfInterval(textsOf(fields.dateUncertain)[0] ?? '');
  // Who leaves the beginning open knows of no moment it was taken at.
  if (uncertain?.from) return uncertain;
  const created = textsOf(fields.dateCreated)[0] ?? '';
  const local = /^\d{4}(-\d{2}(-\d{2}(T\d{2}:\d{2}(:\d{2})?)?)?)?/.exec(created)?.[0] ?? '';
  const span = edtfInterval(local);
  if (span?.from) return local.length === EXACT ? { from: span.from } : span;
  return facts.takenAt ? { from: facts.takenAt } : undefined;
}

/** `YYYY-MM-DDTHH:MM:SS` */
const EXACT = 19;
