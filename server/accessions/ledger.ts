// How what is said of accessions stands in the ledger.

import type { ObjectKind } from '../ledger/kinds';

export const accessionObjects = {
  provenance: {
    label: 'Accession',
    named: 'number',
    columns: {
      accession_id: { label: 'Accession' },
      number: { label: 'Number' },
      source: { label: 'Source' },
      donor: { label: 'Donor' },
      agreement: { label: 'Agreement' },
      restrictions: { label: 'Restrictions' },
      ends: { label: 'Holds until' },
      note: { label: 'Note' },
    },
  },
} as const satisfies Record<string, ObjectKind>;
