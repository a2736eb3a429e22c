// The routes of copying in.

import type { FastifyInstance } from 'fastify';
import { copyingRoutes } from '@stellin/contract/copying';
import { serve } from '../serve';
import type { CopyingIn } from './service';

export function copyingRoutesFor(app: FastifyInstance, copying: CopyingIn): void {
  serve(app, copyingRoutes.planCopy, ({ body }) => copying.plan(body));
  serve(app, copyingRoutes.copyIn, ({ body, person }) => copying.start(body, person.id));
  serve(app, copyingRoutes.proveSource, ({ body, person }) => copying.prove(body.jobId, person.id));
  serve(app, copyingRoutes.emptySource, ({ body, person }) => copying.empty(body.jobId, person.id));
}
