// Photos as lists and details show them, and selections of them.

import { z } from 'zod';
import type { FieldValue } from '@stellin/core/metadata/fields';
import { FIXITY_STATES } from '@stellin/core/fixity/states';
import { SORTS } from '@stellin/core/search/sorts';
import { id, idParams, isoTime, route, text, rowCount } from './route';
import { termName } from './termName';

/** The most photos of a selection that one answer lists, which is also the most that a pass goes through. */
export const MAX_PASSED = 5000;

export const queryTextSchema = text.max(10_000).describe('In the query language');

/**
 * Photos that are meant: what a query finds less some, plus some clicked one by one. Ids stand in lists only for what a
 * person clicked.
 */
export const selection = z.object({
  query: queryTextSchema.nullable().describe('Null: only the photos of `plus`'),
  minus: z.array(id).max(20_000).default([]),
  plus: z.array(id).max(20_000).default([]),
});
export type Selection = z.infer<typeof selection>;

export const WRITE_STATES = ['waiting', 'conflict', 'failed'] as const;

/** A field’s value: text, number, yes or no, a list, or an object (languages, members of a structure). */
export const fieldValue: z.ZodType<FieldValue> = z.lazy(() =>
  z.union([text, z.number(), z.boolean(), z.array(fieldValue), z.record(text, fieldValue)]),
);

export const photo = z.object({
  id: z.number(),
  name: z.string(),
  kind: z.string(),
  driveId: z.uuid(),
  folderId: z.number(),
  away: z.boolean(),
  missing: z.boolean().describe('Its file is not where it was'),
  damaged: z.boolean(),
  width: z.number().nullable().describe('As seen, after orientation'),
  height: z.number().nullable(),
  duration: z.number().nullable().describe('Seconds of a film or sound'),
  takenAt: z.string().nullable().describe('Local time without zone'),
  rating: z.number(),
  mark: z.string().describe('The name of its mark; empty for none'),
  bundle: z
    .object({ photos: z.number(), leads: z.boolean(), closed: z.boolean() })
    .nullable()
    .describe('The bundle it is in'),
  private: z.boolean().describe('Marked private: it never leaves the archive by a delivery or view link'),
  setAside: z.enum(['trashed', 'removed']).nullable().describe('In the trash, or out of the catalogue'),
  writeState: z.enum(WRITE_STATES).nullable(),
  described: z
    .boolean()
    .nullable()
    .describe('Whether it counts as described by the team’s rules; null where there are none'),
  parts: z.object({ terms: z.boolean(), caption: z.boolean(), people: z.boolean(), location: z.boolean() }),
  placeholder: z.string().nullable().describe('A tiny picture as a data URL'),
  previewVersion: z.number().describe('Changes when the preview does; 0: none can be made'),
});
export type Photo = z.infer<typeof photo>;

export const photoDetails = photo.extend({
  driveLabel: z.string(),
  folderPath: z.string(),
  path: z.string().nullable().describe('Of its file, in the system of the server; null while its drive is away'),
  sizeBytes: z.number(),
  facts: z.record(z.string(), z.union([z.string(), z.number(), z.boolean()])),
  fields: z.record(z.string(), fieldValue).describe('By the ids of docs/metadata.md'),
  keywords: z.array(z.string()).describe('Keywords that came with the file and are no term'),
  termIds: z.array(z.number()),
  issues: z.array(z.string()),
  disagreements: z.array(z.string()),
  dossiers: z
    .array(z.object({ id: z.number(), path: z.string(), query: z.string() }))
    .describe('The dossiers it is in'),
  doubles: z.array(z.object({ photoId: z.number(), path: z.string() })).describe('Others that are the same picture'),
  takenIn: z
    .object({ accession: z.number(), at: isoTime, by: z.string() })
    .nullable()
    .describe('The taking-in with which it came'),
  fixity: z.object({
    state: z.enum(FIXITY_STATES).describe('Whether its file holds what it should'),
    provenAt: isoTime.nullable().describe('When it was last read and compared'),
    sha256: z.string().nullable().describe('What it should hold'),
    problem: z.string().nullable(),
  }),
});
export type PhotoDetails = z.infer<typeof photoDetails>;

const blockFields = z.record(z.string(), fieldValue);

export const photoBlocks = z.object({
  blocks: z.object({
    exif: blockFields.optional(),
    iim: blockFields.optional(),
    xmp: blockFields.optional(),
    sidecar: blockFields.optional(),
    tags: blockFields.optional(),
  }),
  fields: blockFields.describe('What is taken of them'),
  disagreements: z.array(z.string()),
  issues: z.array(z.string()),
});
export type PhotoBlocks = z.infer<typeof photoBlocks>;

export const photoGroup = z.object({
  key: z.string().nullable().describe('A day, a folder, a kind …, after the order; null for those without'),
  count: z.number(),
});
export type PhotoGroup = z.infer<typeof photoGroup>;

export const photoRoutes = {
  listGroups: route({
    method: 'GET',
    path: '/api/photos/groups',
    access: 'see',
    shows: 'seen',
    summary: 'The groups that a result falls into by its order, one after the other; none for orders without groups',
    query: z.object({ query: queryTextSchema.default(''), sort: z.enum(SORTS).default('taken') }),
    response: z.object({ groups: z.array(photoGroup) }),
  }),
  showBlocks: route({
    method: 'GET',
    path: '/api/photos/:id/blocks',
    access: 'see',
    shows: 'seen',
    summary: 'What EXIF, IIM, XMP and the sidecar of a photo’s file each say, read from the file',
    params: idParams,
    response: photoBlocks,
  }),
  listPhotos: route({
    method: 'GET',
    path: '/api/photos',
    access: 'see',
    shows: 'seen',
    summary: 'A page of what a query finds',
    query: z.object({
      query: queryTextSchema.default(''),
      sort: z.enum(SORTS).default('taken'),
      offset: rowCount.default(0),
      limit: z.coerce.number().int().min(1).max(200).default(60),
    }),
    response: z.object({ photos: z.array(photo) }),
  }),
  countPhotos: route({
    method: 'GET',
    path: '/api/photos/count',
    access: 'see',
    shows: 'seen',
    summary: 'How many photos a query finds, and what of its text was not understood',
    query: z.object({ query: queryTextSchema.default('') }),
    response: z.object({
      count: z.number(),
      folded: z.number().describe('Photos more that stand behind the leads of closed bundles'),
      milliseconds: z.number(),
      errors: z.array(z.object({ at: z.number(), length: z.number(), message: z.string() })),
    }),
  }),
  photoPosition: route({
    method: 'GET',
    path: '/api/photos/:id/position',
    access: 'see',
    shows: 'seen',
    summary: 'Where in the order of a result a photo stands; null when it is not in it',
    params: idParams,
    query: z.object({ query: queryTextSchema.default(''), sort: z.enum(SORTS).default('taken') }),
    response: z.object({ position: z.number().nullable() }),
  }),
  showPhoto: route({
    method: 'GET',
    path: '/api/photos/:id',
    access: 'see',
    shows: 'seen',
    summary: 'All that is known of a photo',
    params: idParams,
    response: photoDetails,
  }),
  photosOfSelection: route({
    method: 'POST',
    path: '/api/selection/photos',
    access: 'see',
    shows: 'seen',
    summary: 'The first photos of a selection, in an order',
    body: z.object({ selection, sort: z.enum(SORTS).default('taken'), limit: z.number().int().min(1).max(MAX_PASSED) }),
    response: z.object({ photos: z.array(photo) }),
  }),
  describeSelection: route({
    method: 'POST',
    path: '/api/selection',
    access: 'see',
    shows: 'seen',
    summary: 'How many photos a selection means, by drive, and the terms they have',
    body: z.object({ selection }),
    response: z.object({
      count: z.number(),
      drives: z.array(z.object({ id: z.uuid(), label: z.string(), away: z.boolean(), photos: z.number() })),
      terms: z.array(termName.extend({ photos: z.number() })).describe('Given to them directly'),
      within: z
        .array(z.object({ termId: z.number(), photos: z.number() }))
        .describe('Broader terms, and how many have a narrower one'),
      keywords: z
        .array(z.object({ keyword: z.string(), photos: z.number() }))
        .describe('The most frequent free keywords'),
    }),
  }),
};
