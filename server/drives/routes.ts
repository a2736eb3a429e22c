// The routes of drives and folders.

import type { FastifyInstance } from 'fastify';
import { driveRoutes } from '@stellin/contract/drives';
import { serve } from '../serve';
import type { Drives } from './service';

export function drivesRoutes(app: FastifyInstance, drives: Drives): void {
  serve(app, driveRoutes.listDrives, async ({ person }) => ({ drives: await drives.list(person) }));
  serve(app, driveRoutes.listFolders, async ({ person }) => ({ folders: await drives.listFolders(person) }));
  serve(app, driveRoutes.changeDrive, async ({ params, body }) => {
    await drives.change(params.id, body);
    return { done: true as const };
  });
  serve(app, driveRoutes.separateDrive, async ({ body }) => {
    await drives.separate(body.mountPoint);
    return { done: true as const };
  });
  serve(app, driveRoutes.addPlace, async ({ body }) => {
    await drives.addPlace(body.path);
    return { done: true as const };
  });
}
