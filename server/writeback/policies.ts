// How files are written, as the team has settled it.

import { writePolicies, type WritePolicies } from '@stellin/contract/writeback';
import type { Database, Transaction } from '../database/database';
import { readSetting, writeSetting } from '../database/settings';

const SETTING = 'writePolicies';

export async function readPolicies(database: Database, tx?: Transaction): Promise<WritePolicies> {
  return writePolicies.parse((await readSetting(database, SETTING, tx)) ?? {});
}

export async function savePolicies(database: Database, policies: WritePolicies, tx: Transaction): Promise<void> {
  await writeSetting(database, SETTING, policies, tx);
}
