// The marks of the team.

import type { Mark } from '@stellin/contract/marks';
import type { Database } from '../database/database';
import { listMarks } from './store';

export type Marks = ReturnType<typeof markService>;

export function markService(database: Database) {
  return {
    list: (): Promise<Mark[]> => listMarks(database),
  };
}
