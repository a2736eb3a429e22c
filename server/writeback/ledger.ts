// How settled conflicts stand in the ledger.

import { fieldLabel } from '@stellin/core/describing/targets';
import { recordedValues, type PhotoAspect, shownFieldValue } from '../ledger/kinds';

export const conflictAspects = {
  // What a file is known to say of fields in conflict; undoing a settlement brings the conflict back.
  fileSays: {
    effect: (isMeant) => [
      `insert into field_in_file (photo_id, field, value, conflicting)
       select l.photo_id, k.key, k.value -> 'value', k.value -> 'conflicting' from ledger_photo l cross join jsonb_each(l.after) k
       where ${isMeant} and l.aspect = 'fileSays'
       on conflict (photo_id, field) do update set value = excluded.value, conflicting = excluded.conflicting`,
      `update photo p set rating_written = (l.after #>> '{rating,value}')::smallint from ledger_photo l
       where ${isMeant} and l.aspect = 'fileSays' and p.id = l.photo_id and l.after ? 'rating'`,
      `update photo p set mark_written = l.after #>> '{mark,value}' from ledger_photo l
       where ${isMeant} and l.aspect = 'fileSays' and p.id = l.photo_id and l.after ? 'mark'`,
    ],
    stillBefore: `not exists (select 1 from jsonb_each(l.before) k left join field_in_file i on i.photo_id = l.photo_id and i.field = k.key
      where k.key not in ('rating', 'mark')
        and coalesce(i.value, (select t.fields -> k.key from photo_text t where t.photo_id = l.photo_id), 'null') <> k.value -> 'value')`,
    show: ({ before, after }) => {
      const [was, is] = [recordedValues(before), recordedValues(after)];
      const said = (known: unknown) => {
        const { value, conflicting } = recordedValues(known);
        const text = shownFieldValue(value);
        return conflicting === undefined || conflicting === null
          ? text
          : `${text}, in conflict with ${shownFieldValue(conflicting)}`;
      };
      return Object.keys(is).map((id) => ({
        what: `${fieldLabel(id)}, as the file says`,
        before: said(was[id]),
        after: said(is[id]),
      }));
    },
  },
} as const satisfies Record<string, PhotoAspect>;
