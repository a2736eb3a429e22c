// Light by default, dark where a person chose it; remembered in this browser, and with the account.

import { theme as themeSchema, type Theme } from '@stellin/contract/accounts';
import { readStored, writeStored } from './useStored';

export function currentTheme(): Theme {
  return readStored('theme', themeSchema, 'light');
}

export function applyTheme(theme: Theme = currentTheme()): void {
  writeStored('theme', theme);
  document.documentElement.dataset['theme'] = theme;
}
