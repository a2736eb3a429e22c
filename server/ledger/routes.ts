import type { FastifyInstance } from 'fastify';
import { ledgerRoutes } from '@stellin/contract/ledger';
import { mayDo } from '@stellin/contract/route';
import { KEEPER_CHANGES } from '@stellin/contract/termChanges';
import { StellinError } from '../errors';
import { serve } from '../serve';
import type { Ledger } from './service';

export function ledgerRoutesFor(app: FastifyInstance, ledger: Ledger): void {
  serve(app, ledgerRoutes.apply, async ({ body, person }) => {
    if (KEEPER_CHANGES.has(body.change.kind) && !mayDo(person.role, 'keeper')) throw new StellinError('keepersOnly');
    return { entry: await ledger.apply(body.change, person.id) };
  });
  serve(app, ledgerRoutes.nextSteps, ({ person }) => ledger.nextSteps(person.id));
  serve(app, ledgerRoutes.undo, async ({ person }) => ({ entry: await ledger.undo(person.id) }));
  serve(app, ledgerRoutes.redo, async ({ person }) => ({ entry: await ledger.redo(person.id) }));
  serve(app, ledgerRoutes.listEntries, async ({ query }) => ({ entries: await ledger.list(query) }));
  serve(app, ledgerRoutes.showEntry, async ({ params }) => ({ photos: await ledger.photosOf(params.id) }));
}
