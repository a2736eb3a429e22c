// The routes of backups.

import type { FastifyInstance } from 'fastify';
import { backupRoutes } from '@stellin/contract/backup';
import { serve } from '../serve';
import type { Backups } from './service';

export function backupRoutesFor(app: FastifyInstance, backups: Backups): void {
  serve(app, backupRoutes.showBackupState, () => backups.state());
  serve(app, backupRoutes.listBackups, () => backups.list());
  serve(app, backupRoutes.backUp, ({ person }) => backups.start(person.id));
  serve(app, backupRoutes.planBackups, async ({ body }) => {
    await backups.settlePlan(body);
    return { done: true as const };
  });
  serve(app, backupRoutes.checkBackup, ({ params, person }) => backups.check(params.id, person.id));
}
