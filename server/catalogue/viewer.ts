// Who looks at the catalogue, and what of it exists for them.

import type { Permission } from '@stellin/core/accounts/permissions';
import { sightOf, type Right, type Sight } from '@stellin/core/accounts/sight';
import type { Viewpoint } from '@stellin/core/search/viewpoint';
import type { SignedIn } from '@stellin/contract/accounts';
import { today } from './clock';

export interface Viewer {
  /** Null: the program itself. */
  accountId: number | null;
  sight: Sight;
  /** Private persons exist for them. */
  knowsPrivate: boolean;
  /** In which language they like to read, after BCP 47; null: none is preferred. */
  language: string | null;
}

/** Somebody with an account, and what they may do where. */
export interface Person extends SignedIn, Viewer {
  accountId: number;
  held: readonly Right[];
}

/** The program itself, which answers to nobody. */
export const PROGRAM: Viewer = { accountId: null, sight: null, knowsPrivate: true, language: null };

/** Whether whole parts of the catalogue do not exist for somebody, not only what is private. */
export function seesOnlyParts({ sight }: Viewer): boolean {
  return sight !== null && !sight.some(({ scope }) => scope.kind === 'catalogue');
}

/** How the finder index is asked for somebody now. */
export function viewpointOf({ sight, knowsPrivate }: Viewer): Viewpoint {
  return { today: today(), sight, knowsPrivate };
}

/** The photos of which somebody has a permission. */
export function reachOf({ held }: Person, permission: Permission): Sight {
  return sightOf(held, permission);
}

/** Whether somebody may change what one person has made for everybody: who made it, and who keeps the vocabulary. */
export function mayAlter(
  person: Pick<Person, 'accountId' | 'everywhere'>,
  { owner_id: owner, created_by: maker }: { owner_id: number | null; created_by: number | null },
): boolean {
  return owner === person.accountId || maker === person.accountId || person.everywhere.includes('vocabulary');
}

/** Whose of what people make for themselves somebody sees, as their account: null for everybody's. */
export function ownOrAll({ everywhere, accountId }: Person): number | null {
  return everywhere.includes('administer') ? null : accountId;
}
