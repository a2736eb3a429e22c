// A query tree as SQL: a condition on the photo `p`. It must mean what core/search/evaluate.ts says.

import type { OwnCriterionId, Part, State } from '@stellin/core/search/criteria';
import { dateBounds } from '@stellin/core/search/evaluate';
import type { CriterionQuery, Query } from '@stellin/core/search/query';
import { foldText, patternsOf, wordsOf } from '@stellin/core/search/words';

export interface SqlCondition {
  sql: string;
  /** Values for its $1, $2 …, beginning with those that were there before. */
  bind: unknown[];
}

/** The condition for a query, numbering its parameters after those in `bind`. */
export function compileQuery(query: Query, bind: readonly unknown[] = []): SqlCondition {
  const values = [...bind];
  const param = (value: unknown) => `$${values.push(value)}`;
  return { sql: conditionOf(query, param), bind: values };
}

type Param = (value: unknown) => string;

function conditionOf(query: Query, param: Param): string {
  switch (query.kind) {
    case 'everything':
      return 'true';
    case 'all':
      return `(${query.of.map((part) => conditionOf(part, param)).join(' and ')})`;
    case 'any':
      return `(${query.of.map((part) => conditionOf(part, param)).join(' or ')})`;
    case 'not':
      return `not coalesce(${conditionOf(query.of, param)}, false)`;
    case 'words':
      return every(patternsOf(query.text).map((pattern) => inTexts(`${tsWord(pattern)}`, param)));
    case 'phrase': {
      const words = wordsOf(query.text);
      return words.length === 0 ? 'true' : inTexts(words.map(tsWord).join(' <-> '), param);
    }
    case 'criterion':
      return criterionCondition(query, param);
  }
}

function criterionCondition(query: CriterionQuery, param: Param): string {
  const { criterion, value } = query;
  if (isOwn(criterion)) return CONDITIONS[criterion](query, param);
  return inText(
    `exists (select 1 from jsonb_array_elements_text(t.fields_folded -> ${param(criterion)}) said where said like ${param(likePattern(value))})`,
  );
}

function isOwn(criterion: CriterionQuery['criterion']): criterion is OwnCriterionId {
  return criterion in CONDITIONS;
}

const CONDITIONS: Record<OwnCriterionId, (query: CriterionQuery, param: Param) => string> = {
  term: ({ value }, param) => `p.id in (
    select given.photo_id from term broad join term_above within on within.above_id = broad.id
    join photo_term given on given.term_id = within.term_id where ${isNamed('broad', value, param)})`,
  only: ({ value }, param) => `p.id in (
    select given.photo_id from photo_term given join term own on own.id = given.term_id where ${isNamed('own', value, param)})`,
  keyword: ({ value }, param) =>
    `exists (select 1 from photo_keyword k where k.photo_id = p.id and k.folded like ${param(likePattern(value))})`,
  name: ({ value }, param) => inText(`t.name_folded like ${param(likePattern(value))}`),
  caption: ({ value }, param) => inText(`t.caption <> '' and t.caption_folded like ${param(likePattern(value))}`),
  camera: ({ value }, param) => inText(`t.camera_folded <> '' and t.camera_folded like ${param(likePattern(value))}`),
  kind: ({ value }, param) => `p.kind = ${param(value.toLowerCase())}`,
  mark: ({ value }, param) => `p.mark <> '' and p.mark_folded like ${param(likePattern(value))}`,
  rating: (query, param) => comparison('p.rating', query, param),
  taken: (query, param) => {
    const bounds = dateBounds(query);
    if (!bounds) return 'false';
    const { from, to } = bounds;
    return every([
      ...(from ? [`p.taken_at >= ${param(from)}::timestamp`] : []),
      ...(to ? [`p.taken_at < ${param(to)}::timestamp`] : []),
    ]);
  },
  drive: ({ value }, param) =>
    `p.drive_id in (select d.id from drive d where d.label_folded like ${param(likePattern(value))})`,
  within: ({ value }, param) => {
    const [text, start] = [param(withoutEndSlash(value)), param(`${escapeLike(withoutEndSlash(value))}/%`)];
    return `p.folder_id in (select f.id from folder f join drive d on d.id = f.drive_id where ${FOLDER_PATH} = ${text} or ${FOLDER_PATH} like ${start})`;
  },
  folder: ({ value }, param) =>
    `p.folder_id in (select f.id from folder f join drive d on d.id = f.drive_id where ${FOLDER_PATH} = ${param(withoutEndSlash(value))})`,
  accession: (query, param) => comparison('p.accession_id', query, param),
  has: ({ value }) => PART_CONDITIONS[value.toLowerCase() as Part],
  missing: ({ value }) => `not ${PART_CONDITIONS[value.toLowerCase() as Part]}`,
  is: ({ value }) => STATE_CONDITIONS[value.toLowerCase() as State],
};

const FOLDER_PATH = `(d.label || case when f.path = '' then '' else '/' || f.path end)`;

export const PART_CONDITIONS: Record<Part, string> = {
  terms: 'exists (select 1 from photo_term h where h.photo_id = p.id)',
  caption: 'p.has_caption',
  people: 'p.has_people',
  location: 'p.has_location',
  keywords: 'exists (select 1 from photo_keyword h where h.photo_id = p.id)',
  date: '(p.taken_at is not null)',
  rating: '(p.rating <> 0)',
};

const STATE_CONDITIONS: Record<State, string> = {
  away: 'p.drive_id in (select id from drive where not attached)',
  missing: '(p.missing_since is not null)',
  double:
    'p.picture_hash in (select o.picture_hash from photo o where o.picture_hash is not null and o.shown group by o.picture_hash having count(*) > 1)',
  bundled: '(p.bundle is not null)',
  lead: 'p.leads',
  trashed: '(p.trashed_from is not null)',
  removed: 'p.removed',
  damaged: 'p.damaged',
  disagreeing: inText(`t.disagreements <> '[]'`),
  waiting: writeState('waiting'),
  conflict: writeState('conflict'),
  failed: writeState('failed'),
  written: '(p.written_at is not null and not exists (select 1 from write_back w where w.photo_id = p.id))',
};

function writeState(state: State): string {
  return `p.id in (select photo_id from write_back where state = '${state}')`;
}

function every(conditions: string[]): string {
  return conditions.length === 0 ? 'true' : `(${conditions.join(' and ')})`;
}

function inText(condition: string): string {
  return `exists (select 1 from photo_text t where t.photo_id = p.id and ${condition})`;
}

/** Words stand in the photo's own texts, or in a label of a term it has or of a broader one. */
function inTexts(tsquery: string, param: Param): string {
  const value = `${param(tsquery)}::tsquery`;
  return `p.id in (
    select t.photo_id from photo_text t where t.words @@ ${value}
    union all
    select given.photo_id from term broad join term_above within on within.above_id = broad.id
    join photo_term given on given.term_id = within.term_id where broad.words @@ ${value})`;
}

/** A pattern of core/search/words as tsquery. Words are letters and digits only, so nothing needs escaping. */
function tsWord(pattern: string): string {
  return pattern.endsWith('*') ? `'${pattern.slice(0, -1)}':*` : `'${pattern}'`;
}

/** That a term (by its alias) is named: by one of its labels, or by a path of labels that ends at it. */
function isNamed(term: string, name: string, param: Param): string {
  const byLabel = `${term}.labels_folded @> array[${param(foldText(name))}]`;
  const steps = name.split('/').map(foldText).reverse();
  if (steps.length === 1) return byLabel;
  const below = steps
    .slice(1)
    .reduceRight(
      (inner, step, i) =>
        `exists (select 1 from term s${i + 1} where s${i + 1}.id = ${i === 0 ? term : `s${i}`}.parent_id and ${param(step)} = any(s${i + 1}.labels_folded)${inner ? ` and ${inner}` : ''})`,
      '',
    );
  return `(${byLabel} or (${param(steps[0])} = any(${term}.labels_folded) and ${below}))`;
}

function comparison(column: string, { operator, value, to }: CriterionQuery, param: Param): string {
  const number = (text: string | undefined) => `${param(Number(text))}::numeric`;
  if (operator === '..') return `(${column} >= ${number(value)} and ${column} <= ${number(to)})`;
  return `(${column} is not null and ${column} ${operator} ${number(value)})`;
}

function escapeLike(text: string): string {
  return text.replace(/[\\%_]/g, '\\$&');
}

function likePattern(value: string): string {
  return escapeLike(foldText(value)).replace(/\*/g, '%').replace(/\?/g, '_');
}

function withoutEndSlash(path: string): string {
  return path.replace(/\/+$/, '');
}
