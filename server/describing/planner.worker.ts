// Worker thread: what descriptions make of photos, and what follows from it. Rows come and go as JSON, as PostgreSQL has it.

import { changedFields, describing, type Description } from '@stellin/core/describing/description';
import { ownFieldsProblem, type OwnField } from '@stellin/core/describing/ownFields';
import type { DescribedPhoto } from '@stellin/core/describing/photo';
import { replacer, type Replacement } from '@stellin/core/describing/replacing';
import { iimCuts } from '@stellin/core/metadata/blocks/iim';
import { kindFacts, type FileKind } from '@stellin/core/metadata/containers/kinds';
import { fieldOf, type FieldId, type FieldValue, type FieldValues } from '@stellin/core/metadata/fields';
import type { FileFacts } from '@stellin/core/metadata/read';
import { cameraName } from '@stellin/core/search/said';
import { derivedOf } from '../catalogue/derived';

export interface PhotoTexts {
  id: number;
  name: string;
  folder: string;
  drive: string;
  takenAt: string | null;
  kind: FileKind;
  orientation: number;
  number: number;
  /** JSON */
  fields: string;
  facts: string;
}

export interface PlanRequest {
  description: Description;
  photos: readonly PhotoTexts[];
  today: string;
  user: string;
  /** The own fields of projects, whose values are checked. */
  own: readonly OwnField[];
}

export interface PlannedChange {
  id: number;
  name: string;
  /** Why it can’t be; undefined when it can. */
  problem?: string | undefined;
  fields: { field: FieldId; before: FieldValue | null; after: FieldValue | null; cut: boolean }[];
}

/** Texts with what was looked for replaced, one for each. Throws an Error when the pattern is none. */
export function replace({ texts, replacing }: { texts: readonly string[]; replacing: Replacement }): string[] {
  const made = replacer(replacing);
  if (!made.ok) throw new Error(made.problem);
  return texts.map(made.change);
}

/** What changes, photo by photo; photos that stay as they are are left out. */
export function preview(request: PlanRequest): PlannedChange[] {
  return changesOf(request).map(({ id, name, changes, problem }) => ({
    id,
    name,
    problem,
    fields: changes.map(([field, before, after]) => ({
      field,
      before: before ?? null,
      after: after ?? null,
      cut: iimCuts(fieldOf(field), after).length > 0,
    })),
  }));
}

/** The same as rows of the ledger: `[{"id", "before", "after"}]` as JSON, how many there are, and what can’t be of the first that can’t. */
export function plan(request: PlanRequest): { json: string; count: number; problem?: string | undefined } {
  const planned = changesOf(request);
  const rows = planned.map(({ id, changes }) => ({
    id,
    before: Object.fromEntries(changes.map(([field, before]) => [field, before ?? null])),
    after: Object.fromEntries(changes.map(([field, , after]) => [field, after ?? null])),
  }));
  const refused = planned.find(({ problem }) => problem !== undefined);
  return {
    json: JSON.stringify(rows),
    count: rows.length,
    problem: refused && `${refused.problem} (${refused.name})`,
  };
}

/** The photos that change, with the fields that differ. */
function changesOf({ description, photos, today, user, own }: PlanRequest) {
  const ownFields = new Map(own.map((field) => [field.name, field]));
  const made = describing(description);
  // Whoever asks has looked at the description before.
  if (!made.ok) throw new Error(made.problem);
  return photos.flatMap((texts) => {
    const photo = photoOf(texts, today, user);
    const changes = changedFields(photo.fields, made.describe(photo));
    const [, before, after] = changes.find(([field]) => field === 'custom') ?? [];
    const problem = ownFieldsProblem(ownFields, before, after);
    return changes.length > 0 ? [{ id: texts.id, name: texts.name, changes, problem }] : [];
  });
}

export interface ChangedTexts {
  id: number;
  name: string;
  /** JSON, as the photo says it now. */
  fields: string;
  facts: string;
  /** JSON of the fields that change; null where nothing is left. */
  after: string;
  keywords: string[];
}

/** The rows of photos whose fields change, with all that follows, as JSON. */
export function derive(photos: readonly ChangedTexts[]): string {
  const rows = photos.map(({ id, name, fields: text, facts, after, keywords }) => {
    const fields = withChanges(JSON.parse(text) as FieldValues, JSON.parse(after) as Record<string, FieldValue | null>);
    return { id, fields, ...derivedOf(name, fields, JSON.parse(facts) as FileFacts, keywords) };
  });
  return JSON.stringify(rows);
}

function withChanges(fields: FieldValues, changes: Record<string, FieldValue | null>): FieldValues {
  const all: Record<string, FieldValue | null | undefined> = { ...fields, ...changes };
  return Object.fromEntries(Object.entries(all).filter(([, value]) => value !== null)) as FieldValues;
}

function photoOf(texts: PhotoTexts, today: string, user: string) {
  const { id, name, folder, drive, takenAt, number, kind, orientation } = texts;
  const facts = JSON.parse(texts.facts) as FileFacts;
  const clock = facts.takenAt === undefined ? null : facts.takenAt + (facts.offset ?? '');
  return {
    id,
    name,
    folder,
    drive,
    takenAt,
    number,
    orientation: kindFacts(kind).turns ? orientation : null,
    clock,
    camera: cameraName(facts),
    fields: JSON.parse(texts.fields) as FieldValues,
    today,
    user,
  } satisfies DescribedPhoto;
}
