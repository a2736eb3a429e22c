// What is read of the calendar.

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { calendarRoutes } from '@stellin/contract/calendar';
import { call } from '../foundation/api';

/** The pages of a year or a month, or all years for ''. */
export function useCalendar(query: string, part: string) {
  return useQuery({
    queryKey: ['photos', 'calendar', query, part],
    queryFn: async () => ({ part, ...(await call(calendarRoutes.showCalendar, { query: { query, part } })) }),
    placeholderData: keepPreviousData,
  });
}

export function useEvents(query: string, part: string) {
  return useQuery({
    queryKey: ['photos', 'events', query, part],
    queryFn: async () => (await call(calendarRoutes.findEvents, { query: { query, part } })).events,
    placeholderData: keepPreviousData,
  });
}
