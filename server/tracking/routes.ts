import type { FastifyInstance } from 'fastify';
import { trackingRoutes } from '@stellin/contract/tracking';
import { serve } from '../serve';
import type { Tracking } from './service';

export function trackingRoutesFor(app: FastifyInstance, tracking: Tracking): void {
  serve(app, trackingRoutes.listTracked, async () => ({ folders: await tracking.list() }));
  serve(app, trackingRoutes.track, async ({ body, person }) => {
    await tracking.track(body, person.id);
    return { done: true as const };
  });
  serve(app, trackingRoutes.untrack, async ({ params }) => {
    await tracking.untrack(params.id);
    return { done: true as const };
  });
}
