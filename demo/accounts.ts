// Who may sign in to the demo. The passwords are no secret: the demo listens on this machine only.

import type { NewAccount } from '@stellin/server/accounts/service';

export const DEMO_ACCOUNTS: readonly NewAccount[] = [
  { name: 'keeper', displayName: 'Mara Olt', role: 'keeper', password: 'saltmarsh-keeper' },
  { name: 'cataloguer', displayName: 'Henrik Voss', role: 'cataloguer', password: 'saltmarsh-cataloguer' },
  { name: 'viewer', displayName: 'Elin Dorsey', role: 'viewer', password: 'saltmarsh-viewer' },
];
