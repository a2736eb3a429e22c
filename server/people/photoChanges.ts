// Changes to who is in photos, with a face or without.

import { selectionSql } from '../catalogue/selection';
import { countText } from '@stellin/contract/wording';
import type { Database } from '../database/database';
import type { ChangeHandlers } from '../ledger/service';
import { followPeopleOf } from './following';
import { personFor, requirePerson } from './persons';
import * as records from './entryStore';

export function photoChanges(database: Database): Pick<ChangeHandlers, 'namePhotos' | 'takePersons'> {
  return {
    async namePhotos({ selection, who }, { tx, entryId }) {
      const { id, name } = await personFor(database, who, entryId, tx);
      await records.recordInPhotos(database, entryId, id, selectionSql(selection), tx);
      await followPeopleOf(database, entryId, tx);
      return (photos) => `${name} is in ${countText(photos, 'photo')}`;
    },

    async takePersons({ selection, personId }, { tx, entryId }) {
      const { name } = await requirePerson(database, personId, tx);
      const photos = selectionSql(selection);
      const faces = await records.facesNamed(database, personId, photos, tx);
      await records.recordFaces(database, entryId, faces, { state: 'open', person: null, refuse: personId }, tx);
      await records.recordNotInPhotos(database, entryId, personId, photos, tx);
      await followPeopleOf(database, entryId, tx);
      return (count) => `${name} is not in ${countText(count, 'photo')}`;
    },
  };
}
