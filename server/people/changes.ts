// What changes to people do. What files say of people follows: the fields are recorded along, so that undo brings them back too.

import type { Database } from '../database/database';
import type { Search } from '../search/service';
import { faceChanges } from './faceChanges';
import { nameChanges } from './nameChanges';
import { personChanges } from './personChanges';
import { photoChanges } from './photoChanges';

export function peopleChanges(database: Database, search: Search) {
  return {
    ...faceChanges(database),
    ...photoChanges(database),
    ...personChanges(database, search),
    ...nameChanges(database),
  };
}
