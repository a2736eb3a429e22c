// From a change as the ledger takes it to the plan that core makes of it, and the sentences that go with it.

import { randomUUID } from 'node:crypto';
import { planChange, type NewTerm, type TermChange } from '@stellin/core/vocabulary/changes';
import { Refusal, type Fresh, type Plan, type VocabularyState } from '@stellin/core/vocabulary/editor';
import { planImport } from '@stellin/core/vocabulary/importing';
import type { Change, ChangeOf } from '@stellin/contract/ledger';
import { countText } from '@stellin/contract/wording';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import { findImport } from './exchange';
import type { Snapshot } from '../catalogue/vocabularySnapshot';
import * as store from './store';

/** Changes that are planned as a whole by core. */
export const PLANNED_KINDS = [
  'addTerms',
  'proposeTerm',
  'renameTerm',
  'editTerm',
  'swapLabels',
  'moveTerms',
  'mergeTerms',
  'splitTerm',
  'setHeading',
  'deprecateTerm',
  'removeTerm',
  'relateTerms',
  'acceptTerms',
  'refuseTerm',
  'defineVocabulary',
  'removeVocabulary',
  'importTerms',
] as const;
export type PlannedKind = (typeof PLANNED_KINDS)[number];
export type PlannedChange = ChangeOf<PlannedKind>;

/** Whether a change is one of those. */
export function isPlanned(change: Change): change is PlannedChange {
  return (PLANNED_KINDS as readonly string[]).includes(change.kind);
}

/** Plans a change over the vocabularies as they are. Throws a StellinError when it may not be made. */
export async function makePlan(
  database: Database,
  snapshot: Snapshot,
  change: PlannedChange,
  accountId: number,
  tx: Transaction,
): Promise<{ plan: Plan; state: VocabularyState }> {
  const { tree, relations, vocabularies } = snapshot;
  const state = { tree, relations, vocabularies, uses: await store.directUses(database, tx) };
  try {
    if (change.kind === 'importTerms') {
      const { draft } = await findImport(database, change.importId, accountId, tx);
      const fresh = await freshIds(database, draft.terms.length + 1, tx);
      return { plan: planImport(state, change.vocabularyId, draft, change, fresh), state };
    }
    const fresh = await freshIds(database, newTerms(change), tx);
    return { plan: planChange(state, coreChange(change, accountId), fresh), state };
  } catch (error) {
    if (error instanceof Refusal) throw new StellinError(error.code, error.values);
    throw error;
  }
}

function coreChange(change: Exclude<PlannedChange, { kind: 'importTerms' }>, accountId: number): TermChange {
  if (change.kind === 'splitTerm') return { ...change, into: change.into.map(({ label }) => label) };
  if (change.kind === 'proposeTerm') return { ...change, by: accountId } as TermChange;
  // Zod says `undefined` where core's types leave out; none of these properties is read for being there.
  return change as TermChange;
}

function newTerms(change: PlannedChange): number {
  const count = (terms: readonly NewTerm[]): number =>
    terms.reduce((sum, { narrower = [] }) => sum + 1 + count(narrower), 0);
  if (change.kind === 'addTerms') return count(change.terms as NewTerm[]);
  return change.kind === 'splitTerm' ? change.into.length : 1;
}

async function freshIds(database: Database, count: number, tx: Transaction): Promise<Fresh> {
  const ids = await store.nextTermIds(database, count, tx);
  return {
    id: () => {
      const id = ids.shift();
      if (id === undefined) throw new Error('more terms are made than were counted');
      return id;
    },
    uri: () => `urn:uuid:${randomUUID()}`,
  };
}

/** What a change is called in the ledger. */
export function titleOf(change: PlannedChange, { tree, vocabularies }: VocabularyState, plan: Plan): string {
  const label = (id: number | null | undefined) =>
    id === null || id === undefined ? '' : `“${tree.get(id)?.label ?? 'a term'}”`;
  const made = plan.terms.filter(({ before }) => before === null);
  const below = (id: number | null) => (id === null ? '' : ` below ${label(id)}`);
  const few = (ids: readonly number[]) => (ids.length === 1 ? label(ids[0]) : countText(ids.length, 'term'));
  switch (change.kind) {
    case 'addTerms':
      return made.length === 1
        ? `Add the term “${made[0]?.after?.label}”${below(change.parentId)}`
        : `Add ${countText(made.length, 'term')}${below(change.parentId)}`;
    case 'proposeTerm':
      return `Propose the term “${made[0]?.after?.label}”${below(change.parentId)}`;
    case 'renameTerm':
      return `Rename ${label(change.termId)} to “${change.label}”`;
    case 'editTerm':
      return change.facts.label && change.facts.label !== tree.get(change.termId)?.label
        ? `Rename ${label(change.termId)} to “${change.facts.label}”`
        : `Change the term ${label(change.termId)}`;
    case 'swapLabels':
      return `Prefer “${change.label}” to ${label(change.termId)}`;
    case 'moveTerms':
      return `Move ${few(change.termIds)} ${change.parentId === null ? 'to the top' : `below ${label(change.parentId)}`}`;
    case 'mergeTerms':
      return `Merge ${few(change.termIds.filter((id) => id !== change.intoId))} into ${label(change.intoId)}`;
    case 'splitTerm':
      return `Split ${label(change.termId)} into ${change.into.map((part) => `“${part.label}”`).join(', ')}`;
    case 'setHeading':
      return change.heading
        ? `Make ${label(change.termId)} a heading`
        : `Make ${label(change.termId)} a term that can be given`;
    case 'deprecateTerm':
      if (!change.deprecated) return `Take ${label(change.termId)} into use again`;
      return `Deprecate ${label(change.termId)}${change.replacedBy === null ? '' : ` in favour of ${label(change.replacedBy)}`}`;
    case 'removeTerm':
      return `Remove the term ${label(change.termId)}`;
    case 'relateTerms': {
      const link = { broader: 'also below', related: 'related to', apart: 'is not the same as' }[change.relation];
      return change.on
        ? `${label(change.fromId)} ${link} ${label(change.toId)}`
        : `${label(change.fromId)} no longer ${link} ${label(change.toId)}`;
    }
    case 'acceptTerms':
      return `Accept ${few(change.termIds)}`;
    case 'refuseTerm':
      return `Refuse ${label(change.termId)}${change.word ? `: ${change.word}` : ''}`;
    case 'defineVocabulary':
      return change.vocabularyId === null
        ? `Add the vocabulary “${change.name}”`
        : `Change the vocabulary “${change.name}”`;
    case 'removeVocabulary':
      return `Remove the vocabulary “${vocabularies.find(({ id }) => id === change.vocabularyId)?.name ?? ''}”`;
    case 'importTerms': {
      const removed = plan.terms.filter(({ after }) => after === null).length;
      const altered = plan.terms.length - made.length - removed;
      const parts = [
        made.length ? `${countText(made.length, 'term')} new` : '',
        altered ? `${altered.toLocaleString('en')} changed` : '',
        removed ? `${removed.toLocaleString('en')} removed` : '',
      ];
      return `Take in a vocabulary: ${parts.filter(Boolean).join(', ')}`;
    }
  }
}
