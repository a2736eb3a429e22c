// How large photos are on the sheet, remembered by the browser.

import { useEffect, useState } from 'react';

/** Heights of a row of pictures, in pixels. */
export const SHEET_SIZES = [
  { height: 84, label: 'Dense' },
  { height: 132, label: 'Usual' },
  { height: 210, label: 'Large' },
  { height: 330, label: 'Very large' },
] as const;
const USUAL = 132;
const STORED = 'stellin.sheet';

export function useSheetSize(): [number, (height: number) => void] {
  const [height, setHeight] = useState(() => {
    const kept = Number(localStorage.getItem(STORED));
    return SHEET_SIZES.some((size) => size.height === kept) ? kept : USUAL;
  });
  useEffect(() => localStorage.setItem(STORED, String(height)), [height]);
  return [height, setHeight];
}
