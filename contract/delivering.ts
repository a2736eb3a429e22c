// Deliveries: copies of photos that leave the archive, the presets they are made by, and what became of each photo.

import { z } from 'zod';
import { COLUMN_IDS, ROW_MODE_IDS } from '@stellin/core/delivering/columns';
import { COPY_FORMAT_IDS } from '@stellin/core/delivering/formats';
import { LOOK_IDS } from '@stellin/core/delivering/gallery';
import { METADATA_MODE_IDS, TERM_MODE_IDS } from '@stellin/core/delivering/metadata';
import { CONFLICT_IDS, FOLDER_MODE_IDS } from '@stellin/core/delivering/names';
import { PAPER_IDS, SHEET_LAYOUT_IDS } from '@stellin/core/delivering/sheetLayout';
import { SIZING_IDS } from '@stellin/core/delivering/sizing';
import { TABLE_FORMAT_IDS } from '@stellin/core/delivering/tableFormats';
import { FIELDS, type FieldId } from '@stellin/core/metadata/fields';
import { SORTS } from '@stellin/core/search/sorts';
import { folderPath } from './filing';
import { handover } from './handover';
import { job } from './jobs';
import { selection } from './photos';
import { id, isoTime, route, rowCount, text } from './route';

export const SHARPENING = ['none', 'light', 'strong'] as const;
export const COLOUR_SPACES = ['srgb', 'p3', 'keep'] as const;
export const BUNDLE_PARTS = ['lead', 'all', 'raw', 'derived'] as const;
export const CORNERS = ['northwest', 'northeast', 'southwest', 'southeast', 'centre'] as const;

const FIELD_IDS = FIELDS.map(({ id: fieldId }) => fieldId) as [FieldId, ...FieldId[]];
const colour = text.regex(/^#[0-9a-f]{6}$/i, 'A colour is written #rrggbb.');
const MAX_EDGE = 30_000;
/** The longest data URL of a picture that is drawn on copies, in characters. */
export const MAX_WATERMARK_CHARACTERS = 300_000;

export const copySettings = z.object({
  kind: z.literal('copies').default('copies'),
  format: z.enum(COPY_FORMAT_IDS).default('jpeg'),
  quality: z.number().int().min(1).max(100).default(88).describe('Of lossy formats'),
  maxBytes: z
    .number()
    .int()
    .min(10_000)
    .max(2_000_000_000)
    .nullable()
    .default(null)
    .describe('Of lossy formats: quality goes down until a file is no larger'),
  bits: z.union([z.literal(8), z.literal(16)]).default(8),
  size: z
    .object({
      by: z.enum(SIZING_IDS),
      value: z.number().positive().max(MAX_EDGE),
      height: z.number().int().positive().max(MAX_EDGE),
      enlarge: z.boolean(),
    })
    .default({ by: 'long', value: 2400, height: 2400, enlarge: false }),
  sharpen: z.enum(SHARPENING).default('light').describe('After a picture was made smaller'),
  colours: z.enum(COLOUR_SPACES).default('srgb').describe('With its profile'),
  resolution: z.number().int().min(1).max(10_000).default(300).describe('Pixels an inch, as the file says'),
  background: colour.default('#ffffff').describe('Of transparent pictures in formats that are not'),
  border: z.object({ pixels: z.number().int().min(0).max(2000), colour }).default({ pixels: 0, colour: '#ffffff' }),
  watermark: z
    .object({
      text: text.max(200).describe('Empty: none'),
      picture: text
        .max(MAX_WATERMARK_CHARACTERS)
        .regex(/^(data:image\/png;base64,[A-Za-z0-9+/]+={0,2})?$/, 'is no PNG picture as a data URL')
        .default('')
        .describe('Goes before the text; empty: none'),
      place: z.enum(CORNERS),
      opacity: z.number().min(0.05).max(1),
      percent: z.number().min(1).max(50).describe('How high its letters are, or the picture, of the shorter edge'),
    })
    .default({ text: '', picture: '', place: 'southeast', opacity: 0.5, percent: 4 }),
  caption: z.boolean().default(false).describe('The description stands below the picture'),
  name: text.trim().min(1).max(200).default('{name}').describe('With placeholders, without extension'),
  start: z.number().int().min(0).max(9_999_999).default(1).describe('The first {number}'),
  folders: z.enum(FOLDER_MODE_IDS).default('flat'),
  folderPattern: text.max(300).default('{year}'),
  conflict: z.enum(CONFLICT_IDS).default('number').describe('When a file of the name is there already'),
  bundles: z.enum(BUNDLE_PARTS).default('lead'),
  metadata: z
    .object({
      what: z.enum(METADATA_MODE_IDS),
      fields: z.array(z.enum(FIELD_IDS)).max(200),
      position: z.boolean(),
      people: z.boolean(),
      terms: z.enum(TERM_MODE_IDS),
      language: text.max(35),
    })
    .default({ what: 'all', fields: [], position: true, people: true, terms: 'asWritten', language: '' }),
  sidecars: z.boolean().default(false).describe('An XMP file beside each copy'),
  bag: z.boolean().default(false).describe('With manifests after BagIt, RFC 8493'),
});
export type CopySettings = z.infer<typeof copySettings>;

/** Most columns of a table, and fields below a picture. */
const MAX_COLUMNS = 100;
export const tableSettings = z.object({
  kind: z.literal('table'),
  format: z.enum(TABLE_FORMAT_IDS),
  columns: z.array(z.enum(COLUMN_IDS)).min(1).max(MAX_COLUMNS),
  rows: z.enum(ROW_MODE_IDS).default('photo'),
  language: text.max(35).default(''),
});
export type TableSettings = z.infer<typeof tableSettings>;

const millimetres = z.number().min(0).max(1000);
export const sheetSettings = z.object({
  kind: z.literal('sheet'),
  title: text.max(200).default(''),
  paper: z.enum(PAPER_IDS).default('a4'),
  landscape: z.boolean().default(false),
  layout: z.enum(SHEET_LAYOUT_IDS).default('grid'),
  rows: z.number().int().min(1).max(20).default(5),
  columns: z.number().int().min(1).max(12).default(4),
  label: z
    .object({ width: millimetres, height: millimetres, gap: millimetres, top: millimetres, left: millimetres })
    .default({ width: 63.5, height: 38.1, gap: 2.5, top: 15, left: 7 })
    .describe('Of sheets of labels, in millimetres'),
  fields: z.array(z.enum(COLUMN_IDS)).max(MAX_COLUMNS).default(['name']),
  headings: z.enum(['none', 'day', 'folder']).default('none'),
  language: text.max(35).default(''),
});
export type SheetSettings = z.infer<typeof sheetSettings>;

export const gallerySettings = z.object({
  kind: z.literal('gallery'),
  title: text.trim().min(1).max(200).default('Pictures'),
  words: text.max(2000).default('').describe('Below the title'),
  look: z.enum(LOOK_IDS).default('paper'),
  perPage: z.number().int().min(12).max(500).default(60),
  longEdge: z.number().int().min(400).max(6000).default(1600).describe('Of large views, in pixels'),
  fields: z.array(z.enum(COLUMN_IDS)).max(MAX_COLUMNS).default([]),
  terms: z.boolean().default(true).describe('With a page for each term'),
  map: z.boolean().default(false).describe('With a map of where pictures were taken: positions leave'),
  watermark: text.max(200).default(''),
});
export type GallerySettings = z.infer<typeof gallerySettings>;

export const deliverySettings = z.discriminatedUnion('kind', [
  copySettings.extend({ kind: z.literal('copies') }),
  tableSettings,
  sheetSettings,
  gallerySettings,
]);
export type DeliverySettings = z.infer<typeof deliverySettings>;
export type DeliveryKind = DeliverySettings['kind'];

export const presetShape = z.object({
  name: text.trim().min(1).max(120),
  note: text.max(2000).default(''),
  settings: copySettings,
});
export const preset = presetShape.extend({
  id: z.number(),
  version: z.number().describe('Raised by each change'),
  shared: z.boolean(),
  mine: z.boolean(),
});
export type Preset = z.infer<typeof preset>;

export const deliveringChanges = [
  presetShape.extend({
    kind: z.literal('savePreset'),
    presetId: id.nullable().default(null).describe('Null makes a new one'),
    shared: z.boolean().default(true),
  }),
  z.object({ kind: z.literal('removePreset'), presetId: id }),
] as const;

export const deliveryTarget = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('drive'), driveId: z.uuid(), folder: folderPath }),
  z.object({ kind: z.literal('server'), serverId: id, folder: folderPath }),
  z.object({
    kind: z.literal('handover'),
    program: text.max(255).default('').describe('Started with the files, by who administers; empty for none'),
  }),
  z.object({ kind: z.literal('download') }),
]);
export type DeliveryTarget = z.infer<typeof deliveryTarget>;

const leaving = z.object({
  selection,
  sort: z.enum(SORTS).default('taken'),
  presetId: id.nullable().default(null),
  recipient: text.trim().max(200).default(''),
});
export const copiesRequest = leaving.extend({ settings: copySettings });
export type CopiesRequest = z.infer<typeof copiesRequest>;
export const deliveryRequest = leaving.extend({
  settings: deliverySettings,
  target: deliveryTarget,
  reason: text.trim().max(2000).default(''),
});
export type DeliveryRequest = z.infer<typeof deliveryRequest>;

export const DELIVERY_FILE_STATES = ['open', 'written', 'skipped', 'failed'] as const;

export const plannedCopy = z.object({
  photoId: z.number(),
  original: z.string(),
  path: z.string().describe('Where it goes below the target'),
  width: z.number().nullable(),
  height: z.number().nullable(),
  bytes: z.number().nullable().describe('About'),
  away: z.boolean(),
  problem: z.string().nullable().describe('Why it can’t leave'),
  lacks: z.array(z.string()).describe('What rules ask for and it does not have'),
  previewVersion: z.number(),
});
export type PlannedCopy = z.infer<typeof plannedCopy>;

export const deliveryPlan = z.object({
  photos: z.number(),
  bytes: z.number().describe('About'),
  private: z.number().describe('Marked private: they stay'),
  away: z.number().describe('On drives that are away'),
  problems: z.number().describe('That can’t leave as they are'),
  renamed: z.number().describe('Whose name another photo of the delivery has, so that they get a number'),
  problem: z.string().nullable().describe('Why nothing can be delivered'),
  copies: z.array(plannedCopy),
});
export type DeliveryPlan = z.infer<typeof deliveryPlan>;

export const delivery = z.object({
  id: z.uuid(),
  title: z.string(),
  kind: z.enum(['copies', 'table', 'sheet', 'gallery']),
  at: isoTime,
  by: z.string(),
  recipient: z.string(),
  reason: z.string(),
  preset: z.string().describe('The name of the preset as it was; empty for none'),
  presetVersion: z.number().nullable(),
  target: z.string().describe('Where it went, in words'),
  download: z.boolean(),
  photos: z.number(),
  written: z.number(),
  skipped: z.number(),
  failed: z.number(),
  bytes: z.number(),
  handover: handover.nullable().describe('Where it was handed over, and what came back'),
  job: job.nullable(),
});
export type Delivery = z.infer<typeof delivery>;

export const deliveryFile = z.object({
  position: z.number(),
  photoId: z.number().nullable().describe('Null: the photo is no more'),
  original: z.string(),
  path: z.string(),
  bytes: z.number().nullable(),
  state: z.enum(DELIVERY_FILE_STATES),
  problem: z.string().nullable(),
  previewVersion: z.number(),
});
export type DeliveryFile = z.infer<typeof deliveryFile>;

const deliveryParams = z.object({ id: z.uuid() });
const ROWS_PER_PAGE = rowCount.max(500).default(100);

export const deliveringRoutes = {
  listPresets: route({
    method: 'GET',
    path: '/api/presets',
    access: 'deliver',
    shows: 'nothing',
    summary: 'Presets of deliveries: those of everybody and one’s own',
    response: z.object({ presets: z.array(preset) }),
  }),
  showPresetVersions: route({
    method: 'GET',
    path: '/api/presets/:id/versions',
    access: 'deliver',
    shows: 'nothing',
    summary: 'How a preset was before, the latest first',
    params: z.object({ id }),
    response: z.object({ versions: z.array(z.object({ at: isoTime, by: z.string(), preset: presetShape })) }),
  }),
  planDelivery: route({
    method: 'POST',
    path: '/api/deliveries/plan',
    access: 'deliver',
    shows: 'seen',
    summary: 'What a delivery would be: every name, sizes, and what stands in its way',
    body: copiesRequest.extend({ offset: rowCount.default(0), limit: ROWS_PER_PAGE }),
    response: deliveryPlan,
  }),
  deliver: route({
    method: 'POST',
    path: '/api/deliveries',
    access: 'deliver',
    shows: 'seen',
    summary: 'Deliver copies to a folder, or prepare a download',
    body: deliveryRequest,
    response: delivery,
  }),
  listDeliveries: route({
    method: 'GET',
    path: '/api/deliveries',
    access: 'deliver',
    shows: 'seen',
    summary: 'Deliveries, the latest first: all of them for who administers, else one’s own',
    query: z.object({ offset: rowCount.default(0), limit: ROWS_PER_PAGE }),
    response: z.object({ deliveries: z.array(delivery), total: z.number() }),
  }),
  showDelivery: route({
    method: 'GET',
    path: '/api/deliveries/:id',
    access: 'deliver',
    shows: 'seen',
    summary: 'A delivery',
    params: deliveryParams,
    response: delivery,
  }),
  listDeliveryFiles: route({
    method: 'GET',
    path: '/api/deliveries/:id/files',
    access: 'deliver',
    shows: 'seen',
    summary: 'What became of each photo of a delivery',
    params: deliveryParams,
    query: z.object({
      state: z.enum(DELIVERY_FILE_STATES).optional(),
      offset: rowCount.default(0),
      limit: ROWS_PER_PAGE,
    }),
    response: z.object({ files: z.array(deliveryFile), total: z.number() }),
  }),
  retryDelivery: route({
    method: 'POST',
    path: '/api/deliveries/:id/retry',
    access: 'deliver',
    shows: 'seen',
    summary: 'Try the failed ones once more',
    params: deliveryParams,
    response: delivery,
  }),
};

/** Where what a delivery comes to is downloaded: a ZIP of copies, a table, a PDF. */
export const deliveryDownloadPath = (deliveryId: string): string => `/api/deliveries/${deliveryId}/download`;

/** Where the file of a photo is downloaded as it is. */
export const originalPath = (photoId: number | string): string => `/api/photos/${photoId}/original`;

/** Where the first page of a sheet is asked for: the body is a delivery request, the answer a PDF. */
export const FIRST_PAGE_PATH = '/api/deliveries/first-page';
