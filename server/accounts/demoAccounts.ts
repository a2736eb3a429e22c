// Who may sign in to the demo. The passwords are no secret: the demo listens on this machine only, and an archive refuses them.

import type { PresetRole } from '@stellin/core/accounts/permissions';
import type { NewAccount } from './newAccount';

export const DEMO_ACCOUNTS: readonly (NewAccount & { role: PresetRole })[] = [
  { name: 'keeper', displayName: 'Mara Olt', role: 'keeper', password: 'saltmarsh-keeper' },
  { name: 'cataloguer', displayName: 'Henrik Voss', role: 'cataloguer', password: 'saltmarsh-cataloguer' },
  { name: 'viewer', displayName: 'Elin Dorsey', role: 'viewer', password: 'saltmarsh-viewer' },
];

/** Whether a password is one that everybody can read. */
export function isPublished(password: string): boolean {
  return DEMO_ACCOUNTS.some((account) => account.password === password);
}
