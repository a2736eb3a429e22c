// The routes of the ledger: changes, undo and redo, what entries changed.

import type { FastifyInstance } from 'fastify';
import { CHANGE_ACCESS, ledgerRoutes, type ChangeKind } from '@stellin/contract/ledger';
import { mayDo, type Role } from '@stellin/contract/route';
import { StellinError } from '../errors';
import { serve } from '../serve';
import type { LargeChanges } from './large';
import type { Ledger } from './service';

/** Whether a role may make changes of a kind, and take them back. Of kinds that are no more only keepers do. */
function mayChange(role: Role, kind: string): boolean {
  const access: Role | undefined = CHANGE_ACCESS[kind as ChangeKind];
  return mayDo(role, access ?? 'keeper');
}

export function ledgerRoutesFor(app: FastifyInstance, ledger: Ledger, large: LargeChanges): void {
  serve(app, ledgerRoutes.apply, async ({ body, person }) => {
    if (!mayChange(person.role, body.change.kind)) throw new StellinError('keepersOnly');
    return large.apply(body.change, person.id);
  });
  serve(app, ledgerRoutes.nextSteps, ({ person }) => ledger.nextSteps(person.id));
  serve(app, ledgerRoutes.undo, ({ person }) => large.undo(person.id));
  serve(app, ledgerRoutes.redo, ({ person }) => large.redo(person.id));
  serve(app, ledgerRoutes.listEntries, async ({ query }) => ({ entries: await ledger.list(query) }));
  serve(app, ledgerRoutes.showEntry, async ({ params, query, person }) => {
    const { kind, step, later, laterCount } = await ledger.standing(params.id);
    const changes = await ledger.changesOf(params.id, query.photoId);
    const may = mayDo(person.role, 'cataloguer') && mayChange(person.role, kind);
    return { ...changes, standing: { step: may ? step : null, later, laterCount } };
  });
  const reversing = async (step: 'undo' | 'redo', id: number, person: { id: number; role: Role }) => {
    const { kind } = await ledger.find(id);
    if (!mayChange(person.role, kind)) throw new StellinError('keepersOnly');
    return large.reverse(id, step, person.id);
  };
  serve(app, ledgerRoutes.takeBackEntry, ({ params, person }) => reversing('undo', params.id, person));
  serve(app, ledgerRoutes.repeatEntry, ({ params, person }) => reversing('redo', params.id, person));
}
