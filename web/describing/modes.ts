import type { EditMode } from '@stellin/core/describing/editing';

/** How a value is put in, in words. */
export const MODE_LABELS: Readonly<Record<EditMode, string>> = {
  replace: 'replace',
  add: 'add',
  fill: 'fill only empty',
  remove: 'remove this value',
};
