// Dates as tables have them: in whatever order of day, month and year a country writes them, brought into that of metadata.

import { dateTimeParts } from '../metadata/dateTime';

export const DATE_ORDERS = {
  yearFirst: '2024-06-01: year first',
  dayFirst: '1.6.2024: day first',
  monthFirst: '6/1/2024: month first',
} as const satisfies Record<string, string>;
export type DateOrder = keyof typeof DATE_ORDERS;
export const DATE_ORDER_IDS = Object.keys(DATE_ORDERS) as [DateOrder, ...DateOrder[]];

const MARK = '[.:/ -]';
const TIME = '(?:[T, ]+(\\d{1,2})[:.](\\d{2})(?:[:.](\\d{2}))?)?';
const YEAR_FIRST = new RegExp(`^(\\d{4})(?:${MARK}(\\d{1,2})(?:${MARK}(\\d{1,2})${TIME})?)?$`);
const YEAR_LAST = new RegExp(`^(?:(?:(\\d{1,2})${MARK}\\s?)?(\\d{1,2})${MARK}\\s?)?(\\d{4})${TIME}$`);
const COMPACT = /^(\d{4})(\d{2})(\d{2})$/;

/** A date as metadata has it (ISO 8601, as precise as it was); undefined for what is none in this order. Dates whose year comes first are read in any. */
export function dateText(text: string, order: DateOrder): string | undefined {
  const trimmed = text.trim();
  if (dateTimeParts(trimmed)) return trimmed;
  const first = COMPACT.exec(trimmed) ?? YEAR_FIRST.exec(trimmed);
  if (first) {
    const [, year = '', month, day, ...time] = first;
    return joined(year, month, day, time);
  }
  const last = order === 'yearFirst' ? null : YEAR_LAST.exec(trimmed);
  if (!last) return undefined;
  const [, one, two, year = '', ...time] = last;
  // Of a month and a year there is no order.
  if (one === undefined) return joined(year, two, undefined, time);
  return order === 'dayFirst' ? joined(year, two, one, time) : joined(year, one, two, time);
}

function joined(
  year: string,
  month: string | undefined,
  day: string | undefined,
  [hour, minute, second]: readonly (string | undefined)[],
): string | undefined {
  const two = (part: string) => part.padStart(2, '0');
  const date = [year, ...[month, day].flatMap((part) => (part === undefined ? [] : [two(part)]))].join('-');
  if (hour !== undefined && day === undefined) return undefined;
  const time = hour === undefined ? '' : `T${two(hour)}:${minute ?? '00'}:${second ?? '00'}`;
  return dateTimeParts(date + time) ? date + time : undefined;
}

/** The order in which most of some texts are dates; of orders that do equally well the first of the table. */
export function recogniseDateOrder(texts: readonly string[]): DateOrder {
  const worth = (order: DateOrder) => texts.filter((text) => dateText(text, order) !== undefined).length;
  return DATE_ORDER_IDS.reduce((best, order) => (worth(order) > worth(best) ? order : best));
}
