import { z } from 'zod';
import { job } from './jobs';
import { route } from './route';

export const accession = z.object({
  id: z.number(),
  driveLabel: z.string(),
  folder: z.string(),
  by: z.string(),
  startedAt: z.string(),
  finishedAt: z.string().nullable(),
  photosNew: z.number(),
  photosChanged: z.number(),
  damaged: z.number(),
  failures: z.number(),
  jobId: z.uuid().nullable(),
});
export type Accession = z.infer<typeof accession>;

export const intakeRoutes = {
  takeIn: route({
    method: 'POST',
    path: '/api/intake',
    access: 'cataloguer',
    summary: 'Index a drive, or a folder of it, in place',
    body: z.object({
      driveKey: z.string().min(1).max(300),
      folder: z.string().max(4000).default('').describe('Below the drive, with / between; empty for all of it'),
      subFolders: z.boolean().default(true),
    }),
    response: job,
  }),
  lookInto: route({
    method: 'GET',
    path: '/api/intake/survey',
    access: 'cataloguer',
    summary: 'What a drive holds, before it is taken in',
    query: z.object({ driveKey: z.string().min(1).max(300) }),
    response: z.object({
      files: z.number(),
      bytes: z.number(),
      kinds: z.record(z.string(), z.number()),
      folders: z.array(z.object({ path: z.string(), photos: z.number() })),
      complete: z.boolean().describe('False when there was more than one look can count'),
    }),
  }),
  listAccessions: route({
    method: 'GET',
    path: '/api/accessions',
    access: 'viewer',
    summary: 'All takings-in, newest first',
    response: z.object({ accessions: z.array(accession) }),
  }),
};
