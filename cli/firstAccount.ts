// An archive of one's own starts with nobody in it: the first keeper is made, with a password that is shown once.

import { randomBytes } from 'node:crypto';
import type { Services } from '@stellin/server/services';

export async function firstAccount({ accounts }: Services): Promise<void> {
  if ((await accounts.count()) > 0) return;
  const password = randomBytes(9).toString('base64url');
  await accounts.ensure([{ name: 'keeper', displayName: 'Keeper', role: 'keeper', password }]);
  console.log(
    `\nThe first account: sign in as keeper with the password ${password}\nIt is shown this once only; note it down.`,
  );
}
