// Why a photo is found, or not: the query as a tree, each condition with whether it is met and what the photo says there.

import { criterionOf, type ChoiceId, type DateId, type NumberId, type TextId } from '../query/criteria';
import { partsOf } from './editing';
import { evaluate } from './evaluate';
import { parseQuery, queryText } from './language';
import { folderText, type SearchablePhoto, type TimeSpan } from './photo';
import type { CriterionQuery, Query } from '../query/query';
import { nameIn, openSearches } from './saved';

export interface Explanation {
  kind: Query['kind'];
  /** The part in the query language. */
  text: string;
  met: boolean;
  /** What the photo says where the condition looks; empty for groups. */
  own: string;
  /** The parts of a group; of a saved search what it asks. */
  of: Explanation[];
}

/** Explains a query for a photo. `textOf` gives the texts of saved searches by folded name; `within` are those it stands in. */
export function explain(
  query: Query,
  photo: SearchablePhoto,
  today: string,
  textOf: (name: string) => string | undefined,
  within: readonly string[] = [],
): Explanation {
  const name = nameIn(query);
  // One that would ask for itself finds nothing, and is not opened again.
  const known = (asked: string) => (within.includes(asked) ? undefined : textOf(asked));
  const saved = name === undefined ? undefined : known(name);
  const parts = saved === undefined ? partsOf(query) : [parseQuery(saved).query];
  return {
    kind: query.kind,
    text: queryText(query),
    met: evaluate(openSearches(query, known).query, photo, today),
    own: ownValue(query, photo),
    of: parts.map((part) => explain(part, photo, today, textOf, name === undefined ? within : [...within, name])),
  };
}

/** What the photo says where a condition looks, in words. */
function ownValue(query: Query, photo: SearchablePhoto): string {
  if (query.kind === 'words' || query.kind === 'phrase') return photo.texts.filter(Boolean).slice(0, 6).join(' · ');
  if (query.kind !== 'criterion') return '';
  const type = criterionOf(query.criterion)?.type;
  return type === undefined ? '' : OWN[type](query, photo);
}

const NOTHING = 'nothing';

const OWN: Record<
  NonNullable<ReturnType<typeof criterionOf>>['type'],
  (query: CriterionQuery, photo: SearchablePhoto) => string
> = {
  term: (_, { terms }) => listed(terms.map(({ path }) => path.at(-1)?.[0] ?? '')),
  dossier: (_, { dossiers }) => listed(dossiers.map((path) => path.join(' › '))),
  text: ({ criterion }, { said }) => listed(said[criterion as TextId] ?? []),
  choice: ({ criterion }, { said }) => listed(said[criterion as ChoiceId] ?? []),
  number: ({ criterion }, { numbers }) => numberText(criterion as NumberId, numbers[criterion as NumberId]),
  date: ({ criterion }, { dates }) => spanText(dates[criterion as DateId]),
  folder: (_, { drive, folder }) => folderText(drive, folder),
  presence: ({ value }, photo) => presenceText(value, photo),
  state: (_, { states }) => listed([...states]),
  area: (_, { position }) => (position ? `${position.latitude}, ${position.longitude}` : NOTHING),
  photos: (_, { id }) => String(id),
  search: () => '',
  likeness: () => '',
};

function listed(texts: readonly string[]): string {
  return texts.filter(Boolean).join(', ') || NOTHING;
}

function numberText(id: NumberId, value: number | undefined): string {
  if (value === undefined) return NOTHING;
  const [unit = ''] = Object.keys(criterionOf(id)?.units ?? {});
  const exact =
    id === 'exposure' && value > 0 && value < 0.5 ? `1/${Math.round(1 / value)}` : String(Number(value.toPrecision(6)));
  return unit ? `${exact} ${unit}` : exact;
}

function spanText(span: TimeSpan | undefined): string {
  if (!span) return NOTHING;
  const from = span.from.replace('T', ' ');
  return span.until === undefined ? from : `${from} up to ${span.until.replace('T', ' ')}`;
}

/** What `has:` and `missing:` look at. */
function presenceText(part: string, photo: SearchablePhoto): string {
  const criterion: Record<string, CriterionQuery['criterion'] | undefined> = {
    terms: 'term',
    people: 'person',
    location: 'place',
    keywords: 'keyword',
    date: 'taken',
    position: 'near',
  };
  const id = criterion[part.toLowerCase()] ?? criterionOf(part)?.id;
  return id === undefined ? '' : ownValue({ kind: 'criterion', criterion: id, operator: '=', value: '' }, photo);
}
