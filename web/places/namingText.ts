// What becomes of names of places that photos say already, as people read it.

import type { NamingWay } from '@stellin/core/describing/placing';

export const NAMING_TEXTS: Readonly<Record<NamingWay, string>> = {
  fill: 'fill only empty ones',
  replace: 'replace what is there',
  none: 'leave them',
};
