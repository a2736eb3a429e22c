// Whether the sheet shows headings, remembered by the browser.

import { useEffect, useState } from 'react';

const STORED = 'stellin.headings';

export function useHeadings(): [boolean, (shown: boolean) => void] {
  const [shown, setShown] = useState(() => localStorage.getItem(STORED) === 'yes');
  useEffect(() => localStorage.setItem(STORED, shown ? 'yes' : 'no'), [shown]);
  return [shown, setShown];
}
