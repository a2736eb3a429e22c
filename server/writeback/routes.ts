// The routes of write-back.

import type { FastifyInstance } from 'fastify';
import { writeBackRoutes } from '@stellin/contract/writeback';
import { requireSeen } from '../catalogue/seen';
import type { Database } from '../database/database';
import type { Drives } from '../drives/service';
import type { FileWriter } from '../files/writer';
import type { Jobs } from '../jobs/service';
import { serve } from '../serve';
import type { Search } from '../search/service';
import type { WriteBack } from './service';

interface Parts {
  database: Database;
  jobs: Jobs;
  drives: Drives;
  writer: FileWriter;
  search: Search;
}

export function writeBackRoutesFor(
  app: FastifyInstance,
  writeBack: WriteBack,
  { database, jobs, drives, writer, search }: Parts,
): void {
  serve(app, writeBackRoutes.showPolicies, () => writeBack.policies());
  serve(app, writeBackRoutes.savePolicies, ({ body }) => writeBack.savePolicies(body));
  serve(app, writeBackRoutes.previewWrite, async ({ params, person }) => {
    await requireSeen(database, person, params.id);
    return writeBack.preview(params.id, drives, writer);
  });
  serve(app, writeBackRoutes.listConflicts, async () => ({ fields: await writeBack.conflicts() }));
  serve(app, writeBackRoutes.overview, async ({ person }) => ({ drives: await writeBack.overview(person) }));
  serve(app, writeBackRoutes.listPending, ({ query }) => writeBack.listPending(query));
  serve(app, writeBackRoutes.listVersions, async ({ params, person }) => {
    await requireSeen(database, person, params.id);
    return { versions: await writeBack.listVersions(params.id) };
  });
  // A selection may name saved searches, which the jobs know nothing of.
  serve(app, writeBackRoutes.takeBack, async ({ body, person }) =>
    writeBack.takeBack(jobs, await search.seenBy(person).settled(body.selection), person.id),
  );
  serve(app, writeBackRoutes.run, async ({ body: { selection, ...asked }, person }) => {
    const chosen = selection && { selection: await search.seenBy(person).settled(selection) };
    return writeBack.run(jobs, { ...asked, ...chosen }, person.id);
  });
}
