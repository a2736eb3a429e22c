// Describing photos: changes to their fields, what they would do, and what teams prepare for it.

import { z } from 'zod';
import { EDIT_MODES } from '@stellin/core/describing/editing';
import { OWN_FIELD_KINDS } from '@stellin/core/describing/ownFields';
import { isTarget, type Target } from '@stellin/core/describing/targets';
import { TURNS, type TurnWay } from '@stellin/core/metadata/orientation';
import { FIND_MODES, TIDY_RULES, type TidyRule } from '@stellin/core/describing/replacing';
import { languageTag } from './language';
import { fieldValue, queryTextSchema, selection } from './photos';
import { id, route, text, rowCount } from './route';
import { termName } from './termName';

const MAX_TEXT = 100_000;
/** A film of ten days. */
const MAX_SECONDS = 864_000;
const MAX_STRETCHES = 2000;
/** A check lists at most this many photos of each kind. */
export const MAX_CHECKED = 1000;

/** A field's id, or `custom:` and the name of a field of the project. */
export const target = z.custom<Target>((text) => typeof text === 'string' && text.length < 200 && isTarget(text), {
  message: 'there is no such field',
});

export const fieldEdit = z.object({
  target,
  mode: z.enum(EDIT_MODES),
  value: fieldValue.nullable().describe('Null: nothing'),
  language: languageTag.optional().describe('Of texts by language: a tag after BCP 47; without it the default one'),
});

/** How long the name of something prepared is at most, in characters. */
export const MAX_PREPARED_NAME = 100;
const preparedName = text.trim().min(1).max(MAX_PREPARED_NAME);

const edits = z.array(fieldEdit).max(200);
const targets = z.array(target).min(1).max(100);
const zone = text.max(6);

export const timeChange = z.discriminatedUnion('how', [
  z.object({ how: z.literal('shift'), seconds: z.number().int().min(-4e9).max(4e9) }),
  z.object({ how: z.literal('zone'), zone }),
  z.object({ how: z.literal('toZone'), zone }),
  z.object({ how: z.literal('date'), date: text.trim().max(40) }),
]);

/** What can be done to the fields of photos. */
const descriptionKinds = [
  z.object({
    kind: z.literal('setFields'),
    edits: edits.min(1),
    pasted: z.boolean().optional().describe('They were copied from another photo'),
    seen: z
      .array(z.object({ target, says: text.max(1_000_000) }))
      .max(200)
      .optional()
      .describe(
        'What the photos said as it was described, as `saysOf` has it: if they say something else by now, nothing is changed',
      ),
  }),
  z.object({
    kind: z.literal('replaceText'),
    targets,
    find: text.min(1).max(1000),
    how: z.enum(FIND_MODES),
    matchCase: z.boolean().default(false),
    replace: text.max(MAX_TEXT),
  }),
  z.object({
    kind: z.literal('tidyText'),
    targets,
    rules: z.array(z.enum(Object.keys(TIDY_RULES) as [TidyRule, ...TidyRule[]])).min(1),
  }),
  z.object({ kind: z.literal('changeTime'), change: timeChange, camera: text.max(200).optional() }),
  z.object({ kind: z.literal('turnPhotos'), way: z.enum(Object.keys(TURNS) as [TurnWay, ...TurnWay[]]) }),
  z.object({ kind: z.literal('fillTemplate'), edits: edits.describe('Their texts may hold placeholders') }),
] as const;
const [setFields, replaceText, tidyText, changeTime, turnPhotos, fillTemplate] = descriptionKinds;

export const description = z.discriminatedUnion('kind', descriptionKinds);

export const templateShape = z.object({
  name: preparedName,
  note: text.max(2000).default(''),
  edits: edits.default([]).describe('Their texts may hold placeholders'),
  termIds: z.array(id).max(200).default([]).describe('Terms that are given along'),
});

export const template = templateShape.extend({
  id: z.number(),
  terms: z.array(termName).describe('Those it gives, by name'),
  shared: z.boolean(),
  mine: z.boolean(),
  mayChange: z.boolean().describe('One made it, or keeps the vocabulary'),
});
export type Template = z.infer<typeof template>;

export const fieldSetEntry = z.object({
  target,
  required: z.boolean().default(false),
  help: text.max(500).default(''),
  initial: text.max(2000).default('').describe('What a new description begins with'),
  kind: z.enum(OWN_FIELD_KINDS).default('text').describe('Of fields of the project: what their values are'),
  choices: z.array(text.trim().min(1).max(200)).max(500).default([]).describe('The values to choose from'),
  branch: id.nullable().default(null).describe('The term whose narrower ones are to choose from'),
});
export type FieldSetEntry = z.infer<typeof fieldSetEntry>;

export const fieldSetShape = z.object({
  name: preparedName,
  entries: z.array(fieldSetEntry).max(100),
});
export const fieldSet = fieldSetShape.extend({
  id: z.number(),
  entries: z.array(
    fieldSetEntry.extend({
      offered: z.array(z.string()).describe('The values to choose from, those of the branch too'),
    }),
  ),
});
export type FieldSet = z.infer<typeof fieldSet>;

export const qualityRuleShape = z.object({
  name: preparedName,
  query: queryTextSchema.describe('Which photos it is about; empty for all'),
  requires: z.array(text.min(1).max(100)).min(1).max(50).describe('What they must have, as `has:` takes it'),
});
export const qualityRule = qualityRuleShape.extend({ id: z.number() });
export type QualityRule = z.infer<typeof qualityRule>;

/** What is said of a stretch of a film or sound. */
export const stretch = z.object({
  key: text.max(20).nullable().describe('Where it stands among the markers; null for a new one'),
  from: z.number().min(0).max(MAX_SECONDS).describe('Seconds from the beginning'),
  to: z.number().min(0).max(MAX_SECONDS),
  name: text.max(500).default(''),
  note: text.max(10_000).default(''),
  rating: z.number().int().min(0).max(5).default(0),
  terms: z.array(text.trim().min(1).max(200)).max(50).default([]),
  people: z.array(text.trim().min(1).max(200)).max(50).default([]),
});

/** The changes of this subject. */
export const describingChanges = [
  setFields.extend({ selection }),
  replaceText.extend({ selection }),
  tidyText.extend({ selection }),
  changeTime.extend({ selection }),
  turnPhotos.extend({ selection }),
  z
    .object({ kind: z.literal('turnUpright'), selection })
    .describe('Turns photos as the faces in them say, where they stand on their side'),
  z.object({
    kind: z.literal('setStretches'),
    photoId: id,
    stretches: z.array(stretch).max(MAX_STRETCHES).describe('All of them: those that are not among them go'),
    seen: fieldValue
      .nullable()
      .describe('The field of stretches as it was: if it is another one by now, nothing is changed'),
  }),
  fillTemplate.extend({ selection }),
  z.object({ kind: z.literal('applyTemplate'), selection, templateId: id }),
  templateShape.extend({
    kind: z.literal('saveTemplate'),
    templateId: id.nullable().describe('Null makes a new one'),
    shared: z.boolean().default(true),
  }),
  z.object({ kind: z.literal('removeTemplate'), templateId: id }),
  fieldSetShape.extend({ kind: z.literal('saveFieldSet'), fieldSetId: id.nullable() }),
  z.object({ kind: z.literal('removeFieldSet'), fieldSetId: id }),
  qualityRuleShape.extend({ kind: z.literal('saveQualityRule'), ruleId: id.nullable() }),
  z.object({ kind: z.literal('removeQualityRule'), ruleId: id }),
] as const;

export const changedField = z.object({
  field: z.string(),
  label: z.string(),
  before: fieldValue.nullable(),
  after: fieldValue.nullable(),
  cut: z.boolean().describe('IIM will cut it'),
});

/** What photos say of a field, to be compared: of how many, how many different values, and which. */
export function saysOf(
  agreement: { photos: number; distinct: number; values: readonly unknown[] } | undefined,
): string {
  return agreement ? JSON.stringify([agreement.photos, agreement.distinct, agreement.values]) : '';
}

export const describingRoutes = {
  showPrepared: route({
    method: 'GET',
    path: '/api/describing',
    access: 'see',
    shows: 'nothing',
    summary: 'Field sets, templates and what counts as described',
    response: z.object({
      fieldSets: z.array(fieldSet),
      templates: z.array(template),
      rules: z.array(qualityRule.extend({ lacking: z.array(z.object({ part: z.string(), query: z.string() })) })),
    }),
  }),
  showTemplateVersions: route({
    method: 'GET',
    path: '/api/describing/templates/:id/versions',
    access: 'see',
    shows: 'nothing',
    summary: 'How a template was before, the latest first',
    params: z.object({ id }),
    response: z.object({
      versions: z.array(z.object({ at: z.string(), by: z.string(), template: templateShape })),
    }),
  }),
  check: route({
    method: 'POST',
    path: '/api/describing/check',
    access: 'see',
    shows: 'seen',
    summary: 'Which photos of a selection lack what the team’s rules ask for, as before a delivery',
    body: z.object({ selection }),
    response: z.object({
      photos: z.number(),
      ready: z.number().describe('That lack nothing'),
      private: z.number().describe('Marked private'),
      rules: z.array(
        z.object({
          name: z.string(),
          lacking: z.array(
            z.object({
              part: z.string(),
              photos: z.number(),
              first: z.array(id).describe(`The first of them, ${MAX_CHECKED} at most`),
            }),
          ),
        }),
      ),
    }),
  }),
  agreement: route({
    method: 'POST',
    path: '/api/describing/agreement',
    access: 'see',
    shows: 'seen',
    summary: 'What the photos of a selection say, field by field: whether they agree, and the most frequent values',
    body: z.object({ selection }),
    response: z.object({
      photos: z.number(),
      fields: z.array(
        z.object({
          target: z.string(),
          photos: z.number().describe('That say anything'),
          distinct: z.number(),
          values: z.array(z.object({ value: fieldValue, photos: z.number() })),
        }),
      ),
    }),
  }),
  previewDescription: route({
    method: 'POST',
    path: '/api/describing/preview',
    access: 'describe',
    shows: 'seen',
    summary: 'Before and after of a description, photo by photo; nothing is changed',
    body: z.object({
      selection,
      description,
      offset: rowCount.default(0),
      limit: z.number().int().min(0).max(500).default(100),
    }),
    response: z.object({
      problem: z.string().nullable(),
      looked: z.number().describe('How many photos were looked at; fewer than are meant when there are very many'),
      meant: z.number(),
      changing: z.number().describe('Of those looked at'),
      cuts: z.number().describe('Photos of which IIM will cut something'),
      photos: z.array(
        z.object({
          photoId: z.number(),
          name: z.string(),
          previewVersion: z.number(),
          fields: z.array(changedField),
        }),
      ),
    }),
  }),
};
