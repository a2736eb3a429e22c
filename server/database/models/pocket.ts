// The photos that people put aside for themselves.

import { bigint, integer, table } from './table';

export const POCKET_PHOTO = table('pocket_photo', {
  accountId: integer({ key: true, of: 'account' }),
  photoId: integer({ key: true, of: 'photo' }),
  /** In which order they were put in. */
  position: bigint({ preset: true }),
});
