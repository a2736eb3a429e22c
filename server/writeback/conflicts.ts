// Settling conflicts: where the catalogue and another program have both changed a field, which of them stands.

import { FIELDS, type FieldId } from '@stellin/core/metadata/fields';
import { countText } from '@stellin/contract/wording';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import type { ChangeHandlers } from '../ledger/service';
import { selectionSql } from '../catalogue/selection';
import { recordPhotos } from '../ledger/recording';

export function conflictChanges(database: Database): Pick<ChangeHandlers, 'settleConflicts'> {
  return {
    async settleConflicts({ selection, field, keep }, { tx, entryId }) {
      const known = FIELDS.find(({ id }) => id === (field as FieldId));
      if (field !== undefined && !known) throw new StellinError('notFound', { what: 'such field' });
      const chosen = selectionSql(selection);
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
      const what = known ? ` on “${known.label}”` : '';
      return (photos) =>
        `Settle ${countText(photos, 'conflict')}${what}: keep what the ${keep === 'file' ? 'files say' : 'catalogue says'}`;
    },
  };
}
