// The query language: text to query tree and back. docs/search.md describes it for people.
//
//   query   = all { "or" all }
//   all     = part { ["and"] part }
//   part    = "not" part | "(" query ")" | name ":" value | word | '"' phrase '"'
//   value   = [">" | ">=" | "<" | "<=" | "="] text [".." text]
//
// Reading never fails: what can’t be understood is left out and named in `errors` with its place, so half-typed text
// still finds something.

import { criterionOf, type Criterion, type CriterionId, type CriterionType } from '../query/criteria';
import { isDate } from './dates';
import { numberBounds } from './evaluate';
import { likeAsked, photosAsked } from '../lookalikes/asked';
import { areaOf } from '../timeplace/areas';
import { allOf, conjuncts, type Operator, type Query } from '../query/query';
import { patternsOf } from '../text/words';

export interface QueryError {
  /** Where in the text, in UTF-16 units. */
  at: number;
  length: number;
  message: string;
}

export interface ParsedQuery {
  query: Query;
  errors: QueryError[];
}

/** Named where a field that there is not was typed. */
const FIELDS_NAMED: readonly CriterionId[] = ['term', 'person', 'keyword', 'taken', 'rating', 'place', 'is', 'missing'];
const MAX_NESTING = 50;
const MAX_CONDITIONS = 1000;

/** What a text asks for. */
export function parseQuery(text: string): ParsedQuery {
  return new Parser(text).parse();
}

/** The text of a query; reading it gives the same query. */
export function queryText(query: Query): string {
  switch (query.kind) {
    case 'everything':
      return '';
    case 'all':
      return query.of.map((part) => nested(part, part.kind === 'any')).join(' ');
    case 'any':
      return query.of.map((part) => nested(part, part.kind === 'all' || part.kind === 'any')).join(' or ');
    case 'not':
      return `not ${nested(query.of, query.of.kind === 'all' || query.of.kind === 'any')}`;
    case 'words':
      return query.text;
    case 'phrase':
      return quote(query.text);
    case 'criterion': {
      const operator = query.operator === '=' || query.operator === '..' ? '' : query.operator;
      const value = quoteIfNeeded(query.value);
      return `${query.criterion}:${operator}${value}${query.operator === '..' ? `..${quoteIfNeeded(query.to ?? '')}` : ''}`;
    }
  }
}

/** The texts of the parts that must all hold: the tokens of the query line. */
export function tokensOf(text: string): string[] {
  return conjuncts(parseQuery(text).query).map((part) =>
    part.kind === 'any' ? `(${queryText(part)})` : queryText(part),
  );
}

/** A query for the words of a text, whatever else it would mean in the language: of `foo:"bar baz"` foo, bar and baz. */
export function asWords(text: string): string {
  const words = text.split(/[\s():"\\]+/).filter((word) => patternsOf(word).length > 0);
  return words.map((word) => (WORDS_OF_LANGUAGE.has(word.toLowerCase()) ? quote(word) : word)).join(' ');
}

function nested(query: Query, brackets: boolean): string {
  return brackets ? `(${queryText(query)})` : queryText(query);
}

const WORDS_OF_LANGUAGE = new Set(['and', 'or', 'not']);

function quote(text: string): string {
  return `"${text.replace(/["\\]/g, '\\$&')}"`;
}

function quoteIfNeeded(text: string): string {
  const plain = /^[^\s"()\\<>=]+$/.test(text) && !text.includes('..') && !WORDS_OF_LANGUAGE.has(text.toLowerCase());
  return plain ? text : quote(text);
}

class Parser {
  private at = 0;
  private depth = 0;
  private conditions = 0;
  private readonly errors: QueryError[] = [];

  private readonly text: string;

  constructor(text: string) {
    // PostgreSQL has no text with it.
    this.text = text.replaceAll('\0', '');
  }

  parse(): ParsedQuery {
    const parts: Query[] = [];
    while (!this.ended()) {
      parts.push(this.any());
      if (!this.ended()) {
        this.fail(this.at, 1, 'there is a closing bracket without an opening one');
        this.at++;
      }
    }
    return { query: allOf(parts), errors: this.errors };
  }

  private any(): Query {
    const of: Query[] = [];
    do of.push(this.all());
    while (this.keyword('or'));
    const parts = of.filter((part) => part.kind !== 'everything');
    const [only] = parts;
    if (!only) return { kind: 'everything' };
    return parts.length === 1
      ? only
      : { kind: 'any', of: parts.flatMap((part) => (part.kind === 'any' ? part.of : [part])) };
  }

  private all(): Query {
    const of: Query[] = [];
    for (;;) {
      while (this.keyword('and'));
      if (this.at >= this.text.length || this.text[this.at] === ')' || this.peeks('or')) break;
      of.push(this.part());
    }
    return allOf(of);
  }

  private part(): Query {
    if (++this.depth > MAX_NESTING) {
      this.fail(this.at, 1, `nothing may be nested deeper than ${MAX_NESTING} levels`);
      this.at = this.text.length;
      this.depth--;
      return { kind: 'everything' };
    }
    const part = this.keyword('not') ? this.not() : this.text[this.at] === '(' ? this.brackets() : this.leaf();
    this.depth--;
    return part;
  }

  private not(): Query {
    this.space();
    const start = this.at;
    if (start >= this.text.length || this.text[start] === ')') {
      this.fail(start, 1, 'after “not” something has to follow that should not be so');
      return { kind: 'everything' };
    }
    const of = this.part();
    return of.kind === 'everything' ? of : of.kind === 'not' ? of.of : { kind: 'not', of };
  }

  private brackets(): Query {
    const start = this.at++;
    const inside = this.any();
    this.space();
    if (this.text[this.at] === ')') this.at++;
    else this.fail(start, 1, 'this bracket is never closed');
    return inside;
  }

  private leaf(): Query {
    const start = this.at;
    if (++this.conditions > MAX_CONDITIONS) {
      this.fail(start, 1, `a query has at most ${MAX_CONDITIONS} conditions; what comes after is left out`);
      this.at = this.text.length;
      return { kind: 'everything' };
    }
    if (this.text[start] === '"') {
      const text = this.quoted().trim();
      return text === '' ? { kind: 'everything' } : { kind: 'phrase', text };
    }
    const name = /^([\p{L}]+):/u.exec(this.text.slice(start))?.[1];
    const found = name ? criterionOf(name) : undefined;
    if (name && found) {
      this.at += name.length + 1;
      return this.criterion(found, start);
    }
    const word = this.bare(/[\s()"]/);
    if (WORDS_OF_LANGUAGE.has(word.toLowerCase())) {
      this.fail(start, word.length, `“${word}” stands where something to find is expected`);
      return { kind: 'everything' };
    }
    if (name) {
      this.fail(
        start,
        name.length,
        `there is no field “${name}”; a field is expected here such as ${listed(FIELDS_NAMED, 'or')}`,
      );
      return { kind: 'everything' };
    }
    return patternsOf(word).length ? { kind: 'words', text: word } : { kind: 'everything' };
  }

  private criterion(of: Criterion, start: number): Query {
    const operator = (/^(>=|<=|>|<|=)/.exec(this.text.slice(this.at))?.[0] ?? '') as Operator | '';
    this.at += operator.length;
    const value = this.value();
    const query: Query = { kind: 'criterion', criterion: of.id, operator: operator || '=', value };
    if (operator === '' && this.text.startsWith('..', this.at)) {
      this.at += 2;
      query.operator = '..';
      query.to = this.value();
    }
    const problem = problemOf(of, query);
    if (!problem) return query;
    this.fail(start, this.at - start, problem);
    return { kind: 'everything' };
  }

  private value(): string {
    return this.text[this.at] === '"' ? this.quoted() : this.bare(/[\s()"]|\.\./);
  }

  private bare(end: RegExp): string {
    const rest = this.text.slice(this.at);
    const stop = rest.search(end);
    const text = stop < 0 ? rest : rest.slice(0, stop);
    this.at += text.length;
    return text;
  }

  private quoted(): string {
    const start = this.at++;
    let text = '';
    while (this.at < this.text.length && this.text[this.at] !== '"') {
      if (this.text[this.at] === '\\' && this.at + 1 < this.text.length) this.at++;
      text += this.text[this.at++] ?? '';
    }
    if (this.at >= this.text.length) this.fail(start, 1, 'this quotation mark is never closed');
    this.at++;
    return text;
  }

  private peeks(word: string): boolean {
    const rest = this.text.slice(this.at, this.at + word.length + 1).toLowerCase();
    return rest.startsWith(word) && (rest.length === word.length || /[\s()"]/.test(rest.slice(-1)));
  }

  private keyword(word: string): boolean {
    this.space();
    if (!this.peeks(word)) return false;
    this.at += word.length;
    return true;
  }

  private space(): void {
    while (/\s/.test(this.text[this.at] ?? '')) this.at++;
  }

  private ended(): boolean {
    this.space();
    return this.at >= this.text.length;
  }

  private fail(at: number, length: number, message: string): void {
    this.errors.push({ at, length, message });
  }
}

/** Of each type of criterion: what is wrong with its values, in words, if anything. */
const PROBLEMS: Partial<
  Record<CriterionType, (criterion: Criterion, values: readonly string[], query: Asked) => string | undefined>
> = {
  number: (criterion, _, query) =>
    numberBounds({ ...query, criterion: criterion.id })
      ? undefined
      : `“${criterion.id}” takes a number${criterion.units ? ` in ${listed(Object.keys(criterion.units), 'or')}` : ''}, like ${criterion.example}`,
  date: ({ id, example }, values) =>
    values.every(isDate)
      ? undefined
      : `“${id}” takes a date, like ${example}, ${id}:2018..2019, ${id}:193X or ${id}:"last 7 days"`,
  area: ({ id, example }, [value = '']) =>
    areaOf(value)
      ? undefined
      : `“${id}” takes latitude, longitude and radius, or the four sides of a box, or corners, like ${example}`,
  likeness: ({ id, example }, [value = '']) =>
    likeAsked(value) ? undefined : `“${id}” takes the number of a photo, and strict or loose, like ${example}`,
  photos: ({ id, example }, [value = '']) =>
    photosAsked(value) ? undefined : `“${id}” takes the numbers of photos, like ${example}`,
  choice: notOneOf,
  state: notOneOf,
  presence: notOneOf,
};

type Asked = { operator: Operator; value: string; to?: string };

function notOneOf({ id, choices = [] }: Criterion, values: readonly string[]): string | undefined {
  const known = (text: string) => choices.some((choice) => choice.toLowerCase() === text.toLowerCase());
  return values.every(known) ? undefined : `“${id}” takes one of ${listed(choices.slice(0, 24), 'or')}`;
}

function listed(words: readonly string[], last: string): string {
  return words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} ${last} ${words.at(-1) ?? ''}`;
}

/** What is wrong with a criterion's value, in words, if anything. */
function problemOf(criterion: Criterion, query: Asked): string | undefined {
  const values = query.to === undefined ? [query.value] : [query.value, query.to];
  if (values.includes('')) return `after “${criterion.id}:” a value is missing, like ${criterion.example}`;
  const problem = PROBLEMS[criterion.type]?.(criterion, values, query);
  if (problem) return problem;
  if (query.operator !== '=' && criterion.type !== 'number' && criterion.type !== 'date')
    return `“${criterion.id}” can’t be compared, only named, like ${criterion.example}`;
  return undefined;
}
