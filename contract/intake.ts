// Taking in: accessions, surveys of drives, photos whose file is missing.

import { z } from 'zod';
import { FILE_KINDS } from '@stellin/core/metadata/containers/index';
import { job } from './jobs';
import { folderPath } from './filing';
import { done, id, idParams, route, text } from './route';

export const accession = z.object({
  id: z.number(),
  driveLabel: z.string(),
  folder: z.string(),
  number: z.string().describe('As the archive numbers it; empty: not said'),
  donor: z.string(),
  source: z.string().describe('Where the files were copied from; empty for files that were taken in where they are'),
  by: z.string(),
  startedAt: z.string(),
  finishedAt: z.string().nullable(),
  photosNew: z.number(),
  photosChanged: z.number(),
  picturesChanged: z
    .number()
    .describe('Of those that changed, the ones whose picture is another, not only its description'),
  photosMoved: z.number().describe('Known before at another place'),
  photosMissing: z.number().describe('Whose files were not found'),
  photosReturned: z.number().describe('Missing before and there again'),
  disagreeing: z.number().describe('In whose files EXIF, IIM and XMP say different things'),
  damaged: z.number(),
  failures: z.number(),
  jobId: z.uuid().nullable(),
});
export type Accession = z.infer<typeof accession>;

export const linkCandidate = z.object({
  name: z.string(),
  sizeBytes: z.number(),
  sameName: z.boolean(),
  sameSize: z.boolean(),
  known: z.boolean().describe('A photo of its own in the catalogue'),
  described: z.boolean().describe('And somebody said something of it here: it can’t be linked'),
});
export type LinkCandidate = z.infer<typeof linkCandidate>;

export const intakeRoutes = {
  browseAway: route({
    method: 'POST',
    path: '/api/drives/:id/browsing',
    access: 'administer',
    shows: 'nothing',
    summary: 'Keep large pictures of a drive, so that it can be looked at while it is away',
    params: z.object({ id: z.uuid() }),
    body: z.object({ on: z.boolean() }),
    response: done,
  }),
  listCandidates: route({
    method: 'GET',
    path: '/api/photos/:id/candidates',
    access: 'intake',
    summary: 'The files of a folder that a missing photo may be, the likeliest first',
    params: idParams,
    query: z.object({ driveId: z.uuid(), folder: folderPath.default('') }),
    response: z.object({ candidates: z.array(linkCandidate) }),
  }),
  linkPhoto: route({
    method: 'POST',
    path: '/api/photos/:id/link',
    access: 'intake',
    summary: 'Give a missing photo a file',
    params: idParams,
    body: z.object({
      driveId: z.uuid(),
      folder: folderPath,
      name: text.min(1).max(255),
      otherPicture: z.boolean().default(false).describe('The picture may be another one than it was'),
    }),
    response: done,
  }),
  takeIn: route({
    method: 'POST',
    path: '/api/intake',
    access: 'intake',
    summary: 'Index a drive, or a folder of it, in place',
    body: z.object({
      driveKey: text.min(1).max(300),
      folder: text.max(4000).default('').describe('Below the drive, with / between; empty for all of it'),
      subFolders: z.boolean().default(true),
      leaveOut: z.array(z.enum(FILE_KINDS)).default([]).describe('Kinds of files that are not taken in'),
      ignore: z
        .array(text.max(500))
        .max(100)
        .default([])
        .describe('Patterns of files and folders to pass over: * and ? for letters, ** for any folders'),
      missingOnly: z.boolean().default(false).describe('Only look for files of missing photos'),
      templateId: id.nullable().default(null).describe('The template that new photos get'),
    }),
    response: job,
  }),
  tryAgain: route({
    method: 'POST',
    path: '/api/intake/again',
    access: 'intake',
    summary: 'Take in again what a job could not',
    body: z.object({ jobId: z.uuid() }),
    response: job,
  }),
  lookInto: route({
    method: 'GET',
    path: '/api/intake/survey',
    access: 'intake',
    summary: 'What a drive holds, before it is taken in',
    query: z.object({ driveKey: text.min(1).max(300) }),
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
    access: 'intake',
    summary: 'All takings-in, newest first',
    response: z.object({ accessions: z.array(accession) }),
  }),
};
