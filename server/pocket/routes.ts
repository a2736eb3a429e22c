// The routes of pockets.

import type { FastifyInstance } from 'fastify';
import { pocketRoutes } from '@stellin/contract/pocket';
import { serve } from '../serve';
import type { Pocket } from './service';

export function pocketRoutesFor(app: FastifyInstance, pocket: Pocket): void {
  serve(app, pocketRoutes.showPocket, ({ person }) => pocket.show(person));
  serve(app, pocketRoutes.changePocket, async ({ body, person }) => {
    await pocket.change(person, body.selection, body.way);
    return { done: true as const };
  });
  serve(app, pocketRoutes.emptyPocket, async ({ person }) => {
    await pocket.empty(person);
    return { done: true as const };
  });
}
