// What changes to the vocabulary, and to which terms photos have, do.

import { tidyLabel, type Term } from '@stellin/core/vocabulary/term';
import type { NewTermInput } from '@stellin/contract/ledger';
import { countText } from '@stellin/contract/wording';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import type { ChangeContext, ChangeHandlers } from '../ledger/service';
import { selectionSql } from '../photos/selection';
import { requireAssignable, requireTerms } from './required';
import * as store from './store';

type Handled = 'giveTerms' | 'takeTerms' | 'addTerms' | 'renameTerm' | 'removeTerm';

export function vocabularyChanges(database: Database): Pick<ChangeHandlers, Handled> {
  return {
    async giveTerms({ selection, termIds }, { tx, entryId }) {
      const terms = await requireAssignable(database, termIds, tx);
      await store.recordTermsOfPhotos(database, entryId, selectionSql(selection), termIds, true, tx);
      return (photos) => `Give ${labelsText(terms)} to ${countText(photos, 'photo')}`;
    },

    async takeTerms({ selection, termIds }, { tx, entryId }) {
      const terms = await requireTerms(database, termIds, tx);
      await store.recordTermsOfPhotos(database, entryId, selectionSql(selection), termIds, false, tx);
      return (photos) => `Take ${labelsText(terms)} off ${countText(photos, 'photo')}`;
    },

    async addTerms({ parentId, terms }, { tx, entryId }) {
      const parent = parentId === null ? undefined : (await requireTerms(database, [parentId], tx))[0];
      const made = await flatten(parentId, terms, tx);
      const [taken] = await store.takenLabels(
        database,
        parentId,
        made.filter((term) => term.parentId === parentId).map(({ label }) => label),
        tx,
      );
      if (taken ?? twice(made))
        throw new StellinError('termExists', {
          label: taken ?? twice(made) ?? '',
          parent: parent ? `“${parent.label}”` : 'the top',
        });
      await store.recordTerms(
        database,
        entryId,
        made.map((term) => ({ before: null, after: store.termRow(term) })),
        tx,
      );
      const where = parent ? ` below “${parent.label}”` : '';
      return () =>
        made.length === 1
          ? `Add the term “${made[0]?.label}”${where}`
          : `Add ${countText(made.length, 'term')}${where}`;
    },

    async renameTerm({ termId, label }, { tx, entryId }) {
      const term = await requireTerm(termId, tx);
      const after = { ...term, label: requireLabel(label) };
      if (after.label === term.label) return () => '';
      const [taken] = await store.takenLabels(database, term.parentId, [after.label], tx);
      if (taken) throw new StellinError('termExists', { label: taken, parent: 'the same broader term' });
      await store.recordTerms(database, entryId, [{ before: store.termRow(term), after: store.termRow(after) }], tx);
      return () => `Rename “${term.label}” to “${after.label}”`;
    },

    async removeTerm({ termId }, { tx, entryId }) {
      const term = await requireTerm(termId, tx);
      const { photos, narrower } = await store.usesOf(database, termId, tx);
      const reasons = [
        ...(photos ? [`it is given to ${countText(photos, 'photo')}`] : []),
        ...(narrower ? [`it has ${countText(narrower, 'narrower term')}`] : []),
      ];
      if (reasons.length) throw new StellinError('termInUse', { label: term.label, why: reasons.join(' and ') });
      await store.recordTerms(database, entryId, [{ before: store.termRow(term), after: null }], tx);
      return () => `Remove the term “${term.label}”`;
    },
  };

  async function requireTerm(id: number, tx: ChangeContext['tx']): Promise<Term> {
    const [term] = await requireTerms(database, [id], tx);
    if (!term) throw new StellinError('notFound', { what: 'such term' });
    return term;
  }

  async function flatten(parentId: number | null, inputs: readonly NewTermInput[], tx: Transaction): Promise<Term[]> {
    const count = (list: readonly NewTermInput[]): number =>
      list.reduce((sum, input) => sum + 1 + count(input.narrower ?? []), 0);
    const ids = await store.nextTermIds(database, count(inputs), tx);
    const made: Term[] = [];
    const visit = (parent: number | null, list: readonly NewTermInput[]) => {
      for (const input of list) {
        const id = ids[made.length] ?? 0;
        made.push({
          id,
          parentId: parent,
          label: requireLabel(input.label),
          heading: input.heading ?? false,
          writeBroader: input.writeBroader ?? true,
          scopeNote: input.scopeNote ?? '',
          otherLabels: input.otherLabels ?? [],
        });
        visit(id, input.narrower ?? []);
      }
    };
    visit(parentId, inputs);
    return made;
  }
}

function requireLabel(label: string): string {
  const tidy = tidyLabel(label);
  if (!tidy) throw new StellinError('badRequest', { problem: 'a term needs a label of at most 200 characters' });
  return tidy;
}

/** A label that stands twice below one parent. */
function twice(terms: readonly Term[]): string | undefined {
  const seen = new Set<string>();
  return terms.find(({ parentId, label }) => {
    const key = `${parentId}/${label}`;
    return seen.has(key) || !seen.add(key);
  })?.label;
}

function labelsText(terms: readonly Term[]): string {
  const [first] = terms;
  return terms.length === 1 && first ? `“${first.label}”` : countText(terms.length, 'term');
}
