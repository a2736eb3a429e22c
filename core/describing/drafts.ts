// What a person has typed into the form of fields, before it is an edit.

import { fieldText, parseFieldText } from '../metadata/fieldText';
import type { FieldValue } from '../metadata/fields';
import { DEFAULT_LANGUAGE } from '../metadata/values';
import type { EditMode, FieldEdit } from './editing';
import { remarksOn, type Remark } from './limits';
import { ownFieldProblem, type OwnField } from './ownFields';
import { shapeOf, type Target } from './targets';

export interface Draft {
  mode: EditMode;
  /** As it was typed, or a value made in a form of its own. */
  typed: string | { value: FieldValue | null };
  /** Of texts by language: the one that is meant. */
  language?: string | undefined;
}

/** A draft as an edit with what is to be said of it, or why it is none. `own`: what the field takes, of one that a project has made. */
export function editOf(
  target: Target,
  { mode, typed, language }: Draft,
  own?: OwnField,
): { ok: true; edit: FieldEdit; remarks: Remark[] } | { ok: false; problem: string } {
  const shape = shapeOf(target);
  let value: FieldValue | null;
  try {
    value =
      typeof typed === 'string'
        ? shape.type === 'langAlt'
          ? typed.trim() || null
          : parseFieldText(shape, typed)
        : typed.value;
  } catch (error) {
    return {
      ok: false,
      problem: error instanceof Error ? error.message.replace(`${shape.label}: `, '') : String(error),
    };
  }
  const remarks = remarksOn(shape, value);
  const wrong = remarks.find(({ kind }) => kind === 'error');
  if (wrong) return { ok: false, problem: wrong.text };
  const refused = own && ownFieldProblem(own, value);
  if (refused) return { ok: false, problem: refused };
  if (value === null && mode !== 'replace') return { ok: false, problem: 'say what' };
  return { ok: true, edit: { target, mode, value, ...(language === undefined ? {} : { language }) }, remarks };
}

/** A value as one types it: lists with `; ` between, of several languages the one that is meant. */
export function typedText(target: Target, value: FieldValue | undefined, language = DEFAULT_LANGUAGE): string {
  if (value === undefined) return '';
  if (shapeOf(target).type === 'langAlt') {
    const said = typeof value === 'object' && !Array.isArray(value) ? value[language] : undefined;
    if (said !== undefined) return String(said);
    return typeof value === 'object' || language !== DEFAULT_LANGUAGE ? '' : String(value);
  }
  if (shapeOf(target).type === 'position' && typeof value === 'object' && !Array.isArray(value)) {
    const { latitude, longitude, altitude, direction } = value;
    const looks = direction === undefined ? undefined : `${String(direction)}°`;
    return [latitude, longitude, altitude, looks].filter((part) => part !== undefined).join(', ');
  }
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return fieldText(value);
}

/** The languages a value speaks, the default one first. */
export function languagesOf(value: FieldValue | undefined): string[] {
  const said = typeof value === 'object' && !Array.isArray(value) ? Object.keys(value) : [];
  return [DEFAULT_LANGUAGE, ...said.filter((language) => language !== DEFAULT_LANGUAGE)];
}
