// Vocabularies that were read of a file and wait to be taken in.

import type { FormatId } from '@stellin/core/vocabulary/formatIds';
import type { Database, Transaction } from '../database/database';
import type { Draft } from '@stellin/core/vocabulary/formats/draft';

/** Keeps what was read of a file until it is taken in. */
export function insertImport(
  database: Database,
  accountId: number,
  name: string,
  format: FormatId,
  draft: Draft,
): Promise<{ id: string } | undefined> {
  return database.row<{ id: string }>(
    'insert into vocabulary_import (account_id, name, format, draft) values ($1, $2, $3, $4) returning id',
    [accountId, name, format, JSON.stringify(draft)],
  );
}

/** Forgets what was read and not taken in within two days. */
export async function dropOldImports(database: Database): Promise<void> {
  await database.rows(`delete from vocabulary_import where created_at < now() - interval '2 days'`);
}

/** What was read of a file, by whom. */
export function findDraft(
  database: Database,
  id: string,
  accountId: number,
  tx?: Transaction,
): Promise<{ draft: Draft } | undefined> {
  return database.row<{ draft: Draft }>(
    'select draft from vocabulary_import where id = $1 and account_id = $2',
    [id, accountId],
    tx,
  );
}
