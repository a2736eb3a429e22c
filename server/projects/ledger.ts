// How projects stand in the ledger.

import type { ObjectKind } from '../ledger/kinds';

export const projectObjects = {
  project: {
    label: 'Project',
    // It is called as its dossier is.
    named: null,
    columns: {
      dossier_id: { label: 'Dossier', refersTo: 'dossier' },
      starts: { label: 'Starts' },
      ends: { label: 'Ends' },
      field_set_id: { label: 'Field set', refersTo: 'field_set' },
      template_id: { label: 'Template', refersTo: 'template' },
      rule_id: { label: 'Rule', refersTo: 'quality_rule' },
      closed: { label: 'Closed' },
      created_by: { label: 'Made by', refersTo: 'account' },
    },
  },
} as const satisfies Record<string, ObjectKind>;
