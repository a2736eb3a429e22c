// The routes of stepping and pinned places.

import type { FastifyInstance } from 'fastify';
import { steppingRoutes } from '@stellin/contract/stepping';
import { serve } from '../serve';
import type { Stepping } from './service';

export function steppingRoutesFor(app: FastifyInstance, stepping: Stepping): void {
  serve(app, steppingRoutes.step, async ({ query, person }) => ({ to: await stepping.step(person, query) }));
  serve(app, steppingRoutes.listPinned, async ({ person }) => ({ pinned: await stepping.pinned(person.accountId) }));
  serve(app, steppingRoutes.setPinned, async ({ body, person }) => {
    await stepping.setPinned(person.accountId, body.pinned);
    return { done: true as const };
  });
}
