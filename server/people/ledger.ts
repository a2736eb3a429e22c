// How persons, faces and settled names stand in the ledger.

import {
  recordedValues,
  shownValue,
  showGiven,
  NOTHING,
  type NameOf,
  type ObjectKind,
  type PhotoAspect,
} from '../ledger/kinds';
import { FACE_STATE } from './states';

const STATES: Readonly<Record<string, string>> = {
  open: 'not named',
  named: 'named',
  unnamed: 'not to be named',
  none: 'no face',
  removed: NOTHING,
};

function shownFace(value: unknown, nameOf: NameOf): string {
  const { state, person } = recordedValues(value);
  return state === 'named' && typeof person === 'number'
    ? nameOf('person', person)
    : (STATES[String(state)] ?? NOTHING);
}

function refusedBy(value: unknown, nameOf: NameOf): string {
  const { refused } = recordedValues(value);
  return Array.isArray(refused) ? shownValue(refused.map((id) => nameOf('person', Number(id)))) : NOTHING;
}

/** Where a face is: the middle and the size, in parts of the picture. */
function shownBox(value: unknown): string {
  const { box } = recordedValues(value);
  if (!Array.isArray(box)) return NOTHING;
  const [left = 0, top = 0, width = 0, height = 0] = box.map(Number);
  const percent = (part: number) => `${Math.round(part * 100)} %`;
  return `${percent(width)} × ${percent(height)}, ${percent(left)} from the left, ${percent(top)} from the top`;
}

export const peopleAspects = {
  // A face: who it shows, and where. Faces are never removed by changes, only said to be.
  face: {
    effect: (isMeant) => [
      `update face f set state = l.after ->> 'state', person_id = (l.after ->> 'person')::int,
         refused = array(select jsonb_array_elements_text(l.after -> 'refused')::int), box_left = (l.after #>> '{box,0}')::real,
         box_top = (l.after #>> '{box,1}')::real, box_width = (l.after #>> '{box,2}')::real, box_height = (l.after #>> '{box,3}')::real
       from ledger_photo l where ${isMeant} and l.aspect = 'face' and f.id = l.key`,
    ],
    stillBefore: `(select ${FACE_STATE} from face f where f.id = l.key) = l.before`,
    refersTo: (value) => {
      const { person, refused } = recordedValues(value);
      return [person, ...(Array.isArray(refused) ? refused : [])].flatMap((id) =>
        typeof id === 'number' ? [['person', id] as const] : [],
      );
    },
    show: ({ before, after }, nameOf) =>
      [
        { what: 'Face', before: shownFace(before, nameOf), after: shownFace(after, nameOf) },
        { what: 'Face: is not', before: refusedBy(before, nameOf), after: refusedBy(after, nameOf) },
        { what: 'Face: where', before: shownBox(before), after: shownBox(after) },
      ].filter((shown) => shown.before !== shown.after),
  },
  // Who is in it without a face.
  person: {
    effect: (isMeant) => [
      `delete from photo_person g using ledger_photo l
       where ${isMeant} and l.aspect = 'person' and l.after = 'false' and g.photo_id = l.photo_id and g.person_id = l.key`,
      `insert into photo_person (photo_id, person_id) select l.photo_id, l.key from ledger_photo l
       where ${isMeant} and l.aspect = 'person' and l.after = 'true' on conflict do nothing`,
    ],
    stillBefore: `to_jsonb(exists (select 1 from photo_person g where g.photo_id = l.photo_id and g.person_id = l.key)) = l.before`,
    keyOf: 'person',
    show: showGiven('Person', 'person'),
  },
} as const satisfies Record<string, PhotoAspect>;

export const peopleObjects = {
  person: {
    label: 'Person',
    named: 'name',
    columns: {
      name: { label: 'Name' },
      name_folded: 'derived',
      other_names: { label: 'Other names' },
      names_folded: 'derived',
      note: { label: 'Note' },
      born: { label: 'Born' },
      died: { label: 'Died' },
      private: { label: 'Private' },
      detailed: { label: 'Details in files' },
      term_id: { label: 'Term', refersTo: 'term' },
    },
  },
  name_decision: {
    label: 'Decision on a name',
    named: 'name',
    columns: {
      name: { label: 'Name' },
      name_folded: 'derived',
      person_id: { label: 'Person', refersTo: 'person' },
    },
  },
} as const satisfies Record<string, ObjectKind>;
