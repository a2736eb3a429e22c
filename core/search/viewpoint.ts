// When and for whom something is asked.

import type { Sight } from '../accounts/sight';

export interface Viewpoint {
  /** The day of asking, `YYYY-MM-DD`. */
  today: string;
  sight: Sight;
  /** Private persons exist for them. */
  knowsPrivate: boolean;
}
