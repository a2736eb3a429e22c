// Where the drives of the demo come from.

import { NO_PROVENANCE, type Provenance } from '@stellin/contract/accessions';
import { ARCHIVIST, apply, type Preparing } from './applying';

const SAID: Readonly<Record<string, Partial<Provenance>>> = {
  'Kessel bequest': {
    ...{ number: '2026-004', donor: 'Heirs of Anton Kessel', source: 'Two boxes of prints and glass plates, scanned' },
    agreement: 'Letter of 3 May 2026: the museum keeps and shows them; prints go back to the family on request.',
    ...{ restrictions: 'Not on posters without asking the family', ends: '2036-05-03' },
  },
  'Studio disk': { number: '2026-003', source: 'The museum’s own studio' },
};

export async function sayWhereFrom({ services }: Preparing): Promise<void> {
  for (const { id, driveLabel } of await services.intake.accessions()) {
    const said = SAID[driveLabel];
    if (said)
      await apply(services, ARCHIVIST, { kind: 'describeAccession', accessionId: id, ...NO_PROVENANCE, ...said });
  }
}
