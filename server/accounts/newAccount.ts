// What is given for an account that is to be made.

import type { Role } from '@stellin/contract/route';

/** An account to be made, with its password as it is typed. */
export interface NewAccount {
  name: string;
  displayName: string;
  role: Role;
  password: string;
}
