// Settling the names that files bring: who they stand for, and the faces and photos that get it thereby.

import { matchBoxes } from '@stellin/core/people/boxes';
import { regionBoxes } from '@stellin/core/people/regions';
import { foldText } from '@stellin/core/text/words';
import type { Transaction, Database } from '../database/database';
import { recordObject } from '../ledger/recordStore';
import * as incoming from './namesStore';
import { countText } from '@stellin/contract/wording';
import type { ChangeHandlers } from '../ledger/service';
import { followPeopleOf } from './following';
import { personFor } from './persons';
import { idsSql } from '../catalogue/selection';
import * as records from './entryStore';

export function nameChanges(database: Database): Pick<ChangeHandlers, 'settleNames'> {
  return {
    async settleNames({ decisions }, { tx, entryId }) {
      const known = await incoming.listDecisions(database, tx);
      const persons = new Map<string, number>();
      for (const { name, who } of decisions) {
        const person = who && (await personFor(database, who, entryId, tx));
        const folded = foldText(name);
        if (person) persons.set(folded, person.id);
        const before = known.find((decision) => decision.name_folded === folded) ?? null;
        const after = { name, name_folded: folded, person_id: person?.id ?? null };
        await recordObject<incoming.DecisionRow>(database, entryId, 'name_decision', before, after, tx);
      }
      await nameByFiles(database, entryId, persons, tx);
      await followPeopleOf(database, entryId, tx, persons);
      return (photos) => `Settle ${countText(decisions.length, 'name')}: ${countText(photos, 'photo')}`;
    },
  };
}

/** Names the faces that regions of files name, and the photos whose files give the names without a region. */
async function nameByFiles(
  database: Database,
  entryId: number,
  persons: ReadonlyMap<string, number>,
  tx: Transaction,
): Promise<void> {
  const photos = await incoming.photosGiving(database, [...persons.keys()], tx);
  const faces = new Map<number, number[]>();
  const without = new Map<number, number[]>();
  for (const photo of photos) {
    const regions = regionBoxes(photo.regions ?? undefined, photo);
    const shown = new Set<number>();
    for (const [our, their] of matchBoxes(
      photo.faces.map(({ box }) => box),
      regions,
    )) {
      const [face, person] = [photo.faces[our], persons.get(foldText(regions[their]?.name ?? ''))];
      if (!face || person === undefined || face.state !== 'open') continue;
      faces.set(person, [...(faces.get(person) ?? []), face.id]);
      shown.add(person);
    }
    for (const folded of [...photo.names.map(foldText), ...photo.keywords]) {
      const person = persons.get(folded);
      if (person !== undefined && !shown.has(person)) without.set(person, [...(without.get(person) ?? []), photo.id]);
    }
  }
  for (const [person, ids] of faces)
    await records.recordFaces(database, entryId, ids, { state: 'named', person, allow: person }, tx);
  for (const [person, ids] of without) await records.recordInPhotos(database, entryId, person, idsSql(ids), tx);
}
