// What queries ask for with `has:`, as people call it.

import { fieldLabel } from '@stellin/core/describing/targets';

/** What `has:` asks for, in words. */
export function partLabel(part: string): string {
  return fieldLabel(part).toLowerCase();
}
