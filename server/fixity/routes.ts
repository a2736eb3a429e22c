// The routes of what files should hold.

import type { FastifyInstance } from 'fastify';
import { fixityRoutes } from '@stellin/contract/fixity';
import { serve } from '../serve';
import type { Fixity } from './service';

export function fixityRoutesFor(app: FastifyInstance, fixity: Fixity): void {
  serve(app, fixityRoutes.showFixity, ({ person }) => fixity.show(person));
  serve(app, fixityRoutes.listDamagedFiles, async ({ person }) => ({ files: await fixity.listDamaged(person) }));
  serve(app, fixityRoutes.planFixity, async ({ body }) => {
    await fixity.settlePlan(body);
    return { done: true as const };
  });
  serve(app, fixityRoutes.readDriveAgain, ({ params, person }) => fixity.readDrive(params.id, person.id));
  serve(app, fixityRoutes.acceptFile, async ({ params }) => {
    await fixity.accept(params.id);
    return { done: true as const };
  });
}
