// What settling conflicts records: what the files are known to say, and the fields that follow them.

import type { FieldId } from '@stellin/core/metadata/fields';
import type { SqlCondition } from '../catalogue/compile';
import type { Database, Transaction } from '../database/database';
import { recordPhotos } from '../ledger/recordStore';

/** Records that the conflicts of photos, on one field or on all, are settled as the file or the catalogue says. */
export async function recordSettled(
  database: Database,
  entryId: number,
  chosen: SqlCondition,
  { field, keep }: { field: FieldId | undefined; keep: 'file' | 'catalogue' },
  tx: Transaction,
): Promise<void> {
  const bind = [...chosen.bind];
  const wanted = `$${bind.push(field ?? null)}::text`;
  const conflicts = (
    joins = '',
    more = '',
  ) => `(${chosen.sql}) chosen join field_in_file i on i.photo_id = chosen.id ${joins}
    where i.conflicting is not null and (${wanted} is null or i.field = ${wanted}) ${more}`;
  const record = (aspect: string, before: string, after: string, from: string) =>
    recordPhotos(
      database,
      entryId,
      aspect,
      { sql: `select i.photo_id, 0, ${before}, ${after} from ${from}`, bind },
      tx,
    );
  // From then on the file is known to say what it says now: what the catalogue says differs from it alone.
  await record(
    'fileSays',
    `jsonb_object_agg(i.field, jsonb_build_object('value', i.value, 'conflicting', i.conflicting))`,
    `jsonb_object_agg(i.field, jsonb_build_object('value', i.conflicting))`,
    `${conflicts()} group by i.photo_id`,
  );
  if (keep === 'file') {
    const photo = 'join photo p on p.id = i.photo_id';
    await record(
      'fields',
      `jsonb_object_agg(i.field, coalesce(t.fields -> i.field, 'null'))`,
      'jsonb_object_agg(i.field, i.conflicting)',
      `${conflicts('join photo_text t on t.photo_id = i.photo_id', `and i.field not in ('rating', 'mark')`)} group by i.photo_id`,
    );
    await record('rating', 'to_jsonb(p.rating)', 'i.conflicting', conflicts(photo, `and i.field = 'rating'`));
    await record(
      'mark',
      `jsonb_build_object('name', p.mark, 'folded', p.mark_folded)`,
      `jsonb_build_object('name', i.conflicting #>> '{}', 'folded', lower(i.conflicting #>> '{}'))`,
      conflicts(photo, `and i.field = 'mark'`),
    );
  }
}
