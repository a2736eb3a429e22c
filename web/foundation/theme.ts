// Light by default, dark where a person chose it; remembered in this browser.

import { z } from 'zod';
import { readStored, writeStored } from './useStored';

const themeSchema = z.enum(['light', 'dark']);
export type Theme = z.infer<typeof themeSchema>;

export function currentTheme(): Theme {
  return readStored('theme', themeSchema, 'light');
}

export function applyTheme(theme: Theme = currentTheme()): void {
  writeStored('theme', theme);
  document.documentElement.dataset['theme'] = theme;
}
