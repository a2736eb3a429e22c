// The routes of onlookers.

import type { FastifyInstance } from 'fastify';
import { onlookerRoutes } from '@stellin/contract/onlookers';
import type { Database } from '../database/database';
import { serve } from '../serve';
import * as store from './store';

export function onlookerRoutesFor(app: FastifyInstance, { database }: { database: Database }): void {
  serve(app, onlookerRoutes.lookAt, async ({ body: { photoIds, doing }, person, request: { sessionId } }) => {
    const looking = { accountId: person.accountId, photoIds, doing };
    if (sessionId !== null && (await store.noteLooking(database, { ...looking, sessionId })))
      await database.notify(['onlookers']);
    return { done: true as const };
  });
  serve(app, onlookerRoutes.listOnlookers, async ({ person }) => ({
    onlookers: await store.listOnlookers(database, person),
  }));
}
