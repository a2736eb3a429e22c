// Terms that a change is about: they must be there, and such as are given to photos must not be headings.

import type { Term } from '@stellin/core/vocabulary/term';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import * as store from './store';

/** The terms of these ids. Throws a StellinError when one is not there. */
export async function requireTerms(database: Database, ids: readonly number[], tx: Transaction): Promise<Term[]> {
  const terms = await store.findTerms(database, ids, tx);
  if (terms.length < new Set(ids).size)
    throw new StellinError('notFound', { what: 'such term (it may have been removed meanwhile)' });
  return terms;
}

/** The same of terms that are to be given to photos: throws when one is a heading or deprecated, too. */
export async function requireAssignable(database: Database, ids: readonly number[], tx: Transaction): Promise<Term[]> {
  const terms = await requireTerms(database, ids, tx);
  const heading = terms.find((term) => term.heading);
  if (heading) throw new StellinError('headingGiven', { label: heading.label });
  const deprecated = terms.find((term) => term.deprecated);
  if (deprecated) {
    const [instead] =
      deprecated.replacedBy === null ? [] : await store.findTerms(database, [deprecated.replacedBy], tx);
    throw new StellinError('deprecatedGiven', {
      label: deprecated.label,
      instead: instead ? `; give “${instead.label}”` : '',
    });
  }
  return terms;
}
