// What is said below a picture that others look at.

import { DEFAULT_LANGUAGE, textsOf } from '@stellin/core/metadata/values';
import type { FieldValue } from '@stellin/core/metadata/fields';

/** The description, or else the headline or the title. */
export function captionOf(fields: Readonly<Record<string, FieldValue>>): string {
  for (const id of ['description', 'headline', 'title']) {
    const value = fields[id];
    const first = typeof value === 'object' && !Array.isArray(value) ? value[DEFAULT_LANGUAGE] : value;
    const text = typeof first === 'string' ? first : (textsOf(value)[0] ?? '');
    if (text !== '') return text;
  }
  return '';
}
