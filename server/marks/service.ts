// The marks of the team.

import type { Mark } from '@stellin/contract/marks';
import type { Viewer } from '../catalogue/viewer';
import type { Database } from '../database/database';
import { listMarks } from './store';

export type Marks = ReturnType<typeof markService>;

export function markService(database: Database) {
  return {
    list: (viewer: Viewer): Promise<Mark[]> => listMarks(database, viewer),
  };
}
