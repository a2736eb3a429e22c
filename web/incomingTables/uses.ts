// What a column is for, as one choice of a list: the text of an option, and the use it stands for.

import { isTarget, type Target } from '@stellin/core/describing/targets';
import { fieldUse, KEYS, KEY_IDS, NOTHING, type ColumnUse } from '@stellin/core/incomingTables/uses';

const PLAIN: Readonly<Record<string, ColumnUse>> = {
  nothing: NOTHING,
  terms: { to: 'terms', mode: 'add' },
  rating: { to: 'rating' },
  mark: { to: 'mark' },
  ...Object.fromEntries(KEY_IDS.map((key): [string, ColumnUse] => [`key:${key}`, { to: 'key', key }])),
};

const FIELD = 'field:';

/** The option that stands for a use. */
export function optionOf(use: ColumnUse): string {
  if (use.to === 'field' || use.to === 'keyField') return FIELD + use.target;
  return use.to === 'key' ? `key:${use.key}` : use.to;
}

/** The use that an option stands for. `samples`: some values of the column. */
export function chosenUse(option: string, samples: readonly string[]): ColumnUse {
  const target = option.startsWith(FIELD) ? option.slice(FIELD.length) : '';
  return isTarget(target) ? fieldUse(target, samples) : (PLAIN[option] ?? NOTHING);
}

/** All options but fields, in their groups. */
export const PLAIN_OPTIONS: readonly { value: string; label: string; group?: string }[] = [
  { value: 'nothing', label: 'Not used' },
  ...KEY_IDS.map((key) => ({ value: `key:${key}`, label: capital(KEYS[key]), group: 'Finds the photo by its' })),
  { value: 'terms', label: 'Terms', group: 'Says of the photo' },
  { value: 'rating', label: 'Rating', group: 'Says of the photo' },
  { value: 'mark', label: 'Mark', group: 'Says of the photo' },
];

/** The option of a field. */
export function fieldOption(target: Target): string {
  return FIELD + target;
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
