// Files of vocabularies: reading one keeps it until it is taken in; writing one makes it from what is there.

import { compareImport } from '@stellin/core/vocabulary/importing';
import { IMPORT_KINDS, type ImportKind } from '@stellin/core/vocabulary/importKinds';
import { draftOf, type Draft } from '@stellin/core/vocabulary/formats/draft';
import { FORMAT_FACTS, formatOf, type FormatId } from '@stellin/core/vocabulary/formatIds';
import type { ImportRow } from '@stellin/contract/vocabulary';
import type { Database, Transaction } from '../database/database';
import { messageOf, StellinError } from '../errors';
import type { VocabularyIndex } from '../catalogue/vocabularySnapshot';
import type { Thinker } from './thinking';
import { findDraft, dropOldImports, insertImport } from './importStore';

/** Larger files are refused before they are read. */
export const MAX_IMPORT_BYTES = 64 * 2 ** 20;
const MAX_PROBLEMS_SHOWN = 200;

/** Reads a file and keeps what it says. Throws a StellinError when it can't be read. */
export async function keepImport(
  database: Database,
  thinker: Thinker,
  { name, format, text }: { name: string; format?: FormatId | undefined; text: string },
  accountId: number,
) {
  const used = format ?? formatOf(name, text);
  const draft = await thinker.read(used, text).catch((error: unknown) => {
    throw new StellinError('unreadableVocabulary', { file: name, why: messageOf(error) });
  });
  if (draft.terms.length === 0) throw new StellinError('unreadableVocabulary', { file: name, why: whyEmpty(draft) });
  const named = { ...draft, name: draft.name || name.replace(/\.[^.]*$/, '') };
  const row = await insertImport(database, accountId, name, used, named);
  // What was never taken in is of no use for long.
  await dropOldImports(database);
  return {
    importId: row?.id ?? '',
    format: used,
    name: named.name,
    terms: draft.terms.length,
    problems: draft.problems.slice(0, MAX_PROBLEMS_SHOWN),
    problemCount: draft.problems.length,
  };
}

function whyEmpty({ problems }: Draft): string {
  const [first] = problems;
  return first ? `${first.at}: ${first.message}` : 'there are no terms in it';
}

/** A file that was read and waits. Throws a StellinError when it is not there any more, or is another person's. */
export async function findImport(
  database: Database,
  id: string,
  accountId: number,
  tx?: Transaction,
): Promise<{ draft: Draft }> {
  const row = await findDraft(database, id, accountId, tx);
  if (!row) throw new StellinError('notFound', { what: 'such file to take in (read it again)' });
  return row;
}

/** Holds a file that waits against a vocabulary. */
export async function compareKept(
  database: Database,
  index: VocabularyIndex,
  request: { importId: string; vocabularyId?: number | undefined; kind?: ImportKind | undefined; limit: number },
  accountId: number,
): Promise<{ counts: Record<ImportKind, number>; rows: ImportRow[] }> {
  const [{ draft }, snapshot] = await Promise.all([findImport(database, request.importId, accountId), index.current()]);
  const rows = compareImport({ ...snapshot, uses: new Map() }, request.vocabularyId ?? null, draft);
  const counts = Object.fromEntries(IMPORT_KINDS.map((kind) => [kind, 0])) as Record<ImportKind, number>;
  for (const { kind } of rows) counts[kind]++;
  const { kind, limit } = request;
  return { counts, rows: rows.filter((row) => (kind ? row.kind === kind : row.kind !== 'same')).slice(0, limit) };
}

/** A vocabulary as a file. */
export async function writeVocabulary(
  index: VocabularyIndex,
  thinker: Thinker,
  id: number,
  format: FormatId,
): Promise<{ name: string; mediaType: string; text: string }> {
  const { vocabularies, tree, relations } = await index.current();
  const vocabulary = vocabularies.find((one) => one.id === id);
  if (!vocabulary) throw new StellinError('notFound', { what: 'such vocabulary' });
  const { extensions, mediaType } = FORMAT_FACTS[format];
  const name = vocabulary.name.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, '') || 'vocabulary';
  return {
    name: `${name}${extensions[0]}`,
    mediaType,
    text: await thinker.write(format, draftOf(vocabulary, tree, relations)),
  };
}
