// Writing descriptions back into files: policies, what waits, conflicts, versions.

import { z } from 'zod';
import { FILE_KINDS } from '@stellin/core/metadata/containers/index';
import { job } from './jobs';
import { fieldValue, photoBlocks, selection, WRITE_STATES } from './photos';
import { idParams, route, text, rowCount } from './route';

export const writeBackDrive = z.object({
  id: z.uuid(),
  label: z.string(),
  attached: z.boolean(),
  returned: z
    .string()
    .nullable()
    .describe('When it was attached, if writes waited on it by then and are to be asked about; null otherwise'),
  waiting: z.number(),
  conflict: z.number(),
  failed: z.number(),
  written: z.number().describe('Photos whose file says what the catalogue says, after a write'),
});
export type WriteBackDrive = z.infer<typeof writeBackDrive>;

export const pendingWrite = z.object({
  photoId: z.number(),
  name: z.string(),
  folderPath: z.string(),
  driveId: z.uuid(),
  driveLabel: z.string(),
  attached: z.boolean(),
  state: z.enum(WRITE_STATES),
  since: z.string(),
  message: z.string(),
  add: z.array(z.string()).describe('Keywords the file will get'),
  remove: z.array(z.string()).describe('Keywords the file will lose'),
  rating: z.object({ before: z.number(), after: z.number() }).nullable(),
  mark: z.object({ before: z.string(), after: z.string() }).nullable(),
  fields: z
    .array(
      z.object({
        field: z.string(),
        before: fieldValue.nullable().describe('What the file said when it was read last'),
        after: fieldValue.nullable().describe('What the catalogue says'),
        file: fieldValue.nullable().describe('What the file says now, where that is in conflict'),
        conflicts: z.boolean(),
      }),
    )
    .describe('Fields that will be written, or are in conflict'),
  previewVersion: z.number(),
});
export type PendingWrite = z.infer<typeof pendingWrite>;

export const metadataVersion = z.object({
  writtenAt: z.string(),
  targets: z.array(z.enum(['file', 'sidecar'])),
  keptBytes: z.number().describe('What is kept of the files as they were before, compressed'),
});
export type MetadataVersion = z.infer<typeof metadataVersion>;

/** How a team wants its files written. */
export const writePolicies = z.object({
  iim: z.enum(['always', 'where present']).default('always'),
  sidecarKinds: z
    .array(z.enum(FILE_KINDS))
    .default([])
    .describe('Kinds that could hold it and get a sidecar all the same'),
  recordings: z
    .enum(['sidecar', 'file'])
    .default('sidecar')
    .describe(
      'Where films and sounds are described whose kind has a safe place inside: the first time all of the file is written anew',
    ),
  keepTimes: z.boolean().default(true).describe('The time of a file that is written anew stays as it was'),
  keepTimesInPlace: z
    .boolean()
    .default(false)
    .describe(
      'The same where it is written in place: its size stays as well, so that other programs don’t see that it changed',
    ),
  withheld: z
    .array(text.max(210))
    .max(200)
    .default([])
    .describe('Ids of fields that are never written, and own fields of the project as `custom:NAME`'),
  automaticMinutes: z
    .number()
    .int()
    .min(1)
    .max(1440)
    .nullable()
    .default(null)
    .describe('Written by itself once nobody has changed anything for so long; null: only when asked'),
  onReturn: z.enum(['write', 'ask']).default('ask').describe('What happens when a drive returns on which writes wait'),
});
export type WritePolicies = z.infer<typeof writePolicies>;

/** What a write would do to a photo’s files. */
export const writePreview = z.object({
  way: z.enum(['in place', 'anew', 'sidecar', 'new sidecar', 'nothing']),
  before: photoBlocks.shape.blocks.describe('What the blocks of the files say now'),
  after: photoBlocks.shape.blocks.describe('What they will say'),
  cuts: z.array(z.object({ field: z.string(), text: z.string(), maxBytes: z.number() })),
});
export type WritePreview = z.infer<typeof writePreview>;

export const writeBackRoutes = {
  showPolicies: route({
    method: 'GET',
    path: '/api/write-back/policies',
    access: 'see',
    shows: 'nothing',
    summary: 'How files are written',
    response: writePolicies,
  }),
  savePolicies: route({
    method: 'POST',
    path: '/api/write-back/policies',
    access: 'administer',
    shows: 'nothing',
    summary: 'Change how files are written',
    body: writePolicies,
    response: writePolicies,
  }),
  previewWrite: route({
    method: 'GET',
    path: '/api/photos/:id/write',
    access: 'writeBack',
    shows: 'seen',
    summary: 'What the next write would do to a photo’s files, block by block; nothing is written',
    params: idParams,
    response: writePreview,
  }),
  listConflicts: route({
    method: 'GET',
    path: '/api/write-back/conflicts',
    access: 'writeBack',
    summary: 'Fields in conflict with how many photos, and those that both sides now say the same of',
    response: z.object({ fields: z.array(z.object({ field: z.string(), photos: z.number() })) }),
  }),
  listVersions: route({
    method: 'GET',
    path: '/api/photos/:id/writes',
    access: 'see',
    shows: 'seen',
    summary: 'The writes into a photo’s files, newest first; the newest can be taken back',
    params: idParams,
    response: z.object({ versions: z.array(metadataVersion) }),
  }),
  takeBack: route({
    method: 'POST',
    path: '/api/write-back/take-back',
    access: 'administer',
    summary: 'Bring files back to what they were before their last write, byte for byte',
    body: z.object({ selection }),
    response: job,
  }),
  overview: route({
    method: 'GET',
    path: '/api/write-back',
    access: 'see',
    shows: 'seen',
    summary: 'What waits, by drive',
    response: z.object({ drives: z.array(writeBackDrive) }),
  }),
  listPending: route({
    method: 'GET',
    path: '/api/write-back/photos',
    access: 'writeBack',
    summary: 'The photos whose write waits, conflicts or failed',
    query: z.object({
      state: z.enum(WRITE_STATES).optional(),
      driveId: z.uuid().optional(),
      offset: rowCount.default(0),
      limit: z.coerce.number().int().min(1).max(200).default(100),
    }),
    response: z.object({ photos: z.array(pendingWrite), total: z.number() }),
  }),
  run: route({
    method: 'POST',
    path: '/api/write-back/run',
    access: 'writeBack',
    summary: 'Write what waits into the files of attached drives',
    body: z.object({
      driveId: z.uuid().optional(),
      selection: selection.optional().describe('Only these photos'),
      retryFailed: z.boolean().default(false),
    }),
    response: job,
  }),
};
