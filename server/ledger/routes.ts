// The routes of the ledger: changes, undo and redo, what entries changed.

import type { FastifyInstance } from 'fastify';
import { ledgerRoutes, mayChange } from '@stellin/contract/ledger';
import type { Person } from '../catalogue/viewer';
import { serve } from '../serve';
import type { LargeChanges } from './large';
import { refusal } from './reach';
import type { Ledger } from './service';

export function ledgerRoutesFor(app: FastifyInstance, ledger: Ledger, large: LargeChanges): void {
  serve(app, ledgerRoutes.apply, async ({ body, person }) => {
    if (!mayChange(person, body.change.kind)) throw refusal(person, body.change.kind);
    return large.apply(body.change, person);
  });
  serve(app, ledgerRoutes.nextSteps, ({ person }) => ledger.nextSteps(person.id));
  serve(app, ledgerRoutes.undo, ({ person }) => large.undo(person.id));
  serve(app, ledgerRoutes.redo, ({ person }) => large.redo(person.id));
  serve(app, ledgerRoutes.listEntries, async ({ query, person }) => ({ entries: await ledger.list(person, query) }));
  serve(app, ledgerRoutes.showEntry, async ({ params, query, person }) => {
    const { kind, step, later, laterCount } = await ledger.standing(params.id, person);
    const changes = await ledger.changesOf(params.id, person, query.photoId);
    return { ...changes, standing: { step: mayReverse(person, kind) ? step : null, later, laterCount } };
  });
  const reversing = async (step: 'undo' | 'redo', id: number, person: Person) => {
    const { kind } = await ledger.find(id, person);
    if (!mayReverse(person, kind)) throw refusal(person, kind);
    return large.reverse(id, step, person.id);
  };
  serve(app, ledgerRoutes.takeBackEntry, ({ params, person }) => reversing('undo', params.id, person));
  serve(app, ledgerRoutes.repeatEntry, ({ params, person }) => reversing('redo', params.id, person));
}

/** Whether somebody may take changes of a kind back: who may make them. Who does not see everything takes back by undo what is their own. */
function mayReverse(person: Person, kind: string): boolean {
  return person.seesAll && mayChange(person, kind);
}
