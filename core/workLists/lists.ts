// The work lists there are: what waits for somebody. Lists of photos are searches; other things are settled in places of their own.

import { allOf, criterion, type Query } from '../query/query';
import { parseQuery, queryText } from '../search/language';

export const LIST_GROUPS = ['To describe', 'To settle', 'To mend', 'To write', 'Kept searches'] as const;
export type ListGroup = (typeof LIST_GROUPS)[number];

interface List {
  label: string;
  group: ListGroup;
}

export interface PhotoList extends List {
  /** By which `done:` names it. */
  id: string;
  /** What finds its photos. */
  query: string;
  note?: string;
}

/** Lists of photos that every catalogue has. */
export const PHOTO_LISTS: readonly PhotoList[] = [
  { id: 'terms', label: 'Without terms', group: 'To describe', query: 'missing:terms' },
  { id: 'caption', label: 'Without a caption', group: 'To describe', query: 'missing:caption' },
  { id: 'people', label: 'Without people', group: 'To describe', query: 'missing:people' },
  { id: 'place', label: 'Without a place', group: 'To describe', query: 'missing:location' },
  { id: 'date', label: 'Without a date', group: 'To describe', query: 'missing:date' },
  { id: 'rating', label: 'Without a rating', group: 'To describe', query: 'missing:rating' },
  { id: 'rights', label: 'Without a copyright notice', group: 'To describe', query: 'missing:copyrightNotice' },
  { id: 'damaged', label: 'Can’t be decoded in full', group: 'To mend', query: 'is:damaged' },
  { id: 'altered', label: 'Picture data not as it was', group: 'To mend', query: 'fixity:damaged' },
  { id: 'sideways', label: 'On their side, as faces say', group: 'To mend', query: 'is:sideways' },
  { id: 'missing', label: 'File missing', group: 'To mend', query: 'is:missing' },
  { id: 'blocks', label: 'Blocks disagree', group: 'To mend', query: 'is:disagreeing' },
  { id: 'waiting', label: 'Waiting to be written', group: 'To write', query: 'is:waiting' },
  { id: 'failed', label: 'Could not be written', group: 'To write', query: 'is:failed' },
  { id: 'conflict', label: 'Conflicts with the file', group: 'To write', query: 'is:conflict' },
];

/** Lists of other things than photos. */
export const THING_LISTS = {
  keywords: { label: 'Keywords that files bring', group: 'To settle' },
  names: { label: 'Names that files bring', group: 'To settle' },
  likeness: { label: 'Likeness groups without a name', group: 'To settle' },
  doubts: { label: 'Doubtful places', group: 'To settle' },
  proposals: { label: 'Proposed terms', group: 'To settle' },
  answers: { label: 'Answers from outside', group: 'To settle' },
  doubles: { label: 'Pictures there more than once', group: 'To mend' },
  backups: { label: 'Backups that are late', group: 'To mend' },
} as const satisfies Record<string, List>;

export type ThingListId = keyof typeof THING_LISTS;
export const THING_LIST_IDS = Object.keys(THING_LISTS) as ThingListId[];

/** The list of photos of some accessions of which what was agreed ends soon, or has ended. */
export function endingList(accessionIds: readonly number[]): PhotoList {
  return {
    ...{ id: 'ending', label: 'Agreements that end soon, or have', group: 'To settle' },
    query: queryText({ kind: 'any', of: accessionIds.map((id) => criterion('accession', String(id))) }),
  };
}

/** The list of what a rule of the team finds lacking: a part of the description. */
export function ruleListId(ruleId: number, part: string): string {
  return `rule-${ruleId}-${part}`;
}

/** The list of a saved search that is kept on Holdings. */
export function searchListId(searchId: number): string {
  return `search-${searchId}`;
}

/** What finds the photos of a list that somebody has said are done with. */
export function doneWith(listId: string): Query {
  return criterion('done', listId);
}

/** What of an opened query is left of a list: all but what is done with. */
export function leftOf(query: Query, listId: string): Query {
  return allOf([query, { kind: 'not', of: doneWith(listId) }]);
}

/** The query text of what is left of a list. */
export function leftText(query: string, listId: string): string {
  return queryText(leftOf(parseQuery(query).query, listId));
}
