// Recording edits of each photo's own, as describing offers it to changes of places.

import type { FieldEdit } from '@stellin/core/describing/editing';
import type { SqlCondition } from '../catalogue/compile';
import type { ChangeContext } from '../ledger/service';

/** A photo as it is when the change is made; fields and facts as JSON. */
export interface PageRow {
  id: number;
  /** As the catalogue has it, to the second. */
  takenAt: string | null;
  fields: string;
  facts: string;
}

/** Records edits of photos (a statement), worked out page by page; photos without any stay as they are. */
export type RecordEach = (
  photos: SqlCondition,
  editsOf: (page: readonly PageRow[]) => Promise<ReadonlyMap<number, readonly FieldEdit[]>>,
  context: ChangeContext,
) => Promise<void>;
