// Whether the sheet shows headings, remembered by the browser.

import { z } from 'zod';
import { useStored } from '../foundation/useStored';

export function useHeadings(): [boolean, (shown: boolean) => void] {
  return useStored('headings', z.boolean(), false);
}
