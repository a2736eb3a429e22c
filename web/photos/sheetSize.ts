// How large photos are on the sheet, remembered by the browser.

import { z } from 'zod';
import { useStored } from '../foundation/useStored';

/** Heights of a row of pictures, in pixels. */
export const SHEET_SIZES = [
  { height: 84, label: 'Dense' },
  { height: 132, label: 'Usual' },
  { height: 210, label: 'Large' },
  { height: 330, label: 'Very large' },
] as const;
const USUAL = 132;

export function useSheetSize(): [number, (height: number) => void] {
  const [height, setHeight] = useStored('sheet', z.number(), USUAL);
  return [SHEET_SIZES.some((size) => size.height === height) ? height : USUAL, setHeight];
}
