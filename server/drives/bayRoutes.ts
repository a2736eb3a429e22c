// The routes of the drive bay, which only the demo has.

import type { FastifyInstance } from 'fastify';
import { bayRoutes } from '@stellin/contract/drives';
import { serve } from '../serve';
import { attach, detach, listBay, SLOTS } from './bay';
import type { Drives } from './service';
import { touch } from './touching';

export function bayRoutesFor(app: FastifyInstance, drives: Drives, home: string): void {
  serve(app, bayRoutes.listBay, async () => ({ drives: await listBay(home), slots: SLOTS }));
  serve(app, bayRoutes.attach, async ({ body }) => {
    const drive = await attach(home, body.name, body.slot);
    await drives.refresh();
    return drive;
  });
  serve(app, bayRoutes.touch, async ({ body }) => ({ files: await touch(home, body.name, body.count) }));
  serve(app, bayRoutes.detach, async ({ body }) => {
    const drive = await detach(home, body.name);
    await drives.refresh();
    return drive;
  });
}
