// Persons that a name or a keyword of a file probably means: called so, or almost so.

import { SlipIndex } from '@stellin/core/vocabulary/slips';
import { pathOf } from '@stellin/core/vocabulary/matching';
import { foldText } from '@stellin/core/text/words';
import { PROGRAM } from '../catalogue/viewer';
import type { Database } from '../database/database';
import { listPersons } from './store';

export interface ProposedPerson {
  id: number;
  name: string;
  /** Whether the name is just one of theirs. */
  same: boolean;
}

/** For some names the persons they probably mean; of paths (`People|Ida Brandt`) the last step counts. */
export async function proposePersons(
  database: Database,
  names: readonly string[],
): Promise<(ProposedPerson | undefined)[]> {
  const slips = new SlipIndex<ProposedPerson>();
  const called = new Map<string, ProposedPerson>();
  for (const { id, name, names_folded } of await listPersons(database, PROGRAM))
    for (const folded of names_folded) {
      called.set(folded, { id, name, same: true });
      slips.add(folded, { id, name, same: false });
    }
  return names.map((given) => {
    const folded = foldText(pathOf(given)?.at(-1) ?? given);
    return called.get(folded) ?? slips.misspelt(folded)[0];
  });
}
