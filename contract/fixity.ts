// Whether files hold what they should: by drive, when they are read again, damaged ones and their copies.

import { z } from 'zod';
import { job } from './jobs';
import { done, id, idParams, isoTime, route } from './route';

const time = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'a time of day, as 22:00');

export const fixityPlan = z.object({
  byItself: z.boolean().describe('Whether drives are read again by themselves'),
  hours: z.object({ from: time, to: time }).describe('In which hours, by the clock of the machine'),
  days: z.number().int().min(1).max(3650).describe('A file is read again after so many days'),
  megabytes: z.number().min(1).max(100_000).describe('So many megabytes a second at most'),
});
export type FixityPlan = z.infer<typeof fixityPlan>;

export const USUAL_FIXITY_PLAN: FixityPlan = {
  byItself: true,
  hours: { from: '22:00', to: '06:00' },
  days: 90,
  megabytes: 50,
};

const driveFixity = z.object({
  id: z.uuid(),
  label: z.string(),
  away: z.boolean(),
  photos: z.number(),
  unread: z.number().describe('Never read for this yet'),
  unchanged: z.number(),
  ours: z.number().describe('Changed by us'),
  others: z.number().describe('Changed by other programs: metadata only'),
  damaged: z.number(),
  missing: z.number(),
  oldest: isoTime.nullable().describe('When the file whose proof is oldest was read'),
});
export type DriveFixity = z.infer<typeof driveFixity>;

const damagedFile = z.object({
  photoId: z.number(),
  previewVersion: z.number(),
  path: z.string().describe('With its drive'),
  problem: z.string(),
  provenAt: isoTime,
  comingBack: z.boolean().describe('A good copy is being put in its place'),
  away: z.boolean(),
  copies: z
    .array(z.object({ photoId: z.number(), path: z.string(), away: z.boolean() }))
    .describe('Other files that hold the picture it should'),
});
export type DamagedFile = z.infer<typeof damagedFile>;

export const MOST_DAMAGED = 200;

export const fixityChanges = [
  z.object({
    kind: z.literal('putCopyBack'),
    photoId: id.describe('Whose file is damaged'),
    copyId: id.describe('The photo whose file is put in its place'),
  }),
] as const;

export const fixityRoutes = {
  showFixity: route({
    method: 'GET',
    path: '/api/fixity',
    access: 'see',
    shows: 'seen',
    summary: 'Whether the files of each drive hold what they should',
    response: z.object({ plan: fixityPlan, drives: z.array(driveFixity) }),
  }),
  listDamagedFiles: route({
    method: 'GET',
    path: '/api/fixity/damaged',
    access: 'see',
    shows: 'seen',
    summary: `Damaged files and their copies, the first ${MOST_DAMAGED}`,
    response: z.object({ files: z.array(damagedFile) }),
  }),
  planFixity: route({
    method: 'POST',
    path: '/api/fixity/plan',
    access: 'administer',
    shows: 'nothing',
    summary: 'Say when drives are read again by themselves',
    body: fixityPlan,
    response: done,
  }),
  readDriveAgain: route({
    method: 'POST',
    path: '/api/fixity/drives/:id',
    access: 'files',
    summary: 'Read all files of a drive and compare them with what they should hold',
    params: z.object({ id: z.uuid() }),
    response: job,
  }),
  acceptFile: route({
    method: 'POST',
    path: '/api/fixity/photos/:id/accept',
    access: 'files',
    summary: 'Take the file of a photo as it is now for the right one: somebody has changed it on purpose',
    params: idParams,
    response: done,
  }),
};
