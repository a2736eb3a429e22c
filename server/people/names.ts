// Names that photos give: those of persons of the catalogue are recognised by themselves, the others wait to be settled.

import { matchBoxes } from '@stellin/core/people/boxes';
import { regionBoxes } from '@stellin/core/people/regions';
import { foldText } from '@stellin/core/text/words';
import { PROGRAM } from '../catalogue/viewer';
import type { Database, Transaction } from '../database/database';
import * as incoming from './namesStore';
import { listPersons } from './store';

/** Persons by any of their names, folded, and by what was settled of names in files. */
async function personsByName(database: Database, tx?: Transaction): Promise<Map<string, number>> {
  const persons = new Map<string, number>();
  for (const { id, names_folded } of await listPersons(database, PROGRAM, tx))
    for (const name of names_folded) persons.set(name, id);
  for (const { name_folded, person_id } of await incoming.listDecisions(database, tx))
    if (person_id !== null) persons.set(name_folded, person_id);
  return persons;
}

/** Brings who is in photos in line with the names they give, after they were read, described or looked at. */
export async function namesFound(database: Database, photoIds: readonly number[], tx?: Transaction): Promise<void> {
  if (photoIds.length === 0) return;
  const photos = await incoming.namedPhotos(database, photoIds, tx);
  const given = photos.flatMap(({ id, names }) =>
    names.filter((name) => name.trim() !== '').map((name) => ({ photoId: id, name, folded: foldText(name) })),
  );
  await incoming.noteNames(database, photoIds, JSON.stringify(given), tx);
  const persons = await personsByName(database, tx);
  const faces: { faceId: number; personId: number }[] = [];
  const inPhotos: { photoId: number; personId: number }[] = [];
  for (const photo of photos) {
    const regions = regionBoxes(photo.regions ?? undefined, photo);
    for (const [our, their] of matchBoxes(
      photo.faces.map(({ box }) => box),
      regions,
    )) {
      const personId = persons.get(foldText(regions[their]?.name ?? ''));
      const face = photo.faces[our];
      if (face && personId !== undefined) faces.push({ faceId: face.id, personId });
    }
    for (const folded of [...photo.names.map(foldText), ...photo.keywords]) {
      const personId = persons.get(folded);
      if (personId !== undefined) inPhotos.push({ photoId: photo.id, personId });
    }
  }
  await incoming.nameFromFiles(database, { faces, photos: inPhotos, looked: [...photoIds] }, tx);
}
