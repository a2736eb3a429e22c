// Copying in from a card or folder, and emptying it.

import { z } from 'zod';
import { folderPath, namePattern } from './filing';
import { job } from './jobs';
import { id, route, text } from './route';

export const copyRequest = z.object({
  driveKey: text.min(1).max(300).describe('Of the drive that is copied from; it need not be catalogued'),
  folder: folderPath.default(''),
  subFolders: z.boolean().default(true),
  toDriveId: z.uuid(),
  toFolder: text.trim().max(300).describe('With placeholders: {year}/{year}-{month}-{day}'),
  name: namePattern.describe('With placeholders; the extension stays'),
  start: z.number().int().min(0).max(9_999_999).default(1).describe('The first {number}'),
  secondDriveId: z.uuid().nullable().default(null).describe('A drive that gets a second copy of each file'),
  skipKnown: z.boolean().default(true).describe('Leave out pictures that the catalogue knows'),
  templateId: id.nullable().default(null).describe('The template that the photos get'),
});
export type CopyRequest = z.infer<typeof copyRequest>;

export const copyPlan = z.object({
  files: z.number(),
  bytes: z.number(),
  examples: z.array(z.object({ before: z.string(), after: z.string() })),
  problem: z.string().nullable().describe('Why it can’t be done'),
});
export type CopyPlan = z.infer<typeof copyPlan>;

export const copyingRoutes = {
  planCopy: route({
    method: 'POST',
    path: '/api/copying/plan',
    access: 'intake',
    summary: 'What copying in would do',
    body: copyRequest,
    response: copyPlan,
  }),
  copyIn: route({
    method: 'POST',
    path: '/api/copying',
    access: 'intake',
    summary: 'Copy files from a card or folder onto a drive, prove each copy, and take them in',
    body: copyRequest,
    response: job,
  }),
  proveSource: route({
    method: 'POST',
    path: '/api/copying/prove',
    access: 'files',
    summary: 'Prove what of the source of a copy job is elsewhere; the job tells how much is and what is not',
    body: z.object({ jobId: z.uuid() }),
    response: job,
  }),
  emptySource: route({
    method: 'POST',
    path: '/api/copying/empty',
    access: 'files',
    summary:
      'Delete from the source what a job has copied, each file once it is proven anew to be elsewhere; others stay',
    body: z.object({ jobId: z.uuid() }),
    response: job,
  }),
};
