// Who a session belongs to. Plain reads and writes of accounts and sessions go through their models.

import type { Database } from '../database/database';
import type { SignedIn } from '@stellin/contract/accounts';

/** Who holds a session, by the hash of its token, unless it is over or the account disabled. */
export async function holderOf(database: Database, tokenHash: string): Promise<SignedIn | undefined> {
  const [person] = await database.often<SignedIn>(
    `select a.id, a.name, a.display_name as "displayName", a.role
     from session s join account a on a.id = s.account_id
     where s.token_hash = $1 and s.expires_at > now() and a.disabled_at is null`,
    [tokenHash],
  );
  return person;
}
