// The tables of pictures that were told apart.

import { integer, table } from './table';

/** Pairs of pictures that look alike and are different ones. */
export const TOLD_APART = table('told_apart', {
  id: integer({ key: true, preset: true }),
  /** The lower id. */
  photoId: integer({ of: 'photo' }),
  /** The higher id. */
  otherId: integer({ of: 'photo' }),
});
