// The colours of the theme, for what is drawn on a canvas.

/** A colour of the theme by its name, as it is now. */
export function colour(
  name: 'ground' | 'sheet' | 'card' | 'ink' | 'ink-2' | 'ink-3' | 'line' | 'spruce' | 'amber' | 'slate',
): string {
  return getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();
}
