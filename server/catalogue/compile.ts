// A query tree as SQL: a condition on the photo `p`, for changes, which look at the catalogue itself inside their
// transaction. It must mean what core/search/evaluate.ts says.

import {
  criterionOf,
  MONTHS,
  WEEKDAYS,
  type ChoiceId,
  type CriterionType,
  type DateId,
  type NumberId,
  type State,
  type TextId,
} from '@stellin/core/query/criteria';
import { kindsWhere } from '@stellin/core/metadata/containers/index';
import { DATE_VALUE, NUMBER_VALUE } from '@stellin/core/describing/ownFields';
import { dateBounds, numberBounds } from '@stellin/core/search/evaluate';
import {
  COMPARED_DAYS,
  dayOf,
  isDateText,
  isNumber,
  ownComparison,
  REST_OF_DAY,
  type OwnComparison,
} from '@stellin/core/search/ownValues';
import { PEOPLE_TEXTS } from '@stellin/core/search/said';
import { photosAsked } from '@stellin/core/lookalikes/asked';
import { areaOf, EARTH_METRES } from '@stellin/core/timeplace/areas';
import type { CriterionQuery, Query } from '@stellin/core/query/query';
import { foldText, formsOf, hasWildcard, patternsOf, wordsOf } from '@stellin/core/text/words';
import { localSql, today } from './clock';
import { FIXITY_SQL } from './fixity';

export interface SqlCondition {
  sql: string;
  /** Values for its $1, $2 …, beginning with those that were there before. */
  bind: unknown[];
}

/** What exists for who asks. */
interface Known {
  /** The condition on `p` that a photo does, of which those in `bind` are the parameters. */
  seen: string;
  /** Private persons do. */
  knowsPrivate: boolean;
}
const ALL_KNOWN: Known = { seen: 'true', knowsPrivate: true };

/** The condition for a query, numbering its parameters after those in `bind`. */
export function compileQuery(query: Query, bind: readonly unknown[] = [], known = ALL_KNOWN): SqlCondition {
  const values = [...bind];
  const param = (value: unknown) => `$${values.push(value)}`;
  return { sql: conditionOf(query, { param, ...known }), bind: values };
}

/** That a dossier, by its alias, is named by a text. */
export function dossierNamed(alias: string, text: string): SqlCondition {
  const bind: unknown[] = [];
  return { sql: isNamed('dossier', alias, text, (value) => `$${bind.push(value)}`), bind };
}

type Param = (value: unknown) => string;

function conditionOf(query: Query, context: { param: Param } & Known): string {
  const { param, seen, knowsPrivate } = context;
  switch (query.kind) {
    case 'everything':
      return 'true';
    case 'all':
      return every(query.of.map((part) => conditionOf(part, context)));
    case 'any':
      return query.of.length === 0 ? 'false' : `(${query.of.map((part) => conditionOf(part, context)).join(' or ')})`;
    case 'not':
      return `not coalesce(${conditionOf(query.of, context)}, false)`;
    case 'words':
      return every(patternsOf(query.text).map((pattern) => withWord(pattern, param)));
    case 'phrase': {
      const words = wordsOf(query.text);
      return words.length === 0 ? 'true' : inWords(words.map((word) => `'${word}'`).join(' <-> '), param);
    }
    case 'criterion': {
      const type = criterionOf(query.criterion)?.type;
      // Which pictures are there more than once hangs on the photos that exist for who asks.
      if (type === 'state' && query.value.toLowerCase() === 'double') return doublesAmong(seen);
      if (!knowsPrivate && tellsOfPeople(query)) return withoutPrivate(CONDITIONS[type ?? 'search'](query, param));
      return type ? CONDITIONS[type](query, param) : 'false';
    }
  }
}

const CONDITIONS: Record<CriterionType, (query: CriterionQuery, param: Param) => string> = {
  term: ({ criterion, value }, param) =>
    criterion === 'only'
      ? `p.id in (select given.photo_id from photo_term given join term own on own.id = given.term_id where ${isNamed('term', 'own', value, param)})`
      : `p.id in (select given.photo_id from term broad join term_above within on within.above_id = broad.id
          join photo_term given on given.term_id = within.term_id where ${isNamed('term', 'broad', value, param)})`,
  dossier: ({ value }, param) =>
    `p.id in (select put.photo_id from dossier named join dossier_above within on within.above_id = named.id
       join dossier_photo put on put.dossier_id = within.id where ${isNamed('dossier', 'named', value, param)})`,
  text: ({ criterion, value }, param) => saying(criterion as TextId, value, param),
  choice: ({ criterion, value }, param) => choosing(criterion as ChoiceId, value.toLowerCase(), param),
  number: (query, param) => {
    const bounds = numberBounds(query);
    if (!bounds) return 'false';
    const { from, to, openFrom, openTo } = bounds;
    const column = NUMBERS[query.criterion as NumberId];
    const limit = (operator: string, value: number) => `${column} ${operator} ${param(value)}::float8`;
    return every([
      ...(from === -Infinity ? [] : [limit(openFrom ? '>' : '>=', from)]),
      ...(to === Infinity ? [] : [limit(openTo ? '<' : '<=', to)]),
      `${column} is not null`,
    ]);
  },
  date: (query, param) => {
    const bounds = dateBounds(query, today());
    if (!bounds) return 'false';
    const { start, end } = DATES[query.criterion as DateId];
    return every([
      ...(bounds.from === undefined ? [] : [`${end} > ${param(bounds.from)}::timestamp`]),
      ...(bounds.to === undefined ? [] : [`${start} < ${param(bounds.to)}::timestamp`]),
      `${start} is not null`,
    ]);
  },
  folder: ({ criterion, value }, param) => {
    const asked = value.replace(/\/+$/, '');
    const below = criterion === 'within' ? ` or ${FOLDER_PATH} like ${param(`${escapeLike(asked)}/%`)}` : '';
    return inFolders(`${FOLDER_PATH} = ${param(asked)}${below}`);
  },
  area: ({ value }, param) => inArea(value, param),
  presence: ({ criterion, value }, param) => {
    const there = presenceCondition(value.toLowerCase(), param);
    return criterion === 'has' ? there : `not coalesce(${there}, false)`;
  },
  state: ({ value }) => STATE_CONDITIONS[value.toLowerCase() as State],
  photos: ({ value }, param) => `p.id = any(${param(photosAsked(value) ?? [])}::int[])`,
  // Opened before a query comes here.
  search: () => 'false',
  likeness: () => 'false',
};

const FOLDER_PATH = `(d.label || case when f.path = '' then '' else '/' || f.path end)`;

function inFolders(condition: string): string {
  return `p.folder_id in (select f.id from folder f join drive d on d.id = f.drive_id where ${condition})`;
}

const PRIVATE_TOO = '/* private too */';

/** The condition of a criterion of people for whom private persons do not exist: no row of who is seen where is one of them. */
function withoutPrivate(condition: string): string {
  return condition.replaceAll(PRIVATE_TOO, 'and person_id not in (select id from person where private)');
}

/** Whether a condition asks who is in a photo. */
function tellsOfPeople({ criterion, value }: CriterionQuery): boolean {
  const people: readonly string[] = PEOPLE_TEXTS;
  return people.includes(criterion) || ['people', ...people].includes(value.toLowerCase());
}

/** A person of some rows (`person_id`, `photo_id`) who has a name like a pattern is in the photo. */
function calledLike(pattern: string, rows: string): string {
  return `p.id in (select s.photo_id from person n cross join unnest(n.names_folded) given join ${rows} s on s.person_id = n.id where given like ${pattern})`;
}

/** Faces that are named, and those that most likely show somebody. */
const CONFIRMED = `(select person_id, photo_id from face where state = 'named' ${PRIVATE_TOO})`;
const SUGGESTED = `(select person_id, photo_id from (select g.person_id, f.photo_id from face_guess g join face f on f.id = g.face_id where f.state = 'open') open where true ${PRIVATE_TOO})`;
/** Who is in which photo, with a face or without. */
const SEEN = `(select person_id, photo_id from (select person_id, photo_id from face where state = 'named' union all select person_id, photo_id from photo_person) any_way where true ${PRIVATE_TOO})`;

/** Texts that do not stand among those of the fields: the condition that one of them is like a pattern. */
const TEXTS: Partial<Record<TextId, (pattern: string) => string>> = {
  name: (pattern) => inText(`t.name_folded like ${pattern}`),
  caption: (pattern) => inText(`t.caption <> '' and t.caption_folded like ${pattern}`),
  camera: (pattern) => inText(`t.camera_folded <> '' and t.camera_folded like ${pattern}`),
  mark: (pattern) => `(p.mark <> '' and p.mark_folded like ${pattern})`,
  keyword: (pattern) => `exists (select 1 from photo_keyword k where k.photo_id = p.id and k.folded like ${pattern})`,
  person: (pattern) =>
    `(${inText(`exists (select 1 from jsonb_array_elements_text(t.fields_folded -> 'person') said where said like ${pattern})`)}
      or ${calledLike(pattern, SEEN)})`,
  own: (pattern) => ownSaying((said) => `${said} like ${pattern}`),
  confirmed: (pattern) => calledLike(pattern, CONFIRMED),
  suggested: (pattern) => calledLike(pattern, SUGGESTED),
  plan: (pattern) =>
    `p.id in (select h.photo_id from plan_photo h join plan_pin n on n.id = h.pin_id join plan l on l.id = n.plan_id
       where l.name_folded like ${pattern} or l.name_folded || '/' || n.name_folded like ${pattern})`,
  done: (pattern) => `p.id in (select w.photo_id from work_done w where ${foldedSql('w.list')} like ${pattern})`,
  drive: (pattern) => `p.drive_id in (select d.id from drive d where d.label_folded like ${pattern})`,
  path: (pattern) => inFolders(`${foldedSql(FOLDER_PATH)} like ${pattern}`),
  changedBy: (pattern) =>
    `p.id in (select l.photo_id from ledger_photo l join ledger_entry e on e.id = l.entry_id join account a on a.id = e.account_id
       where ${foldedSql('a.display_name')} like ${pattern})`,
};

/** The same as `foldText` for what stands in the names of folders and people, but for letters that have no decomposition. */
function foldedSql(text: string): string {
  return `regexp_replace(normalize(lower(${text}), nfkd), '[\\u0300-\\u036f]', '', 'g')`;
}

/** What own fields say meets a condition, given the SQL of one of their folded texts `name: value`. */
function ownSaying(condition: (said: string) => string): string {
  // What was described before there was this criterion is not kept folded.
  return inText(`case when t.fields_folded ? 'own' then exists (select 1 from jsonb_array_elements_text(t.fields_folded -> 'own') said where ${condition('said')})
      else exists (select 1 from jsonb_path_query(t.fields, '$.custom[*]') own cross join jsonb_path_query(own, '$.Value[*]') value
        cross join lateral (select ${foldedSql(`(own ->> 'Name') || ': ' || (value #>> '{}')`)}) folded (said) where ${condition('folded.said')}) end`);
}

/** The same comparison as `ownMatcherOf` makes. */
function ownComparing({ name, limits }: OwnComparison, param: Param): string {
  const isLike = param(likePattern(name));
  return ownSaying((said) => {
    const value = `substring(${said} from '^.*: (\\S+)$')`;
    const holding = limits.map(({ operator, value: limit }) => {
      const days = COMPARED_DAYS[operator];
      const day = (text: string, which: 'first' | 'last') =>
        `(${text} || substr('${REST_OF_DAY[which]}', length(${text}) - 3))`;
      const asNumber = isNumber(limit)
        ? `when ${value} ~ '${NUMBER_VALUE.source}' then ${value}::float8 ${operator} ${param(limit)}::float8`
        : '';
      const asDate = isDateText(limit)
        ? `when ${value} ~ '${DATE_VALUE.source}' then ${day(value, days.value)} collate "C" ${operator} ${param(dayOf(limit, days.limit))}`
        : '';
      return `case ${asNumber} ${asDate} else false end`;
    });
    return every([`substring(${said} from '^(.*): \\S+$') like ${isLike}`, ...holding]);
  });
}

function saying(criterion: TextId, value: string, param: Param): string {
  const comparison = criterion === 'own' ? ownComparison(foldText(value)) : undefined;
  if (comparison) return ownComparing(comparison, param);
  const pattern = likePattern(value);
  const own = TEXTS[criterion];
  if (own) return own(param(pattern));
  return inText(
    `exists (select 1 from jsonb_array_elements_text(t.fields_folded -> ${param(criterion)}) said where said like ${param(pattern)})`,
  );
}

const SEEN_WIDTH = 'case when p.orientation > 4 then p.height else p.width end';
const SEEN_HEIGHT = 'case when p.orientation > 4 then p.width else p.height end';
const TAKEN_END = `coalesce(p.taken_until, p.taken_at + interval '1 second')`;

/** What numbers compare, as float8. */
export const NUMBERS: Record<NumberId, string> = {
  rating: 'p.rating::float8',
  accession: 'p.accession_id::float8',
  faces: `greatest((select count(*) from face f where f.photo_id = p.id and f.state not in ('removed', 'none')),
    (select count(*) from photo_text t cross join lateral jsonb_path_query(t.fields, '$.regions.RegionList[*] ? (@.Type == "Face")') where t.photo_id = p.id))::float8`,
  unnamed: `(select count(*) from face f where f.photo_id = p.id and f.state = 'open')::float8`,
  iso: fact('iso'),
  aperture: fact('fNumber'),
  exposure: fact('exposureTime'),
  focal: fact('focalLength'),
  bitDepth: fact('bitDepth'),
  duration: fact('duration'),
  pages: fact('pages'),
  frameRate: fact('frameRate'),
  bitRate: fact('bitRate'),
  channels: fact('channels'),
  sampleRate: fact('sampleRate'),
  altitude: `(select (t.fields -> 'position' ->> 'altitude')::float8 from photo_text t where t.photo_id = p.id)`,
  width: `(${SEEN_WIDTH})::float8`,
  height: `(${SEEN_HEIGHT})::float8`,
  pixels: '(p.width::float8 * p.height / 1e6::float8)',
  aspect: `((${SEEN_WIDTH})::float8 / nullif(${SEEN_HEIGHT}, 0))`,
  size: '(p.size_bytes::float8 / 1e6::float8)',
  hour: `(case when ${TAKEN_END} - p.taken_at <= interval '1 hour' then extract(hour from p.taken_at) end)::float8`,
};

function fact(name: string): string {
  return `(select (t.facts ->> '${name}')::float8 from photo_text t where t.photo_id = p.id)`;
}

const DATES: Record<DateId, { start: string; end: string }> = {
  taken: { start: 'p.taken_at', end: TAKEN_END },
  added: moment(`(select ${localSql('c.started_at')} from accession c where c.id = p.accession_id)`),
  changed: moment(
    `(select ${localSql('max(e.at)')} from ledger_photo l join ledger_entry e on e.id = l.entry_id where l.photo_id = p.id)`,
  ),
};

function moment(time: string): { start: string; end: string } {
  return { start: time, end: `(${time} + interval '1 second')` };
}

function choosing(criterion: ChoiceId, value: string, param: Param): string {
  switch (criterion) {
    case 'kind':
      return `p.kind = ${param(value)}`;
    case 'media':
      return `p.kind = any(${param(kindsWhere(({ media }) => media === value))}::text[])`;
    case 'fixity':
      return `${FIXITY_SQL} = ${param(value)}`;
    case 'flash':
      return inText(`t.facts ->> 'flashFired' = ${param(value === 'yes' ? 'true' : 'false')}`);
    case 'shape': {
      const operator = { landscape: '>', portrait: '<', square: '=' }[value] ?? '<>';
      return `(${NUMBERS.aspect} ${operator} 1)`;
    }
    case 'weekday': {
      const day = WEEKDAYS.indexOf(value as (typeof WEEKDAYS)[number]) + 1;
      return `(${TAKEN_END} - p.taken_at <= interval '1 day' and extract(isodow from p.taken_at) = ${param(day)}::int)`;
    }
    case 'month': {
      const month = MONTHS.indexOf(value as (typeof MONTHS)[number]) + 1;
      return `(${TAKEN_END} <= date_trunc('month', p.taken_at) + interval '1 month' and extract(month from p.taken_at) = ${param(month)}::int)`;
    }
  }
}

const POINT = `(select (t.fields -> 'position' ->> 'latitude')::float8 as latitude, (t.fields -> 'position' ->> 'longitude')::float8 as longitude
  from photo_text t where t.photo_id = p.id and t.fields ? 'position') at`;

function inArea(value: string, param: Param): string {
  const area = areaOf(value);
  if (!area) return 'false';
  const number = (of: number) => `${param(of)}::float8`;
  switch (area.kind) {
    case 'circle': {
      // The haversine formula, as in core/timeplace/areas.
      const [latitude, longitude] = [number(area.centre.latitude), number(area.centre.longitude)];
      const chord = `sin(radians(at.latitude - ${latitude}) / 2) ^ 2 + cos(radians(${latitude})) * cos(radians(at.latitude)) * sin(radians(at.longitude - ${longitude}) / 2) ^ 2`;
      return inPoint(`2 * ${EARTH_METRES} * asin(sqrt(least(1, ${chord}))) <= ${number(area.metres)}`);
    }
    case 'box': {
      const [west, east] = [number(area.west), number(area.east)];
      const across = area.west <= area.east ? 'and' : 'or';
      return inPoint(
        `at.latitude >= ${number(area.south)} and at.latitude <= ${number(area.north)} and (at.longitude >= ${west} ${across} at.longitude <= ${east})`,
      );
    }
    case 'polygon': {
      const sides = area.corners.map((corner, i) => ({ corner, before: area.corners.at(i - 1) ?? corner }));
      const crossings = sides.flatMap(({ corner, before }) => {
        if (corner.latitude === before.latitude) return [];
        const [y, x, above] = [number(corner.latitude), number(corner.longitude), number(before.latitude)];
        const slope = number((before.longitude - corner.longitude) / (before.latitude - corner.latitude));
        return [
          `((${y} > at.latitude) <> (${above} > at.latitude) and at.longitude < ${x} + (at.latitude - ${y}) * ${slope})::int`,
        ];
      });
      return crossings.length === 0 ? 'false' : inPoint(`(${crossings.join(' + ')}) % 2 = 1`);
    }
  }
}

function inPoint(condition: string): string {
  return `exists (select 1 from ${POINT} where ${condition})`;
}

const SHOWS_PEOPLE = `(${inText(`t.fields_folded ? 'person'`)} or p.id in (select s.photo_id from ${SEEN} s))`;

const PRESENCES: Readonly<Record<string, string>> = {
  terms: 'exists (select 1 from photo_term h where h.photo_id = p.id)',
  caption: inText(`t.caption <> ''`),
  people: SHOWS_PEOPLE,
  person: SHOWS_PEOPLE,
  own: inText(`jsonb_path_exists(t.fields, '$.custom[*].Value[*]')`),
  confirmed: `p.id in (select s.photo_id from ${CONFIRMED} s)`,
  suggested: `p.id in (select s.photo_id from ${SUGGESTED} s)`,
  location: inText(`(t.fields_folded ? 'place' or t.fields ? 'position')`),
  keywords: 'exists (select 1 from photo_keyword h where h.photo_id = p.id)',
  keyword: 'exists (select 1 from photo_keyword h where h.photo_id = p.id)',
  date: '(p.taken_at is not null)',
  day: `(p.taken_at is not null and ${TAKEN_END} <= date_trunc('day', p.taken_at) + interval '1 day')`,
  taken: '(p.taken_at is not null)',
  rating: '(p.rating <> 0)',
  position: inText(`t.fields ? 'position'`),
  dossier: 'exists (select 1 from dossier_photo h where h.photo_id = p.id)',
  plan: 'exists (select 1 from plan_photo h where h.photo_id = p.id)',
  done: 'exists (select 1 from work_done w where w.photo_id = p.id)',
  camera: inText(`t.camera_folded <> ''`),
  mark: `(p.mark <> '')`,
  flash: inText(`t.facts ? 'flashFired'`),
  shape: `(${NUMBERS.aspect} is not null)`,
  changed: 'exists (select 1 from ledger_photo h where h.photo_id = p.id)',
  changedby:
    'exists (select 1 from ledger_photo h join ledger_entry e on e.id = h.entry_id where h.photo_id = p.id and e.account_id is not null)',
};

/** Whether a part of the description, or what a criterion asks for, is there. */
function presenceCondition(id: string, param: Param): string {
  const special = PRESENCES[id];
  if (special) return special;
  const criterion = criterionOf(id);
  if (criterion?.type === 'number') return `(${NUMBERS[criterion.id as NumberId]} is not null)`;
  return criterion ? inText(`jsonb_exists(t.fields_folded, ${param(criterion.id)})`) : 'false';
}

function doublesAmong(seen: string): string {
  return `p.picture_hash in (select p.picture_hash from photo p where p.picture_hash is not null and p.shown and ${seen}
    group by p.picture_hash having count(*) > 1)`;
}

const STATE_CONDITIONS: Record<State, string> = {
  away: 'p.drive_id in (select id from drive where not attached)',
  missing: '(p.missing_since is not null)',
  double: doublesAmong('true'),
  bundled: '(p.bundle is not null)',
  lead: 'p.leads',
  trashed: '(p.trashed_from is not null)',
  removed: 'p.removed',
  damaged: 'p.damaged',
  private: 'p.private',
  sideways: '(p.sideways <> 0)',
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

/** PostgreSQL has no longer words in a tsvector (text search limitations, 12.11); such a one is in no text. */
const MAX_WORD_BYTES = 2046;

/** A pattern of core/text/words: a plain word in its forms and a beginning by index, others by looking at each word. */
function withWord(pattern: string, param: Param): string {
  if (Buffer.byteLength(pattern) > MAX_WORD_BYTES) return 'false';
  if (!hasWildcard(pattern))
    return inWords(
      formsOf(pattern)
        .map((form) => `'${form}'`)
        .join(' | '),
      param,
    );
  if (/^[^*?]+\*$/.test(pattern)) return inWords(`'${pattern.slice(0, -1)}':*`, param);
  // Words are letters and digits only, so nothing but the wildcards has a meaning in LIKE.
  const like = param(pattern.replace(/\*/g, '%').replace(/\?/g, '_'));
  return eitherWords((words) => `exists (select 1 from unnest(tsvector_to_array(${words})) w where w like ${like})`);
}

function inWords(tsquery: string, param: Param): string {
  const value = param(tsquery);
  return eitherWords((words) => `${words} @@ ${value}::tsquery`);
}

/** Words stand in the photo's own texts, or in a label of a term it has or of a broader one. */
function eitherWords(condition: (words: string) => string): string {
  return `p.id in (
    select t.photo_id from photo_text t where ${condition('t.words')}
    union all
    select given.photo_id from term broad join term_above within on within.above_id = broad.id
    join photo_term given on given.term_id = within.term_id where ${condition('broad.words')})`;
}

/** How the tables of trees say that a row (by its alias) is called so. */
const NAMED: Record<'term' | 'dossier', (alias: string, name: string) => string> = {
  term: (alias, name) => `${alias}.labels_folded @> array[${name}]`,
  dossier: (alias, name) => `${alias}.name_folded = ${name}`,
};

/** That a term or dossier (by its alias) is named: by itself, or by a path of names that ends at it. */
function isNamed(table: 'term' | 'dossier', alias: string, name: string, param: Param): string {
  const named = (of: string, text: string) => NAMED[table](of, param(text));
  // With / in front the whole path is meant: above its first step there is nothing.
  const isWhole = table === 'dossier' && name.startsWith('/');
  const [last = '', ...above] = (isWhole ? name.slice(1) : name).split('/').map(foldText).reverse();
  const top = isWhole ? ` and ${above.length === 0 ? alias : `s${above.length}`}.parent_id is null` : '';
  if (above.length === 0) return isWhole ? `(${named(alias, last)}${top})` : named(alias, last);
  const path = above.reduceRight(
    (inner, step, i) =>
      `exists (select 1 from ${table} s${i + 1} where s${i + 1}.id = ${i === 0 ? alias : `s${i}`}.parent_id and ${named(`s${i + 1}`, step)}${inner ? ` and ${inner}` : top})`,
    '',
  );
  const itself = isWhole ? 'false' : named(alias, foldText(name));
  return `(${itself} or (${named(alias, last)} and ${path}))`;
}

function escapeLike(text: string): string {
  return text.replace(/[\\%_]/g, '\\$&');
}

function likePattern(value: string): string {
  return escapeLike(foldText(value)).replace(/\*/g, '%').replace(/\?/g, '_');
}
