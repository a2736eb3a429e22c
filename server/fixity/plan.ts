// When drives are read again by themselves: the plan as it is settled.

import { fixityPlan, USUAL_FIXITY_PLAN, type FixityPlan } from '@stellin/contract/fixity';
import type { Database } from '../database/database';
import { readSetting, writeSetting } from '../database/settings';

const SETTING = 'fixity';

export async function readFixityPlan(database: Database): Promise<FixityPlan> {
  const known = await readSetting(database, SETTING);
  return known === undefined ? USUAL_FIXITY_PLAN : fixityPlan.parse(known);
}

export async function writeFixityPlan(database: Database, plan: FixityPlan): Promise<void> {
  await writeSetting(database, SETTING, plan);
}
