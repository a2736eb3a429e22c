// `./stellin ledger verify`: whether the ledger is as it was written.

import { countText } from '@stellin/contract/wording';
import { readConfig } from '@stellin/server/config';
import { sealLedger, verifyLedger, type Book } from '@stellin/server/ledger/sealing';
import { withDatabase } from './withDatabase';

const BOOKS: Readonly<Record<Book, string>> = { changes: 'What was changed', access: 'The record of access' };

interface Given {
  /** Hashes that this command has told before. */
  known: readonly string[];
  demo?: boolean;
}

/** Seals what is new, looks whether all that is sealed is unaltered, and tells the last hash of each chain. 1 when it is not. */
export function verifyLedgerCommand({ known, demo = false }: Given): Promise<number> {
  return withDatabase(readConfig(demo ? 'demo' : 'archive'), async (database) => {
    await sealLedger(database);
    const verified = await verifyLedger(database, known);
    for (const { book, entries, seals, head, problems } of verified) {
      const size = `${countText(entries, 'entry', 'entries')}, ${countText(seals, 'seal')}`;
      console.log(`${BOOKS[book]}: ${problems.length === 0 ? 'unaltered' : 'ALTERED'} (${size})`);
      for (const problem of problems) console.log(`  ${problem}`);
      if (head !== '') console.log(`  its last hash: ${head}`);
    }
    const isWhole = verified.every(({ problems }) => problems.length === 0);
    if (isWhole)
      console.log('Keep the hashes elsewhere: --known HASH tells later whether anything before was rewritten.');
    return isWhole ? 0 : 1;
  });
}
