// Light by default, dark where a person chose it; remembered in this browser.

const STORED = 'stellin.theme';

export type Theme = 'light' | 'dark';

export function currentTheme(): Theme {
  return localStorage.getItem(STORED) === 'dark' ? 'dark' : 'light';
}

export function applyTheme(theme: Theme = currentTheme()): void {
  localStorage.setItem(STORED, theme);
  document.documentElement.dataset['theme'] = theme;
}
