import type { FastifyInstance } from 'fastify';
import { ledgerRoutes } from '@stellin/contract/ledger';
import { serve } from '../serve';
import type { Ledger } from './service';

export function ledgerRoutesFor(app: FastifyInstance, ledger: Ledger): void {
  serve(app, ledgerRoutes.apply, async ({ body, person }) => ({ entry: await ledger.apply(body.change, person.id) }));
  serve(app, ledgerRoutes.nextSteps, ({ person }) => ledger.nextSteps(person.id));
  serve(app, ledgerRoutes.undo, async ({ person }) => ({ entry: await ledger.undo(person.id) }));
  serve(app, ledgerRoutes.redo, async ({ person }) => ({ entry: await ledger.redo(person.id) }));
  serve(app, ledgerRoutes.listEntries, async ({ query }) => ({ entries: await ledger.list(query) }));
  serve(app, ledgerRoutes.showEntry, async ({ params }) => ({ photos: await ledger.photosOf(params.id) }));
}
