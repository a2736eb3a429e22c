// The routes of describing.

import type { FastifyInstance } from 'fastify';
import { describingRoutes } from '@stellin/contract/describing';
import { serve } from '../serve';
import type { Describing } from './service';

export function describingRoutesFor(app: FastifyInstance, describing: Describing): void {
  serve(app, describingRoutes.showPrepared, ({ person }) => describing.prepared(person));
  serve(app, describingRoutes.showTemplateVersions, async ({ params, person }) => ({
    versions: await describing.templateVersions(params.id, person.accountId),
  }));
  serve(app, describingRoutes.check, ({ body, person }) => describing.check(person, body.selection));
  serve(app, describingRoutes.agreement, ({ body, person }) => describing.agreement(person, body.selection));
  serve(app, describingRoutes.previewDescription, ({ body, person }) => describing.preview(body, person));
}
