// Handing over to other programs: the folder they work in, and what comes back.

import { z } from 'zod';
import { changedField } from './describing';
import { job } from './jobs';
import { done, id, isoTime, route, rowCount } from './route';

export const handover = z.object({
  folder: z.string().describe('Where the files are, on the machine of the server'),
  program: z.string().describe('What was started with them; empty for nothing'),
  outcome: z.string().nullable().describe('What became of the program, in words; null while it runs'),
  closed: z.boolean(),
  back: z.number().describe('Files that came back'),
  waiting: z.number().describe('Of these: that nobody has decided on'),
});
export type Handover = z.infer<typeof handover>;

export const RETURNED_STATES = ['waiting', 'taken', 'left'] as const;

export const returnedFile = z.object({
  id: z.number(),
  path: z.string().describe('Below the folder'),
  at: isoTime,
  kind: z.enum(['picture', 'words']).describe('Another picture, or only what is said of one that went out'),
  bytes: z.number(),
  state: z.enum(RETURNED_STATES),
  problem: z.string().nullable().describe('Why it can’t be taken in'),
  original: z
    .object({ photoId: z.number(), name: z.string(), previewVersion: z.number() })
    .nullable()
    .describe('The photo that it belongs to'),
  photoId: z.number().nullable().describe('The photo that it has become'),
  goesTo: z.string().nullable().describe('Drive and folder of a picture'),
  fields: z.array(changedField).describe('How it differs from what is said of its original now'),
  contested: z.array(z.string()).describe('Labels of fields that were changed here meanwhile as well'),
});
export type ReturnedFile = z.infer<typeof returnedFile>;

export const handoverChanges = [
  z.object({
    kind: z.literal('takeReturned'),
    deliveryId: z.uuid(),
    ids: z.array(id).min(1).max(10_000).describe('Of files whose pictures are in their places already'),
  }),
] as const;

const params = z.object({ id: z.uuid() });
const chosen = z.array(id).min(1).max(10_000);

export const handoverRoutes = {
  listPrograms: route({
    method: 'GET',
    path: '/api/handovers/programs',
    access: 'administer',
    shows: 'nothing',
    summary: 'Programs that files can be handed over to: those in the folder of programs',
    response: z.object({ folder: z.string(), programs: z.array(z.string()) }),
  }),
  listReturned: route({
    method: 'GET',
    path: '/api/handovers/:id/returned',
    access: 'files',
    summary: 'What came back of a handover, what waits first',
    params,
    query: z.object({ offset: rowCount.default(0), limit: rowCount.max(200).default(50) }),
    response: z.object({ files: z.array(returnedFile), total: z.number() }),
  }),
  takeReturned: route({
    method: 'POST',
    path: '/api/handovers/:id/take',
    access: 'files',
    summary: 'Take in what came back: pictures beside their originals, words into what is said of these',
    params,
    body: z.object({ ids: chosen.nullable().describe('Null: all that waits') }),
    response: z.object({ jobs: z.array(job) }),
  }),
  leaveReturned: route({
    method: 'POST',
    path: '/api/handovers/:id/leave',
    access: 'files',
    summary: 'Leave files that came back where they are',
    params,
    body: z.object({ ids: chosen }),
    response: done,
  }),
  lookForReturned: route({
    method: 'POST',
    path: '/api/handovers/:id/look',
    access: 'files',
    summary: 'Look now whether something came back',
    params,
    response: handover,
  }),
  closeHandover: route({
    method: 'POST',
    path: '/api/handovers/:id/close',
    access: 'files',
    summary:
      'End a handover: what is as it went out, and what was taken in, is deleted from its folder; the rest stays',
    params,
    response: z.object({ removed: z.number(), kept: z.number() }),
  }),
};

/** Where the picture of a file that came back is shown. */
export const returnedPicturePath = (deliveryId: string, returnedId: number | string): string =>
  `/api/handovers/${deliveryId}/returned/${returnedId}/picture`;
