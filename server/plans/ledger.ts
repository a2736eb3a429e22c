// How site plans stand in the ledger, and photos at their pins.

import { showGiven, type ObjectKind, type PhotoAspect } from '../ledger/kinds';

export const planAspects = {
  // Whether the pin holds it.
  pin: {
    effect: (isMeant) => [
      `delete from plan_photo h using ledger_photo l
       where ${isMeant} and l.aspect = 'pin' and l.after = 'false' and h.photo_id = l.photo_id and h.pin_id = l.key`,
      `insert into plan_photo (pin_id, photo_id)
       select l.key, l.photo_id from ledger_photo l where ${isMeant} and l.aspect = 'pin' and l.after = 'true' on conflict do nothing`,
    ],
    stillBefore: `to_jsonb(exists (select 1 from plan_photo h where h.photo_id = l.photo_id and h.pin_id = l.key)) = l.before`,
    keyOf: 'plan_pin',
    show: showGiven('Pin', 'plan_pin'),
  },
} as const satisfies Record<string, PhotoAspect>;

export const planObjects = {
  plan: {
    label: 'Site plan',
    named: 'name',
    columns: {
      name: { label: 'Name' },
      name_folded: 'derived',
      note: { label: 'Note' },
      picture_id: 'derived',
      ties: { label: 'Tied to the map' },
      created_by: { label: 'Made by', refersTo: 'account' },
    },
  },
  plan_pin: {
    label: 'Pin',
    named: 'name',
    columns: {
      plan_id: { label: 'On the plan', refersTo: 'plan' },
      kind: { label: 'Kind' },
      number: { label: 'Number' },
      x: { label: 'From the left' },
      y: { label: 'From the top' },
      corners: { label: 'Outline' },
      direction: { label: 'Looks (degrees)' },
      label: { label: 'Label' },
      name: 'derived',
      name_folded: 'derived',
      note: { label: 'Note' },
      colour: { label: 'Colour' },
      shape: { label: 'Shape' },
      layer: { label: 'Layer' },
      term_id: { label: 'Term', refersTo: 'term' },
      place_id: { label: 'Place', refersTo: 'own_place' },
      created_by: { label: 'Made by', refersTo: 'account' },
    },
  },
} as const satisfies Record<string, ObjectKind>;
