// A template as its form holds it: a row for each field, with what is typed into it.

import { editOf, typedText } from '@stellin/core/describing/drafts';
import type { EditMode, FieldEdit } from '@stellin/core/describing/editing';
import { hasPlaceholders, parsePlaceholders } from '@stellin/core/describing/placeholders';
import { shapeOf, type Target } from '@stellin/core/describing/targets';

export interface TemplateRow {
  target: Target;
  mode: EditMode;
  typed: string;
  /** A value that can't be typed as a text: it is kept as it is. */
  kept?: FieldEdit['value'];
}

/** The row of an edit. */
export function rowOf({ target, mode, value }: FieldEdit): TemplateRow {
  const shape = shapeOf(target);
  const plain =
    shape.type !== 'struct' && shape.type !== 'position' && (typeof value !== 'object' || Array.isArray(value));
  return plain
    ? { target, mode, typed: typedText(target, value ?? undefined) }
    : { target, mode, typed: '', kept: value };
}

/** The edit of a row, or why it is none. Texts with placeholders are checked once they are filled. */
export function editOfRow({ target, mode, typed, kept }: TemplateRow): FieldEdit | string {
  if (kept !== undefined) return { target, mode, value: kept };
  if (!hasPlaceholders(typed)) {
    const made = editOf(target, { mode, typed });
    return made.ok ? made.edit : made.problem;
  }
  const parsed = parsePlaceholders(typed);
  if (!parsed.ok) return parsed.problem;
  return { target, mode, value: shapeOf(target).list ? typed.split(/\s*;\s*/).filter(Boolean) : typed };
}
