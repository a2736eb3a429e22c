// Dates and times as people read them.

import { format, parseISO } from 'date-fns';

/** A moment, to the minute, where the reader is. */
export function dateTimeText(iso: string): string {
  return format(parseISO(iso), 'd MMM yyyy, HH:mm');
}

/** A day that is given as `2019-06-15`, as `Saturday 15 June 2019`. */
export function dayText(day: string): string {
  return format(parseISO(day), 'EEEE d MMMM yyyy');
}

/** The day of a moment or date, as `15 Jun 2019`. */
export function shortDayText(day: string): string {
  return format(parseISO(day), 'd MMM yyyy');
}

/** Today, as `2019-06-15`. */
export function today(): string {
  return format(new Date(), 'yyyy-MM-dd');
}
