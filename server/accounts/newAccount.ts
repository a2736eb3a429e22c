// What is given for an account that is to be made.

import type { PresetRole } from '@stellin/core/accounts/permissions';

/** An account to be made, with its password as it is typed. */
export interface NewAccount {
  name: string;
  displayName: string;
  /** In the whole catalogue; null: none. */
  role: PresetRole | null;
  password: string;
}
