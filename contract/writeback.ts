import { z } from 'zod';
import { job } from './jobs';
import { selection, WRITE_STATES } from './photos';
import { idParams, route } from './route';

export const writeBackDrive = z.object({
  id: z.uuid(),
  label: z.string(),
  attached: z.boolean(),
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
  previewVersion: z.number(),
});
export type PendingWrite = z.infer<typeof pendingWrite>;

export const metadataVersion = z.object({
  writtenAt: z.string(),
  targets: z.array(z.enum(['file', 'sidecar'])),
  keptBytes: z.number().describe('What is kept of the files as they were before, compressed'),
});
export type MetadataVersion = z.infer<typeof metadataVersion>;

export const writeBackRoutes = {
  listVersions: route({
    method: 'GET',
    path: '/api/photos/:id/writes',
    access: 'viewer',
    summary: 'The writes into a photo’s files, newest first; the newest can be taken back',
    params: idParams,
    response: z.object({ versions: z.array(metadataVersion) }),
  }),
  takeBack: route({
    method: 'POST',
    path: '/api/write-back/take-back',
    access: 'keeper',
    summary: 'Bring files back to what they were before their last write, byte for byte',
    body: z.object({ selection }),
    response: job,
  }),
  overview: route({
    method: 'GET',
    path: '/api/write-back',
    access: 'viewer',
    summary: 'What waits, by drive',
    response: z.object({ drives: z.array(writeBackDrive) }),
  }),
  listPending: route({
    method: 'GET',
    path: '/api/write-back/photos',
    access: 'viewer',
    summary: 'The photos whose write waits, conflicts or failed',
    query: z.object({
      state: z.enum(WRITE_STATES).optional(),
      driveId: z.uuid().optional(),
      offset: z.coerce.number().int().min(0).default(0),
      limit: z.coerce.number().int().min(1).max(200).default(100),
    }),
    response: z.object({ photos: z.array(pendingWrite), total: z.number() }),
  }),
  run: route({
    method: 'POST',
    path: '/api/write-back/run',
    access: 'cataloguer',
    summary: 'Write what waits into the files of attached drives',
    body: z.object({ driveId: z.uuid().optional(), retryFailed: z.boolean().default(false) }),
    response: job,
  }),
};
