// How marks stand in the ledger, and photos with them.

import { recordedValues, shownValue, type ObjectKind, type PhotoAspect } from '../ledger/kinds';

export const markAspects = {
  mark: {
    effect: (isMeant) => [
      `update photo p set mark = l.after ->> 'name', mark_folded = l.after ->> 'folded' from ledger_photo l
       where ${isMeant} and l.aspect = 'mark' and p.id = l.photo_id`,
    ],
    stillBefore: `(select jsonb_build_object('name', p.mark, 'folded', p.mark_folded) from photo p where p.id = l.photo_id) = l.before`,
    show: ({ before, after }) => {
      const name = (value: unknown) => shownValue(recordedValues(value)['name']);
      return [{ what: 'Mark', before: name(before), after: name(after) }];
    },
  },
} as const satisfies Record<string, PhotoAspect>;

export const markObjects = {
  mark: {
    label: 'Mark',
    named: 'name',
    columns: {
      name: { label: 'Name' },
      name_folded: 'derived',
      letter: { label: 'Letter' },
      colour: { label: 'Colour' },
    },
  },
} as const satisfies Record<string, ObjectKind>;
