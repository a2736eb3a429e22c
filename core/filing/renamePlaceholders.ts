// Placeholders of renaming: those of every name, and what the catalogue says of a photo.

import { FIELDS, type FieldValues } from '../metadata/fields';
import { textsOf } from '../metadata/values';
import { parsePattern, PLACEHOLDERS, type NameFacts, type ParsedPattern, type Placeholders } from './namePattern';

/** What new names may be filled with. */
export interface RenameFacts extends NameFacts {
  fields: FieldValues;
  /** The labels of its terms, by the alphabet. */
  terms: readonly string[];
  /** How many persons are in it. */
  people: number;
  /** SHA-256 of its file in hex; null where it was not read for that yet. */
  hash: string | null;
}

const UNKNOWN = 'unknown';
const LONGEST = 60;
const HASH_LETTERS = 8;

/** A text as a part of a name: what no file system takes becomes a dash. */
function said(text: string | undefined): string {
  return (
    (text ?? '')
      // oxlint-disable-next-line no-control-regex -- they are what is replaced
      .replace(/[<>:"/\\|?*\u0000-\u001f\u007f]+/g, '-')
      .replace(/\s+/g, ' ')
      .slice(0, LONGEST)
      .replace(/^[. ]+|[. ]+$/g, '') || UNKNOWN
  );
}

/** Every field by its id: `{city}`, `{jobId}`; of several values the first. */
const OF_FIELDS: Placeholders<RenameFacts> = Object.fromEntries(
  FIELDS.map(({ id, label }) => [
    id,
    { help: label, value: ({ fields }: RenameFacts) => said(textsOf(fields[id])[0]) },
  ]),
);

export const RENAME_PLACEHOLDERS: Placeholders<RenameFacts> = {
  ...OF_FIELDS,
  ...PLACEHOLDERS,
  term: { help: 'the first of its terms', value: ({ terms }) => said(terms[0]) },
  terms: { help: 'its terms', value: ({ terms }) => said(terms.join(', ')) },
  people: { help: 'how many persons are in it', value: ({ people }) => String(people) },
  hash: {
    help: 'the beginning of its SHA-256; {hash:4} for four letters',
    value: ({ hash }, digits) => hash?.slice(0, digits > 1 ? digits : HASH_LETTERS) ?? UNKNOWN,
  },
};

/** Those that are offered; every other field is typed by its id. */
export const OFFERED_PLACEHOLDERS: readonly string[] = [
  ...Object.keys(PLACEHOLDERS),
  ...['title', 'headline', 'event', 'jobId', 'city', 'creator', 'term', 'people', 'hash'],
];

/** Reads a pattern of renaming. */
export function parseRenamePattern(pattern: string): ParsedPattern<RenameFacts> {
  const parsed = parsePattern(pattern, RENAME_PLACEHOLDERS);
  // There are many fields: those that are offered are named.
  return parsed.ok || !parsed.problem.startsWith('there is no placeholder')
    ? parsed
    : {
        ok: false,
        problem: `${parsed.problem.replace(/;.*$/s, '')}; there are ${OFFERED_PLACEHOLDERS.join(', ')} and all fields by name`,
      };
}
