// The routes of look-alikes.

import type { FastifyInstance } from 'fastify';
import { lookalikeRoutes } from '@stellin/contract/lookalikes';
import { serve } from '../serve';
import type { Lookalikes } from './service';

export function lookalikeRoutesFor(app: FastifyInstance, lookalikes: Lookalikes): void {
  serve(app, lookalikeRoutes.findBursts, ({ body, person }) => lookalikes.bursts(body.photoIds, person));
}
