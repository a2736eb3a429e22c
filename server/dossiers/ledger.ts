// How dossiers stand in the ledger, and photos in them.

import { NOTHING, type ObjectKind, type PhotoAspect } from '../ledger/kinds';

export const dossierAspects = {
  // The place in it, or false.
  dossier: {
    effect: (isMeant) => [
      `delete from dossier_photo d using ledger_photo l
       where ${isMeant} and l.aspect = 'dossier' and l.after = 'false' and d.photo_id = l.photo_id and d.dossier_id = l.key`,
      `insert into dossier_photo (dossier_id, photo_id, position)
       select l.key, l.photo_id, (l.after)::float8 from ledger_photo l where ${isMeant} and l.aspect = 'dossier' and l.after <> 'false'
       on conflict (dossier_id, photo_id) do update set position = excluded.position`,
    ],
    stillBefore: `coalesce((select to_jsonb(d.position) from dossier_photo d where d.photo_id = l.photo_id and d.dossier_id = l.key), 'false') = l.before`,
    keyOf: 'dossier',
    show: ({ key, before, after }, nameOf) => {
      const place = (value: unknown) =>
        value === false ? NOTHING : before !== false && after !== false ? `place ${String(value)}` : 'in it';
      return [{ what: `Dossier “${nameOf('dossier', key)}”`, before: place(before), after: place(after) }];
    },
  },
} as const satisfies Record<string, PhotoAspect>;

export const dossierObjects = {
  dossier: {
    label: 'Dossier',
    named: 'name',
    columns: {
      parent_id: { label: 'Within', refersTo: 'dossier' },
      name: { label: 'Name' },
      name_folded: 'derived',
      note: { label: 'Note' },
      colour: { label: 'Colour' },
      cover_photo: { label: 'Cover', refersTo: 'photo' },
      position: { label: 'Place among its neighbours' },
      created_by: { label: 'Made by', refersTo: 'account' },
    },
  },
} as const satisfies Record<string, ObjectKind>;
