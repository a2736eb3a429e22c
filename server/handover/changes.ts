// What taking in does: pictures that came back become derivatives of their originals, and say what those say; words become those of the
// photo they are about. All of it is one step.

import type { FieldEdit } from '@stellin/core/describing/editing';
import type { FieldValues } from '@stellin/core/metadata/fields';
import { countText } from '@stellin/contract/wording';
import { idsSql } from '../catalogue/selection';
import type { VocabularyIndex } from '../catalogue/vocabularySnapshot';
import type { Bundles } from '../bundles/service';
import type { Database } from '../database/database';
import type { Describing, DescriptionRecorder, Given } from '../describing/service';
import { StellinError } from '../errors';
import type { Filing } from '../filing/service';
import type { ChangeContext, ChangeHandlers } from '../ledger/service';
import { saysOfDerivative, saysOfOriginal } from './says';
import * as store from './store';

interface Parts {
  database: Database;
  describing: Pick<Describing, 'whatPhotosHave'>;
  descriptions: Pick<DescriptionRecorder, 'recordEach' | 'recordGiven'>;
  terms: VocabularyIndex;
  bundles: Pick<Bundles, 'recordJoining'>;
  filing: Pick<Filing, 'recordArrived'>;
}

export function handoverChanges(parts: Parts): Pick<ChangeHandlers, 'takeReturned'> {
  const { database, describing, descriptions, terms, bundles, filing } = parts;

  /** Records what photos say from now on. */
  const recordWords = async (files: ReadonlyMap<number, store.ReturnedFile>, context: ChangeContext): Promise<void> => {
    const { tx } = context;
    const matcher = (await terms.seenIn(tx)).matcher();
    const edits = async (page: readonly { id: number; fields: string }[]) => {
      const originals = page.flatMap(({ id }) => files.get(id)?.originalId ?? []);
      const all = [...new Set([...page.map(({ id }) => id), ...originals])];
      const has = new Map((await describing.whatPhotosHave(all, tx)).map((each) => [each.id, each]));
      const given: Given[] = [];
      const made = new Map<number, FieldEdit[]>();
      for (const { id, fields } of page) {
        const file = files.get(id);
        const [own, original] = [has.get(id), has.get(file?.originalId ?? 0)];
        if (!file || !own || !original) continue;
        const says =
          file.kind === 'words'
            ? saysOfOriginal(file, own, matcher)
            : saysOfDerivative(file, original, { id, fields: JSON.parse(fields) as FieldValues, has: own });
        given.push(says.given);
        made.set(id, says.edits);
      }
      await descriptions.recordGiven(given, context);
      return made;
    };
    await descriptions.recordEach(idsSql([...files.keys()]), edits, context);
  };

  return {
    async takeReturned({ deliveryId, ids }, context) {
      const { tx, entryId } = context;
      const files = await store.takeable(database, deliveryId, ids, tx);
      const taken = files.flatMap((file) => {
        const photoId = file.kind === 'words' ? file.originalId : file.photoId;
        return photoId === null ? [] : [{ file, photoId }];
      });
      if (taken.length === 0) throw new StellinError('nothingToDo', { why: 'Nothing of that waits to be taken in.' });
      const pictures = taken.filter(({ file }) => file.kind === 'picture');
      const pictureIds = pictures.map(({ photoId }) => photoId);
      await recordWords(new Map(taken.map(({ file, photoId }) => [photoId, file])), context);
      await filing.recordArrived(entryId, pictureIds, tx);
      await bundles.recordJoining(
        entryId,
        pictures.flatMap(({ file: { originalId }, photoId }) => (originalId === null ? [] : [{ photoId, originalId }])),
        tx,
      );
      // A picture of what is private is private.
      const secret = pictures.flatMap(({ file, photoId }) => (file.isPrivate ? [photoId] : []));
      await store.recordPrivate(database, entryId, secret, tx);
      await store.noteTaken(
        database,
        entryId,
        taken.map(({ file: { id, kind }, photoId }) => ({ id, photoId: kind === 'picture' ? photoId : null })),
        tx,
      );
      return () => `Take in ${countText(taken.length, 'file')} that came back`;
    },
  };
}
