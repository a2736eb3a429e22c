// What may be said and shown of photos outside: of those that may leave by somebody's hands, without what is private.

import { needsOf, type ColumnId, type Need, type TableContext } from '@stellin/core/delivering/columns';
import { openFields } from '@stellin/core/delivering/metadata';
import type { FieldId } from '@stellin/core/metadata/fields';
import { foldText } from '@stellin/core/text/words';
import { reachOf, type Person, type Viewer } from '../catalogue/viewer';
import type { VocabularyIndex } from '../catalogue/vocabularySnapshot';
import type { Database } from '../database/database';
import { letOutBy } from './copy';
import { shownCopy } from './gallery';
import { renderCopy } from './rendering';
import * as store from './store';

export type Outside = ReturnType<typeof outsideService>;

/** What somebody may deliver. */
export const viewerFor = (person: Person): Viewer => ({ ...person, sight: reachOf(person, 'deliver') });

export function outsideService(database: Database, terms: VocabularyIndex) {
  /** What tables need to know besides the photos. */
  const contextOf = async ({ language }: { language: string }): Promise<TableContext> => ({
    tree: (await terms.current()).tree,
    language,
  });

  /** What is read for some columns, and for what is shown besides them. */
  const wantedOf = async (
    columns: readonly ColumnId[],
    fields: readonly FieldId[] = [],
    parts: readonly Need[] = [],
  ): Promise<store.Wanted> => {
    const needs = needsOf(columns);
    const withheld = new Set<string>(await store.withheldFields(database));
    return {
      parts: new Set([...needs.parts, ...parts]),
      fields: [...new Set([...needs.fields, ...fields])].filter((id) => !withheld.has(id)),
    };
  };

  /** The pages without what is private of what is said. */
  const open = async (pages: AsyncIterable<store.TablePage>): Promise<AsyncIterable<store.TablePage>> => {
    const { privateNames, privateTerms } = await letOutBy(database, terms, '');
    return withoutPrivatePersons(pages, privateNames, privateTerms);
  };

  return {
    viewerFor,
    contextOf,
    wantedOf,
    open,

    /** Of some photos those that may leave by somebody's hands, in their order: none that is private. */
    leavingIds: (ids: readonly number[], person: Person): Promise<number[]> =>
      store.leavingIds(database, viewerFor(person), ids),

    /** A JPEG of a kept picture as it is shown outside: no larger than wanted, with a watermark, and without metadata. */
    async pictureOutside(path: string, longEdge: number, watermark: string): Promise<Buffer> {
      return (await renderCopy({ path, kind: 'webp' }, shownCopy({ longEdge, watermark }), '')).bytes;
    },

    /** What may be said of photos outside, with what is private left out; of those that may leave by somebody's hands. */
    async saidOutside(
      ids: readonly number[],
      person: Person,
      wanted: { columns: readonly ColumnId[]; fields: readonly FieldId[] },
    ): Promise<{ rows: store.TableRow[]; context: TableContext }> {
      const read = store.tableRows(database, viewerFor(person), ids, await wantedOf(wanted.columns, wanted.fields));
      const rows: store.TableRow[] = [];
      for await (const page of await open(once(read))) rows.push(...page);
      return { rows, context: await contextOf({ language: '' }) };
    },
  };
}

// oxlint-disable-next-line require-await -- a page that is there already, as one of several that come one by one
export async function* once(page: Promise<store.TablePage>): AsyncGenerator<store.TablePage> {
  yield page;
}

async function* withoutPrivatePersons(
  pages: AsyncIterable<store.TablePage>,
  names: ReadonlySet<string>,
  termIds: ReadonlySet<number>,
): AsyncGenerator<store.TablePage> {
  for await (const page of pages)
    // Where nobody is private, there is nothing to look for.
    yield names.size + termIds.size === 0
      ? page
      : page.map((photo) => ({
          ...photo,
          fields: openFields(photo.fields, names),
          freeKeywords: photo.freeKeywords.filter((keyword) => !names.has(foldText(keyword))),
          termIds: photo.termIds.filter((id) => !termIds.has(id)),
        }));
}
