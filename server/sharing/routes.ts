// The routes of view links for who makes them.

import type { FastifyInstance } from 'fastify';
import { sharingRoutes } from '@stellin/contract/sharing';
import { serve } from '../serve';
import type { ViewLinks } from './service';

export function sharingRoutesFor(app: FastifyInstance, links: ViewLinks): void {
  serve(app, sharingRoutes.listLinks, async ({ person }) => ({ links: await links.list(person) }));
  serve(app, sharingRoutes.makeLink, ({ body, person }) => links.make(body, person), { records: 'madeLink' });
  serve(app, sharingRoutes.renewLink, ({ params, person }) => links.renew(params.id, person));
  serve(app, sharingRoutes.listAnswers, async ({ person }) => ({ answers: await links.answers(person) }));
  serve(app, sharingRoutes.settleAnswers, async ({ body, person }) => {
    await links.settle(body.ids, body.accepted, person);
    return { done: true as const };
  });
  serve(
    app,
    sharingRoutes.revokeLinks,
    async ({ body, person }) => {
      await links.revoke(body.ids, person);
      return { done: true as const };
    },
    { records: 'revokedLink' },
  );
}
