// How fields of photos, and what is prepared for describing them, stand in the ledger.

import { fieldLabel } from '@stellin/core/describing/targets';
import { recordedValues, type NameOf, type ObjectKind, type PhotoAspect, shownFieldValue } from '../ledger/kinds';

/** Values by what their field is called; own fields of a project stand by themselves. */
function byField(recorded: unknown): Map<string, unknown> {
  const values = new Map<string, unknown>();
  for (const [id, value] of Object.entries(recordedValues(recorded)))
    if (id !== 'custom') values.set(fieldLabel(id), value);
    else
      for (const own of Array.isArray(value) ? value.map(recordedValues) : [])
        values.set(String(own['Name']), own['Value']);
  return values;
}

export const describingAspects = {
  // Fields by their ids, those that change; null where there is nothing. What photos say from then on is brought in line by
  // server/describing, since searches find more in a value than the value itself.
  fields: {
    effect: (isMeant) => [
      `insert into field_in_file (photo_id, field, value) select l.photo_id, k.key, l.before -> k.key
       from ledger_photo l cross join jsonb_each(l.after) k where ${isMeant} and l.aspect = 'fields' on conflict do nothing`,
    ],
    stillBefore: `not exists (select 1 from photo_text t cross join jsonb_each(l.before) k
      where t.photo_id = l.photo_id and coalesce(t.fields -> k.key, 'null') <> k.value)`,
    show: ({ before, after }) => {
      const [was, is] = [byField(before), byField(after)];
      return [...new Set([...was.keys(), ...is.keys()])]
        .map((id) => ({ what: id, before: shownFieldValue(was.get(id)), after: shownFieldValue(is.get(id)) }))
        .filter((shown) => shown.before !== shown.after);
    },
  },
} as const satisfies Record<string, PhotoAspect>;

const edits = (value: unknown): string =>
  (Array.isArray(value) ? value : [])
    .map(recordedValues)
    .map(({ target, value: given }) => `${fieldLabel(String(target))}: ${shownFieldValue(given)}`)
    .join('; ');
const terms = (value: unknown, nameOf: NameOf): string =>
  (Array.isArray(value) ? value : []).map((id) => nameOf('term', Number(id))).join(', ');
const fields = (value: unknown): string =>
  (Array.isArray(value) ? value : [])
    .map((entry) => fieldLabel(typeof entry === 'string' ? entry : String(recordedValues(entry)['target'])))
    .join(', ');

export const describingObjects = {
  template: {
    label: 'Template',
    named: 'name',
    columns: {
      name: { label: 'Name' },
      note: { label: 'Note' },
      owner_id: { label: 'Only for', refersTo: 'account' },
      edits: { label: 'Fields', show: edits },
      term_ids: { label: 'Terms', refersTo: 'term', show: terms },
      created_by: { label: 'Made by', refersTo: 'account' },
    },
  },
  field_set: {
    label: 'Field set',
    named: 'name',
    columns: { name: { label: 'Name' }, position: { label: 'Place' }, entries: { label: 'Fields', show: fields } },
  },
  quality_rule: {
    label: 'Rule of what counts as described',
    named: 'name',
    columns: {
      name: { label: 'Name' },
      query: { label: 'Photos' },
      requires: { label: 'Must have', show: fields },
    },
  },
} as const satisfies Record<string, ObjectKind>;
