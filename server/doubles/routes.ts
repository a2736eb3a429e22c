// The routes of doubles.

import type { FastifyInstance } from 'fastify';
import { doubleRoutes } from '@stellin/contract/doubles';
import { serve } from '../serve';
import type { Doubles } from './service';

export function doublesRoutes(app: FastifyInstance, doubles: Doubles): void {
  serve(app, doubleRoutes.listDoubles, ({ query, person }) => doubles.list(person, query));
  serve(app, doubleRoutes.countDoubles, ({ person }) => doubles.count(person));
}
