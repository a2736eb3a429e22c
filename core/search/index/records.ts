// What the finder index is told of each photo, in parts that change for different reasons.

import type { FieldValues } from '../../metadata/fields';
import type { State } from '../../query/criteria';
import type { FileFacts } from '../../metadata/read';
import type { PeopleFacts } from '../said';

/** The bit of each state that a photo’s row says; the others follow from more than its row. */
export const STATE_BITS: Readonly<Record<RowState, number>> = {
  missing: 1,
  bundled: 2,
  lead: 4,
  trashed: 8,
  removed: 16,
  damaged: 32,
  waiting: 64,
  conflict: 128,
  failed: 256,
  written: 512,
  private: 1024,
  sideways: 2048,
};
export type RowState = Exclude<State, 'away' | 'double' | 'disagreeing'>;

/** What stands in the catalogue’s row of a photo. Times are seconds since 1970 of the local time, as if it were UTC. */
export interface RowPart {
  name: string;
  folderId: number;
  kind: string;
  /** Whether its file holds what it should, see core/fixity. */
  fixity: string;
  mark: string;
  takenFrom: number | undefined;
  /** The first second after it; undefined where it is known to the second. */
  takenUntil: number | undefined;
  added: number | undefined;
  rating: number;
  accession: number | undefined;
  /** As seen, after orientation. */
  width: number | undefined;
  height: number | undefined;
  /** Megabytes. */
  size: number;
  /** The bits of its states. */
  states: number;
  /** The lead of its closed bundle, by id, where it is not the lead. */
  foldedInto: number | undefined;
  bundle: number | undefined;
  /** Tells the picture itself from others. */
  pictureHash: string;
}

/** What its file and the catalogue say in words and numbers. */
export interface TextPart {
  caption: string;
  fields: FieldValues;
  facts: FileFacts;
  /** Keywords that are no terms. */
  keywords: readonly string[];
  /** The words of its texts in order, folded, with '' where one text ends and another begins. */
  words: readonly string[];
  /** Whether the blocks of its file disagree. */
  disagreeing: boolean;
  people: PeopleFacts;
  /** The site plans on which it is pinned, and their pins: `Hall`, `Hall/North wall`. */
  plans: readonly string[];
  /** The work lists on which it is done with. */
  done: readonly string[];
}

export interface ChangePart {
  /** Accounts that have changed it, by name. */
  by: readonly string[];
  /** When it was changed last, in seconds as above. */
  at: number | undefined;
}

export interface FolderFacts {
  id: number;
  driveId: string;
  drive: string;
  /** Its path on the drive, '' for the drive itself. */
  path: string;
  /** Whether its drive is away. */
  away: boolean;
}
