import type { FastifyInstance } from 'fastify';
import { writeBackRoutes } from '@stellin/contract/writeback';
import type { Jobs } from '../jobs/service';
import { serve } from '../serve';
import type { WriteBack } from './service';

export function writeBackRoutesFor(app: FastifyInstance, writeBack: WriteBack, jobs: Jobs): void {
  serve(app, writeBackRoutes.overview, async () => ({ drives: await writeBack.overview() }));
  serve(app, writeBackRoutes.listPending, ({ query }) => writeBack.listPending(query));
  serve(app, writeBackRoutes.listVersions, async ({ params }) => ({
    versions: await writeBack.listVersions(params.id),
  }));
  serve(app, writeBackRoutes.takeBack, ({ body, person }) => writeBack.takeBack(jobs, body.selection, person.id));
  serve(app, writeBackRoutes.run, ({ body, person }) => writeBack.run(jobs, body, person.id));
}
