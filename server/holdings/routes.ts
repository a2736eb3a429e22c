// The routes of holdings.

import type { FastifyInstance } from 'fastify';
import { holdingRoutes } from '@stellin/contract/holdings';
import { serve } from '../serve';
import type { Holdings } from './service';

export function holdingsRoutes(app: FastifyInstance, holdings: Holdings): void {
  serve(app, holdingRoutes.showFigures, ({ query, person }) => holdings.figures(person, query.query));
  serve(app, holdingRoutes.noteVisit, ({ person }) => holdings.sinceLast(person));
  serve(app, holdingRoutes.showWork, async ({ query }) => ({ weeks: await holdings.work(query.since) }));
}
