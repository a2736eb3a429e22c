// The colours that people choose from, for marks and dossiers.

import type { MarkColour } from '@stellin/core/describing/marks';

/** Dark enough for white letters in both themes. */
export const COLOURS: Record<MarkColour, string> = {
  green: '#1c7040',
  amber: '#8a5a00',
  red: '#b3321f',
  blue: '#2f568c',
  violet: '#70458f',
  teal: '#0f6a70',
  brown: '#775233',
  grey: '#566360',
};
