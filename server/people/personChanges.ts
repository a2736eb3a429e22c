// Changes to persons: what is said of them, merging, splitting, removing.

import { followName } from '@stellin/core/people/naming';
import { edtfInterval } from '@stellin/core/timeplace/edtf';
import type { Transaction, Database } from '../database/database';
import { StellinError } from '../errors';
import { ALL_PHOTOS } from '../catalogue/selection';
import { recordObject } from '../ledger/recordStore';
import type { Search } from '../search/service';
import * as incoming from './namesStore';
import { requireFree, rowOf, said, personFor, requirePerson } from './persons';
import { photosWithPerson, type PersonRow } from './store';
import { countText } from '@stellin/contract/wording';
import type { ChangeHandlers } from '../ledger/service';
import { followPeopleOf } from './following';
import * as records from './entryStore';

export function personChanges(
  database: Database,
  search: Search,
): Pick<ChangeHandlers, 'savePerson' | 'mergePersons' | 'splitPerson' | 'removePerson'> {
  return {
    async savePerson({ kind: _, personId, ...given }, { tx, entryId }) {
      for (const date of [given.born, given.died])
        if (date !== '' && edtfInterval(date) === undefined)
          throw new StellinError('describingRefused', {
            why: `“${date}” is no date, such as 1932, 1932~ or 1951-06-02`,
          });
      const before = personId === null ? null : await requirePerson(database, personId, tx);
      await requireFree(database, given.name, personId, tx);
      const after = rowOf(given);
      await recordObject<PersonRow>(database, entryId, 'person', before, after, tx);
      if (before && before.name !== after.name) await renameInSearches(search, entryId, before.name, after.name, tx);
      await followPeopleOf(database, entryId, tx);
      if (!before) return () => `Add ${after.name}`;
      return () => (before.name === after.name ? `Change ${after.name}` : `Rename ${before.name} to ${after.name}`);
    },

    async mergePersons({ personIds, intoId }, { tx, entryId }) {
      const into = await requirePerson(database, intoId, tx);
      const gone: PersonRow[] = [];
      for (const id of new Set(personIds)) if (id !== intoId) gone.push(await requirePerson(database, id, tx));
      const otherNames = [...into.other_names];
      for (const person of gone) {
        await giveAll(database, entryId, person.id, intoId, tx);
        await recordObject<PersonRow>(database, entryId, 'person', person, null, tx);
        await renameInSearches(search, entryId, person.name, into.name, tx);
        for (const name of [person.name, ...person.other_names])
          if (name !== into.name && !otherNames.includes(name)) otherNames.push(name);
      }
      await recordObject<PersonRow>(database, entryId, 'person', into, rowOf({ ...said(into), otherNames }), tx);
      await followPeopleOf(database, entryId, tx);
      return () => `Merge ${gone.map(({ name }) => name).join(', ')} into ${into.name}`;
    },

    async splitPerson({ personId, faceIds, name }, { tx, entryId }) {
      const person = await requirePerson(database, personId, tx);
      const made = await personFor(database, { name }, entryId, tx);
      await records.recordFaces(database, entryId, faceIds, { state: 'named', person: made.id, refuse: personId }, tx);
      await followPeopleOf(database, entryId, tx);
      return () => `Split ${countText(faceIds.length, 'face')} of ${person.name} off as ${name}`;
    },

    async removePerson({ personId }, { tx, entryId }) {
      const person = await requirePerson(database, personId, tx);
      const faces = await records.facesNamed(database, personId, undefined, tx);
      await records.recordFaces(database, entryId, faces, { state: 'open', person: null }, tx);
      await records.recordNotInPhotos(database, entryId, personId, ALL_PHOTOS, tx);
      for (const decision of await incoming.listDecisions(database, tx))
        if (decision.person_id === personId)
          await recordObject<incoming.DecisionRow>(database, entryId, 'name_decision', decision, null, tx);
      await recordObject<PersonRow>(database, entryId, 'person', person, null, tx);
      await followPeopleOf(database, entryId, tx);
      return () => `Remove ${person.name}; ${countText(faces.length, 'face')} are not named any more`;
    },
  };
}

/** Everything of one person becomes another’s. */
async function giveAll(database: Database, entryId: number, from: number, to: number, tx: Transaction): Promise<void> {
  const faces = await records.facesNamed(database, from, undefined, tx);
  await records.recordFaces(database, entryId, faces, { state: 'named', person: to, allow: to }, tx);
  const theirs = photosWithPerson(from);
  await records.recordInPhotos(database, entryId, to, theirs, tx);
  await records.recordNotInPhotos(database, entryId, from, theirs, tx);
  await records.recordNotInPhotos(database, entryId, to, 'with a face', tx);
  for (const decision of await incoming.listDecisions(database, tx))
    if (decision.person_id === from)
      await recordObject<incoming.DecisionRow>(
        database,
        entryId,
        'name_decision',
        decision,
        { ...decision, person_id: to },
        tx,
      );
}

function renameInSearches(
  search: Search,
  entryId: number,
  from: string,
  to: string,
  tx: Transaction,
): Promise<unknown> {
  return search.rewrite(entryId, (query) => followName(query, from, to), tx);
}
