// The SQL that reads the vocabularies as they are: terms, relations, and the version that every change raises.

import type { Relation, Term, Vocabulary } from '@stellin/core/vocabulary/term';
import type { Rows, Transaction } from '../database/database';

/** Parts of a term by the columns that hold them. */
export const TERM_COLUMNS = {
  id: 'id',
  parentId: 'parent_id',
  vocabularyId: 'vocabulary_id',
  label: 'label',
  otherLabels: 'other_labels',
  heading: 'heading',
  status: 'status',
  proposedBy: 'proposed_by',
  deprecated: 'deprecated',
  replacedBy: 'replaced_by',
  scopeNote: 'scope_note',
  definition: 'definition',
  notation: 'notation',
  uri: 'uri',
  colour: 'colour',
  examplePhoto: 'example_photo',
  byHand: 'by_hand',
  position: 'position',
  writeSelf: 'write_self',
  writeBroader: 'write_broader',
  writeOthers: 'write_others',
  writeLanguage: 'write_language',
} as const satisfies Record<keyof Term, string>;

/** What is selected of a term `t`. */
export const SELECTED_TERM = Object.entries(TERM_COLUMNS)
  .map(([part, column]) => `t.${column} as "${part}"`)
  .join(', ');

export async function listTerms(database: Rows, tx?: Transaction): Promise<Term[]> {
  return database.rows<Term>(`select ${SELECTED_TERM} from term t`, [], tx);
}

export async function listRelations(database: Rows, tx?: Transaction): Promise<Relation[]> {
  return database.rows<Relation>('select kind, from_id as "fromId", to_id as "toId" from term_relation', [], tx);
}

export async function listVocabularies(database: Rows, tx?: Transaction): Promise<Vocabulary[]> {
  return database.rows<Vocabulary>(
    'select id, name, language, uri, note, by_hand as "byHand" from vocabulary order by id',
    [],
    tx,
  );
}

/** The version of the vocabularies. `lock` keeps it until the transaction ends: nobody else changes them meanwhile. */
export async function readVersion(database: Rows, tx?: Transaction, lock = false): Promise<number> {
  const row = await database.row<{ version: string }>(
    `select version from vocabulary_version ${lock ? 'for update' : ''}`,
    [],
    tx,
  );
  return Number(row?.version);
}
