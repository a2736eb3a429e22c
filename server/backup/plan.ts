// When backups are made and where they are kept: the plan as it is settled.

import { backupPlan, USUAL_PLAN, type BackupPlan } from '@stellin/contract/backup';
import { z } from 'zod';
import type { Database } from '../database/database';
import { readSetting, writeSetting } from '../database/settings';

const SETTING = 'backups';
const setting = z.object({
  plan: backupPlan,
  /** From when on backups are made by themselves. */
  since: z.iso.datetime().transform((at) => new Date(at)),
});

/** The plan, and since when it stands. One that nobody has changed yet is the usual one, from the first look on. */
export async function readPlan(database: Database): Promise<z.output<typeof setting>> {
  const known = await readSetting(database, SETTING);
  if (known !== undefined) return setting.parse(known);
  await writePlan(database, USUAL_PLAN);
  return { plan: USUAL_PLAN, since: new Date() };
}

export async function writePlan(database: Database, plan: BackupPlan): Promise<void> {
  await writeSetting(database, SETTING, { plan, since: new Date().toISOString() } satisfies z.input<typeof setting>);
}
