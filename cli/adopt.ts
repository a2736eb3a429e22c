// `start --adopt`: makes an archive of what an earlier version mixed with the demo.

import { randomBytes } from 'node:crypto';
import { accountService } from '@stellin/server/accounts/service';
import { openDatabase } from '@stellin/server/database/database';
import { migrate } from '@stellin/server/database/migrate';
import { adoptDatabase, kindOfDatabase } from '@stellin/server/identity';

const KEEPER = 'keeper';

/** Takes the published passwords away, and notes that the database holds an archive. Throws an Error when it is no mixed one. */
export async function adopt(databaseUrl: string): Promise<void> {
  const database = openDatabase(databaseUrl);
  try {
    if ((await kindOfDatabase(database)) !== 'mixed')
      throw new Error(
        '--adopt is for data in which an earlier version has mixed the demo and an archive; this is none',
      );
    await migrate(database);
    const accounts = accountService(database);
    const published = await accounts.withPublishedPassword();
    for (const name of published) {
      const password = randomBytes(12).toString('base64url');
      await accounts.setPassword(name, password);
      if (name === KEEPER)
        console.log(`The new password of ${KEEPER}: ${password}\nIt is shown this once only; note it down.`);
      else await accounts.disable(name);
    }
    await adoptDatabase(database);
    const others = published.filter((name) => name !== KEEPER);
    if (others.length > 0)
      console.log(
        `Disabled, since everybody knew their passwords: ${others.join(', ')} (./stellin account enable NAME).`,
      );
  } finally {
    await database.close();
  }
}
