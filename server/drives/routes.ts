import type { FastifyInstance } from 'fastify';
import { driveRoutes } from '@stellin/contract/drives';
import { serve } from '../serve';
import { attach, detach, listBay, SLOTS } from './bay';
import type { Drives } from './service';
import { touch } from './touching';

export function drivesRoutes(app: FastifyInstance, drives: Drives, home: string): void {
  serve(app, driveRoutes.listDrives, async () => ({ drives: await drives.list() }));
  serve(app, driveRoutes.listFolders, async () => ({ folders: await drives.listFolders() }));
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
  serve(app, driveRoutes.listBay, async () => ({ drives: await listBay(home), slots: SLOTS }));
  serve(app, driveRoutes.attach, async ({ body }) => {
    const drive = await attach(home, body.name, body.slot);
    await drives.refresh();
    return drive;
  });
  serve(app, driveRoutes.touch, async ({ body }) => ({ files: await touch(home, body.name, body.count) }));
  serve(app, driveRoutes.detach, async ({ body }) => {
    const drive = await detach(home, body.name);
    await drives.refresh();
    return drive;
  });
}
