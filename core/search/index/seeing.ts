// A person’s sight as a set of photos, which all that is found for them is found within.

import type { Scope, Sight } from '../../accounts/sight';
import { criterion } from '../../query/query';
import type { FinderIndex } from './finderIndex';
import type { Meet } from './matching';
import type { PhotoSet } from './photoSet';

const PRIVATE = criterion('is', 'private');

/** The photos within a sight, as a set of its own; `meet` finds those that meet a query. */
export function seenSet(index: FinderIndex, sight: NonNullable<Sight>, meet: Meet): PhotoSet {
  const found = index.empty();
  for (const { scope, private: withPrivate } of sight) {
    const part = MEANINGS[scope.kind](index, scope as never, meet).keepOnly(index.live());
    found.addAll(withPrivate ? part : part.takeOut(meet(PRIVATE)));
  }
  return found;
}

/** The photos of a part of the catalogue, as a set of its own. */
const MEANINGS: {
  [Kind in Scope['kind']]: (index: FinderIndex, scope: Extract<Scope, { kind: Kind }>, meet: Meet) => PhotoSet;
} = {
  catalogue: (index) => index.sets.copy(index.live()),
  drive: (index, { driveId }) => index.inFoldersMeeting((folder) => folder.driveId === driveId),
  folder: (index, { folderId }) => {
    const top = index.folders.get(folderId);
    if (!top) return index.empty();
    return index.inFoldersMeeting(
      ({ driveId, path }) =>
        driveId === top.driveId && (top.path === '' || path === top.path || path.startsWith(`${top.path}/`)),
    );
  },
  dossier: (index, { dossierId }) =>
    index.dossierIds.having(index.dossiers.within(new Set([dossierId])), index.empty()),
  search: (index, { query }, meet) => index.sets.copy(meet(query)),
};
