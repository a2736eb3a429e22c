// The routes of moving, copying, renaming and trashing files.

import type { FastifyInstance } from 'fastify';
import { filingRoutes } from '@stellin/contract/filing';
import { serve } from '../serve';
import type { Filing } from './service';

export function filingRoutesFor(app: FastifyInstance, filing: Filing): void {
  serve(app, filingRoutes.planFiling, ({ body }) => filing.plan(body));
  serve(app, filingRoutes.showFolder, ({ params }) => filing.contents(params.id));
  serve(app, filingRoutes.listTrash, () => filing.listTrash());
  serve(app, filingRoutes.emptyTrash, ({ body, person }) => filing.emptyTrash(body.driveId, person.id));
}
