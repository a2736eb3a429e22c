// Changes to faces: who they show, what they are, where they are.

import { withinPicture } from '@stellin/core/people/boxes';
import { StellinError } from '../errors';
import { countText } from '@stellin/contract/wording';
import type { Database } from '../database/database';
import type { ChangeHandlers } from '../ledger/service';
import { followPeopleOf } from './following';
import { personFor, requirePerson } from './persons';
import * as records from './entryStore';

const STATE_TITLES = {
  open: 'Take the name off',
  unnamed: 'Leave without a name',
  none: 'Say that they are none:',
  removed: 'Remove',
} as const;

export function faceChanges(
  database: Database,
): Pick<ChangeHandlers, 'nameFaces' | 'refuseFaces' | 'setFaces' | 'drawFace' | 'moveFace'> {
  return {
    async nameFaces({ faceIds, who, notFaceIds }, { tx, entryId }) {
      const { id, name } = await personFor(database, who, entryId, tx);
      await records.recordFaces(database, entryId, faceIds, { state: 'named', person: id, allow: id }, tx);
      if (notFaceIds.length > 0) await records.recordFaces(database, entryId, notFaceIds, { refuse: id }, tx);
      await records.recordNotInPhotos(database, entryId, id, 'with a face', tx);
      await followPeopleOf(database, entryId, tx);
      return () => `Name ${countText(faceIds.length, 'face')} ${name}`;
    },

    async refuseFaces({ faceIds, personId }, { tx, entryId }) {
      const { name } = await requirePerson(database, personId, tx);
      const named = new Set(await records.facesNamed(database, personId, undefined, tx));
      const [theirs, others] = [faceIds.filter((id) => named.has(id)), faceIds.filter((id) => !named.has(id))];
      await records.recordFaces(database, entryId, theirs, { state: 'open', person: null, refuse: personId }, tx);
      await records.recordFaces(database, entryId, others, { refuse: personId }, tx);
      await followPeopleOf(database, entryId, tx);
      return () => `${countText(faceIds.length, 'face')}: not ${name}`;
    },

    async setFaces({ faceIds, state }, { tx, entryId }) {
      await records.recordFaces(database, entryId, faceIds, { state, person: null }, tx);
      await followPeopleOf(database, entryId, tx);
      return () => `${STATE_TITLES[state]} ${countText(faceIds.length, 'face')}`;
    },

    async drawFace({ photoId, box, who }, { tx, entryId }) {
      const person = who && (await personFor(database, who, entryId, tx));
      const faceId = await records.insertDrawn(database, photoId, requireBox(box), tx);
      if (faceId === 0) throw new StellinError('notFound', { what: 'such photo' });
      await records.recordDrawn(database, entryId, faceId, person?.id ?? null, tx);
      if (person) await records.recordNotInPhotos(database, entryId, person.id, 'with a face', tx);
      await followPeopleOf(database, entryId, tx);
      return () => (person ? `Draw a face: ${person.name}` : 'Draw a face');
    },

    async moveFace({ faceId, box }, { tx, entryId }) {
      await records.recordFaces(database, entryId, [faceId], { box: requireBox(box) }, tx);
      await followPeopleOf(database, entryId, tx);
      return () => 'Move the box of a face';
    },
  };
}

function requireBox(given: Parameters<typeof withinPicture>[0]) {
  const box = withinPicture(given);
  if (box.width < 0.002 || box.height < 0.002)
    throw new StellinError('describingRefused', { why: 'the box is too small to hold a face' });
  return box;
}
