// What helps to see a picture: each is on or off, for all pictures that are looked at.

import type { KeyAction } from '../foundation/keys';

export const AIDS = {
  loupe: 'Loupe under the pointer',
  clipping: 'Where light or shadow is lost',
  edges: 'Where edges are sharp',
  histogram: 'Histogram',
  caption: 'Caption',
  words: 'Text in the picture',
} as const satisfies Partial<Record<KeyAction, string>>;

export type Aid = keyof typeof AIDS;
export type Aids = Readonly<Record<Aid, boolean>>;

export const NO_AIDS: Aids = {
  loupe: false,
  clipping: false,
  edges: false,
  histogram: false,
  caption: false,
  words: false,
};
