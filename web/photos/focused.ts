// The photo that has the focus on the sheet.

import type { Photo } from '@stellin/contract/photos';
import { BLOCK, useBlock, type Result } from './queries';
import { useSelection } from './selection';

export function useFocusedPhoto(result: Result): Photo | undefined {
  const { chosen } = useSelection();
  const { data } = useBlock(result, Math.floor((chosen.focus ?? 0) / BLOCK));
  return chosen.focus === null ? undefined : data?.[chosen.focus % BLOCK];
}
