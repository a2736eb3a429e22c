// The routes of work lists.

import type { FastifyInstance } from 'fastify';
import { workListRoutes } from '@stellin/contract/workLists';
import { serve } from '../serve';
import type { WorkLists } from './service';

export function workListsRoutes(app: FastifyInstance, lists: WorkLists): void {
  serve(app, workListRoutes.showWorkLists, async ({ query, person }) => ({
    lists: await lists.lists(person, query.query),
  }));
  serve(app, workListRoutes.showThingLists, async ({ person }) => ({ lists: await lists.things(person) }));
  serve(app, workListRoutes.walkList, ({ query, person }) => lists.walk(person, query));
  serve(app, workListRoutes.settleListed, async ({ body, person }) => {
    await lists.settle(person, body);
    return { done: true as const };
  });
  serve(app, workListRoutes.showGiven, ({ person }) => lists.given(person));
  serve(app, workListRoutes.listWorkers, async () => ({ people: await lists.workers() }));
  serve(app, workListRoutes.giveList, async ({ body, person }) => {
    await lists.give(person, body);
    return { done: true as const };
  });
  serve(app, workListRoutes.endGiven, async ({ params, body, person }) => {
    await lists.end(person, params.id, body.as);
    return { done: true as const };
  });
}
