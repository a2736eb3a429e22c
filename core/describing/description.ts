// Descriptions: everything that can be done to the fields of many photos, as a function of one photo. The same function
// makes the preview and the change.

import type { FieldId, FieldValue, FieldValues } from '../metadata/fields';
import { turnedTo, type TurnWay } from '../metadata/orientation';
import { sameValue } from '../metadata/values';
import { timeProblem, withTime, type TimeChange } from './clock';
import { edited, type FieldEdit } from './editing';
import type { DescribedPhoto } from './photo';
import { hasPlaceholders, parsePlaceholders } from './placeholders';
import { replacer, tidier, withTexts, type Replacement, type TextChange, type TidyRule } from './replacing';
import { fieldIdOf, valueOf, withValue, type Target } from './targets';

export type Description =
  | { kind: 'setFields'; edits: readonly FieldEdit[] }
  /** Edits of each photo’s own, by its id. */
  | { kind: 'setEach'; edits: ReadonlyMap<number, readonly FieldEdit[]> }
  /** As edits whose texts may hold placeholders. */
  | { kind: 'fillTemplate'; edits: readonly FieldEdit[] }
  | ({ kind: 'replaceText'; targets: readonly Target[] } & Replacement)
  | { kind: 'tidyText'; targets: readonly Target[]; rules: readonly TidyRule[] }
  /** `camera`: only photos of that camera. */
  | { kind: 'changeTime'; change: TimeChange; camera?: string | undefined }
  | { kind: 'turnPhotos'; way: TurnWay };

/** What a photo's fields become. Fields that stay are the same. */
export type Describe = (photo: DescribedPhoto) => FieldValues;

/** A description ready to be applied, or why it can't be. */
export function describing(
  description: Description,
): { ok: true; describe: Describe } | { ok: false; problem: string } {
  switch (description.kind) {
    case 'setFields':
      return { ok: true, describe: ({ fields }) => description.edits.reduce(edited, fields) };
    case 'setEach': {
      const { edits } = description;
      return { ok: true, describe: ({ id, fields }) => (edits.get(id) ?? []).reduce(edited, fields) };
    }
    case 'fillTemplate':
      return filling(description.edits);
    case 'replaceText': {
      const made = replacer(description);
      return made.ok ? { ok: true, describe: changingTexts(description.targets, made.change) } : made;
    }
    case 'tidyText':
      return { ok: true, describe: changingTexts(description.targets, tidier(description.rules)) };
    case 'turnPhotos': {
      const { way } = description;
      return {
        ok: true,
        describe: ({ fields, orientation }) =>
          orientation === null ? fields : { ...fields, orientation: turnedTo(orientation, way) },
      };
    }
    case 'changeTime': {
      const { change, camera } = description;
      const problem = timeProblem(change);
      if (problem) return { ok: false, problem };
      const concerns = (photo: DescribedPhoto) => camera === undefined || photo.camera === camera;
      return {
        ok: true,
        describe: (photo) => (concerns(photo) ? withTime(photo.fields, photo.clock, change) : photo.fields),
      };
    }
  }
}

function filling(edits: readonly FieldEdit[]): ReturnType<typeof describing> {
  const steps: ((photo: DescribedPhoto) => FieldEdit | undefined)[] = [];
  for (const edit of edits) {
    const filler = fillerOf(edit.value);
    if (!filler.ok) return filler;
    steps.push((photo) => {
      const value = filler.fill(photo);
      return value === undefined ? undefined : { ...edit, value };
    });
  }
  return {
    ok: true,
    describe: (photo) =>
      steps.reduce((fields, step) => {
        // A field may speak of one that the template has just filled.
        const edit = step({ ...photo, fields });
        return edit ? edited(fields, edit) : fields;
      }, photo.fields),
  };
}

type Filler = { ok: true; fill: (photo: DescribedPhoto) => FieldValue | null | undefined };

/** What fills the texts in a value, at whatever depth. */
function fillerOf(value: FieldValue | null): Filler | { ok: false; problem: string } {
  if (typeof value === 'string' && hasPlaceholders(value)) return parsePlaceholders(value);
  if (value === null || typeof value !== 'object') return { ok: true, fill: () => value };
  const parts: [string, Filler][] = [];
  for (const [name, item] of Object.entries(value)) {
    const part = fillerOf(item);
    if (!part.ok) return part;
    parts.push([name, part]);
  }
  const isList = Array.isArray(value);
  return {
    ok: true,
    fill: (photo) => {
      const filled = parts.flatMap(([name, part]) => {
        const item = part.fill(photo);
        return item === undefined || item === null ? [] : [[name, item] as const];
      });
      if (filled.length === 0) return undefined;
      return isList ? filled.map(([, item]) => item) : Object.fromEntries(filled);
    },
  };
}

function changingTexts(targets: readonly Target[], change: TextChange): Describe {
  return ({ fields }) =>
    targets.reduce((now, target) => {
      const value = valueOf(now, target);
      return value === undefined ? now : withValue(now, target, withTexts(textsOfTarget(target), value, change));
    }, fields);
}

/** Own fields of a project hold texts, as the title does. */
function textsOfTarget(target: Target): FieldId {
  const id = fieldIdOf(target);
  return id === 'custom' ? 'title' : id;
}

export type ChangedField = readonly [id: FieldId, before: FieldValue | undefined, after: FieldValue | undefined];

/** The fields that differ, with what they said and say. */
export function changedFields(before: FieldValues, after: FieldValues): ChangedField[] {
  if (before === after) return [];
  const ids = new Set([...Object.keys(before), ...Object.keys(after)]) as Set<FieldId>;
  return [...ids].flatMap((id): ChangedField[] =>
    sameValue(before[id], after[id]) ? [] : [[id, before[id], after[id]]],
  );
}
