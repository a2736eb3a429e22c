import type { FastifyInstance } from 'fastify';
import { KEEPER_CHANGES, ledgerRoutes } from '@stellin/contract/ledger';
import { mayDo } from '@stellin/contract/route';
import { StellinError } from '../errors';
import { serve } from '../serve';
import type { LargeChanges } from './large';
import type { Ledger } from './service';

export function ledgerRoutesFor(app: FastifyInstance, ledger: Ledger, large: LargeChanges): void {
  serve(app, ledgerRoutes.apply, async ({ body, person }) => {
    if (KEEPER_CHANGES.has(body.change.kind) && !mayDo(person.role, 'keeper')) throw new StellinError('keepersOnly');
    return large.apply(body.change, person.id);
  });
  serve(app, ledgerRoutes.nextSteps, ({ person }) => ledger.nextSteps(person.id));
  serve(app, ledgerRoutes.undo, ({ person }) => large.undo(person.id));
  serve(app, ledgerRoutes.redo, ({ person }) => large.redo(person.id));
  serve(app, ledgerRoutes.listEntries, async ({ query }) => ({ entries: await ledger.list(query) }));
  serve(app, ledgerRoutes.showEntry, async ({ params }) => ({ photos: await ledger.photosOf(params.id) }));
}
