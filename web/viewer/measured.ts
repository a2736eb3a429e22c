// What the thread that measures pictures is asked and answers.

import type { Histogram, Warnings } from '@stellin/core/viewer/measuring';

export interface MeasureRequest {
  id: number;
  picture: ImageBitmap;
  wanted: Warnings;
}

export interface Measured {
  id: number;
  histogram?: Histogram;
  /** As large as the picture that was measured. */
  over?: ImageBitmap;
}
