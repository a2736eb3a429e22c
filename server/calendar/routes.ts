// The routes of the calendar.

import type { FastifyInstance } from 'fastify';
import { calendarRoutes } from '@stellin/contract/calendar';
import { serve } from '../serve';
import type { Calendar } from './service';

export function calendarRoutesFor(app: FastifyInstance, calendar: Calendar): void {
  serve(app, calendarRoutes.showCalendar, ({ query, person }) => calendar.show(person, query.query, query.part));
  serve(app, calendarRoutes.findEvents, async ({ query, person }) => ({
    events: await calendar.events(person, query.query, query.part),
  }));
}
