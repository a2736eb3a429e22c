// Settling incoming keywords: one step that makes terms of them, keeps them as they are, or drops them.

import { randomUUID } from 'node:crypto';
import { placeOf } from '@stellin/core/vocabulary/changes';
import { Refusal, requireLabel, VocabularyEditor } from '@stellin/core/vocabulary/editor';
import type { Term } from '@stellin/core/vocabulary/term';
import { countText } from '@stellin/contract/wording';
import type { ChangeOf } from '@stellin/contract/ledger';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import type { ChangeContext, ChangeHandlers } from '../ledger/service';
import { folderDecision, folderKeywords } from './incoming';
import { requireAssignable } from './required';
import type { VocabularyIndex } from '../catalogue/vocabularySnapshot';
import * as store from './store';

export function settlingChanges(
  database: Database,
  index: VocabularyIndex,
  settleNames: ChangeHandlers['settleNames'],
): Pick<ChangeHandlers, 'settleKeywords'> {
  // One closure for what its functions share; each of them fits a screen.
  return {
    async settleKeywords(change, context) {
      const { tx, entryId } = context;
      const { decided, made } = await withNewTerms(change, context);
      const persons = change.decisions.flatMap((one) =>
        one.decision === 'person' ? [{ name: one.keyword, who: one.who }] : [],
      );
      if (persons.length > 0) await settleNames({ kind: 'settleNames', decisions: persons }, context);
      const asked = decided.flatMap(({ termId }) => (termId === null || made.has(termId) ? [] : [termId]));
      await requireAssignable(database, [...new Set(asked)], tx);
      if (change.source === 'keywords') await recordKeywords(entryId, decided, change.accession ?? null, tx);
      else await recordFolders(entryId, decided, change, tx);
      if (change.remember)
        await store.recordDecisions(
          database,
          entryId,
          change.source === 'keywords'
            ? decided
            : decided.map((one) => ({ ...one, keyword: folderDecision(one.keyword) })),
          tx,
        );
      const what = change.source === 'keywords' ? 'keyword' : 'folder name';
      return (photos) => `Settle ${countText(decided.length, what)}: ${countText(photos, 'photo')}`;
    },
  };

  /** Records the terms that are made for keywords; of two with one label and parent only one. Those of cataloguers are proposals. */
  async function withNewTerms(
    { decisions }: ChangeOf<'settleKeywords'>,
    { tx, entryId, accountId, person }: Pick<ChangeContext, 'tx' | 'entryId' | 'accountId' | 'person'>,
  ): Promise<{ decided: store.Decided[]; made: ReadonlySet<number> }> {
    const decided: store.Decided[] = decisions.flatMap((one) =>
      one.decision === 'new'
        ? []
        : [
            {
              keyword: one.keyword,
              // A person's name stays a keyword of the file.
              decision: one.decision === 'person' ? 'keep' : one.decision,
              termId: one.decision === 'term' ? one.termId : null,
            },
          ],
    );
    const wanted = decisions.filter((one) => one.decision === 'new');
    if (wanted.length === 0) return { decided, made: new Set() };
    const status = person.everywhere.includes('vocabulary') ? 'accepted' : 'proposed';
    const { tree, relations, vocabularies } = await index.locked(tx);
    const ids = await store.nextTermIds(database, wanted.length, tx);
    const editor = new VocabularyEditor(
      { tree, relations, vocabularies, uses: new Map() },
      { id: () => ids.shift() ?? 0, uri: () => `urn:uuid:${randomUUID()}` },
    );
    const made = new Map<string, number>();
    for (const { keyword, label, parentId } of wanted) {
      const key = `${parentId}/${label}`;
      const id =
        made.get(key) ??
        addTerm(editor, label, parentId, { status, proposedBy: status === 'proposed' ? accountId : null });
      made.set(key, id);
      decided.push({ keyword, decision: 'term', termId: id });
    }
    await store.recordTerms(database, entryId, editor.plan().terms, tx);
    return { decided, made: new Set(made.values()) };
  }

  /** Keywords that become terms or nothing stop being free ones; photos that have them get the terms. */
  async function recordKeywords(
    entryId: number,
    decided: readonly store.Decided[],
    accession: number | null,
    tx: Transaction,
  ): Promise<void> {
    const settled = decided.filter(({ decision }) => decision !== 'keep');
    await store.noteIncoming(
      database,
      settled.map(({ keyword }) => keyword),
      tx,
    );
    await store.recordSettled(database, entryId, settled, accession, tx);
  }

  /** Photos in folders of these names get the terms; the folders keep their names. */
  async function recordFolders(
    entryId: number,
    decided: readonly store.Decided[],
    { accession, levels }: ChangeOf<'settleKeywords'>,
    tx: Transaction,
  ): Promise<void> {
    const terms = new Map(
      decided.flatMap(({ keyword, termId }) => (termId === null ? [] : [[keyword, termId] as const])),
    );
    const folders = await store.listFolders(database, tx);
    const given = folders.flatMap(({ id, path }) =>
      folderKeywords(path, levels).flatMap((words) => {
        const termId = terms.get(words);
        return termId === undefined ? [] : [{ folderId: id, termId }];
      }),
    );
    await store.recordFolderTerms(database, entryId, given, accession ?? null, tx);
  }
}

function addTerm(
  editor: VocabularyEditor,
  label: string,
  parentId: number | null,
  status: Pick<Term, 'status' | 'proposedBy'>,
): number {
  try {
    return editor.add({ ...placeOf(editor, parentId), label: requireLabel(label), ...status }).id;
  } catch (error) {
    if (error instanceof Refusal) throw new StellinError(error.code, error.values);
    throw error;
  }
}
