// Recording what descriptions do to photos, whatever way these were found.

import type { FieldEdit } from '@stellin/core/describing/editing';
import { describing, type Description } from '@stellin/core/describing/description';
import type { OwnField } from '@stellin/core/describing/ownFields';
import { templateShape } from '@stellin/contract/describing';
import type { SqlCondition } from '../catalogue/compile';
import { today } from '../catalogue/clock';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import { recordFields } from '../ledger/recordStore';
import type { ChangeContext } from '../ledger/service';
import { recordGiven, type Given, type NoteKeywords } from './giving';
import { prefetch } from './prefetch';
import type { Planner } from './planner';
import type { PhotoTexts } from './planner.worker';
import * as store from './store';

export type DescriptionRecorder = ReturnType<typeof descriptionRecorder>;

interface RecorderParts {
  database: Database;
  planner: Planner;
  ownFields: (tx: Transaction) => Promise<readonly OwnField[]>;
  /** Records that photos (a statement) get terms. */
  giveTerms: (photos: SqlCondition, termIds: readonly number[], context: ChangeContext) => Promise<unknown>;
  noteKeywords: NoteKeywords;
}

export function descriptionRecorder({ database, planner, ownFields, giveTerms, noteKeywords }: RecorderParts) {
  /** Records what a description does to photos (a statement that returns them). */
  async function record(photos: SqlCondition, description: Description, context: ChangeContext): Promise<void> {
    const made = describing(description);
    if (!made.ok) throw new StellinError('describingRefused', { why: made.problem });
    await recordPages(photos, () => Promise.resolve(description), context, description.kind === 'fillTemplate');
  }

  /** The same with a description of its own for each page of photos. `inOrder`: pages come in the order of capture. */
  async function recordPages(
    photos: SqlCondition,
    descriptionOf: (page: readonly PhotoTexts[]) => Promise<Description>,
    { tx, entryId, accountId, progress }: ChangeContext,
    inOrder: boolean,
  ): Promise<void> {
    const user = (await store.displayNameOf(database, accountId, tx))?.name ?? '';
    const own = await ownFields(tx);
    const pages = store.photosToDescribe(database, photos, { inOrder, locked: true }, tx);
    const planned = prefetch(pages, async (page) => ({
      ...(await planner.plan({ description: await descriptionOf(page), photos: page, today: today(), user, own })),
      looked: page.length,
    }));
    for await (const { json, count, looked, problem } of planned) {
      if (problem !== undefined) throw new StellinError('describingRefused', { why: problem });
      if (count > 0) await recordFields(database, entryId, json, tx);
      await progress?.('Working out what changes', looked);
    }
  }

  /** Records what a template does to photos (a statement). `onlyEmpty`: what a photo says already stays. */
  async function fill(
    row: store.TemplateRow,
    photos: SqlCondition,
    { onlyEmpty }: { onlyEmpty: boolean },
    context: ChangeContext,
  ): Promise<void> {
    const { edits, termIds } = templateShape.parse({ ...row, termIds: row.term_ids });
    const filling = onlyEmpty ? edits.map((edit) => ({ ...edit, mode: 'fill' as const })) : edits;
    await record(photos, { kind: 'fillTemplate', edits: filling }, context);
    if (termIds.length > 0) await giveTerms(photos, termIds, context);
  }

  return {
    record,
    fill,

    /** Records edits of each photo's own. `editsOf` is given the photos page by page, as they are now. */
    recordEach: (
      photos: SqlCondition,
      editsOf: (page: readonly PhotoTexts[]) => Promise<ReadonlyMap<number, readonly FieldEdit[]>>,
      context: ChangeContext,
    ): Promise<void> =>
      recordPages(photos, async (page) => ({ kind: 'setEach', edits: await editsOf(page) }), context, false),

    /** Records terms, keywords, ratings and marks of each photo’s own. */
    recordGiven: (photos: readonly Given[], context: ChangeContext): Promise<void> =>
      recordGiven({ database, noteKeywords }, photos, context),

    /** The same by the number of the template; one that is gone fills nothing. */
    async fillNew(templateId: number, photos: SqlCondition, context: ChangeContext): Promise<void> {
      const row = (await store.listPrepared(database, 'template', context.tx)).find(({ id }) => id === templateId);
      if (row) await fill(row, photos, { onlyEmpty: true }, context);
    },
  };
}
