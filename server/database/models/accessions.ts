// The tables of where accessions come from.

import { bytes, integer, moment, table, text } from './table';

/** What is said of an accession. */
export const PROVENANCE = table('provenance', {
  id: integer({ key: true, preset: true }),
  accessionId: integer({ of: 'accession' }),
  /** As the archive numbers it. */
  number: text(),
  source: text(),
  donor: text(),
  agreement: text(),
  restrictions: text(),
  /** YYYY-MM-DD; empty: no end. */
  ends: text(),
  note: text(),
});

/** Papers that belong to an accession: letters, agreements, lists. */
export const ACCESSION_PAPER = table('accession_paper', {
  id: integer({ key: true, preset: true }),
  accessionId: integer({ of: 'accession' }),
  name: text(),
  content: bytes(),
  addedAt: moment({ preset: true }),
  addedBy: integer({ orNull: true, of: 'account' }),
});
