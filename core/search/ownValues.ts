// Comparing what own fields of a project say: `own:"Insurance value: >=500"`, `own:"Opens: 2019-05..2020"`. By their form numbers
// compare as numbers and dates as dates; what is neither is met by no comparison.

import { DATE_VALUE, NUMBER_VALUE } from '../describing/ownFields';
import { matcherOf } from '../text/words';

export type OwnOperator = '<' | '<=' | '>' | '>=';

/** What is asked of the values of an own field. */
export interface OwnComparison {
  /** The pattern of its name, folded. */
  name: string;
  /** All of them hold. */
  limits: readonly { operator: OwnOperator; value: string }[];
}

/** Which days compare: a year is as long as its days, and what overlaps is met, as everywhere with dates. */
export const COMPARED_DAYS: Readonly<Record<OwnOperator, { value: 'first' | 'last'; limit: 'first' | 'last' }>> = {
  '<': { value: 'first', limit: 'first' },
  '<=': { value: 'first', limit: 'last' },
  '>': { value: 'last', limit: 'last' },
  '>=': { value: 'last', limit: 'first' },
};

/** What a folded pattern compares; undefined where it is a text to be met. */
export function ownComparison(pattern: string): OwnComparison | undefined {
  const found = /^(.*?): *(?:(<=|>=|<|>) *(\S+)|(\S+?)\.\.(\S+))$/.exec(pattern);
  if (!found) return undefined;
  const [, name = '', operator, value = '', from = '', to = ''] = found;
  const limits: OwnComparison['limits'] = operator
    ? [{ operator: operator as OwnOperator, value }]
    : [
        { operator: '>=', value: from },
        { operator: '<=', value: to },
      ];
  return limits.every((limit) => isNumber(limit.value) || isDateText(limit.value)) ? { name, limits } : undefined;
}

/** The test of folded texts `name: value` that a folded pattern stands for. */
export function ownMatcherOf(pattern: string): (text: string) => boolean {
  const comparison = ownComparison(pattern);
  if (!comparison) return matcherOf(pattern);
  const isNamed = matcherOf(comparison.name);
  return (text) => {
    const [, name = '', value = ''] = /^(.*): (\S+)$/.exec(text) ?? [];
    return value !== '' && isNamed(name) && comparison.limits.every((limit) => holds(value, limit));
  };
}

function holds(value: string, { operator, value: limit }: OwnComparison['limits'][number]): boolean {
  if (isNumber(value) && isNumber(limit)) return COMPARES[operator](Number(value), Number(limit));
  if (!isDateText(value) || !isDateText(limit)) return false;
  const days = COMPARED_DAYS[operator];
  return COMPARES[operator](dayOf(value, days.value), dayOf(limit, days.limit));
}

const COMPARES: Readonly<Record<OwnOperator, <Value extends number | string>(a: Value, b: Value) => boolean>> = {
  '<': (a, b) => a < b,
  '<=': (a, b) => a <= b,
  '>': (a, b) => a > b,
  '>=': (a, b) => a >= b,
};

export function isNumber(text: string): boolean {
  return NUMBER_VALUE.test(text);
}

/** Whether a text is written as a date; whether the calendar has that day is not asked, so that statements of SQL can tell the same. */
export function isDateText(text: string): boolean {
  return DATE_VALUE.test(text);
}

/** What makes a day of a year or a month: the rest of these, from where it ends. */
export const REST_OF_DAY = { first: '-01-01', last: '-12-31' } as const;

/** The first or last day of a year, month or day, as texts that sort as days do. */
export function dayOf(date: string, which: 'first' | 'last'): string {
  return date + REST_OF_DAY[which].slice(date.length - 4);
}
