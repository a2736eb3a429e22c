// Folders that the catalogue keeps up with by itself.

import { z } from 'zod';
import { FILE_KINDS } from '@stellin/core/metadata/containers/index';
import { folderPath } from './filing';
import { chosenId, done, id, idParams, route, text } from './route';

export const trackedFolder = z.object({
  id,
  driveId: z.uuid(),
  folder: z.string().describe('Below the drive; empty for all of it'),
  subFolders: z.boolean(),
  leaveOut: z.array(z.enum(FILE_KINDS)),
  ignore: z.array(z.string()),
  templateId: z.number().nullable().describe('The template that new photos get'),
  dossierId: z.number().nullable().describe('The dossier, perhaps of a project, into which they are put'),
  checkedAt: z.string().nullable().describe('When it was last looked through as a whole'),
  listens: z
    .boolean()
    .describe('Its file system tells of changes; otherwise it is only looked through from time to time'),
});
export type TrackedFolder = z.infer<typeof trackedFolder>;

export const trackingRoutes = {
  listTracked: route({
    method: 'GET',
    path: '/api/tracked',
    access: 'intake',
    summary: 'Folders that keep up with their drive by themselves',
    response: z.object({ folders: z.array(trackedFolder) }),
  }),
  track: route({
    method: 'POST',
    path: '/api/tracked',
    access: 'administer',
    summary: 'Take in by itself what comes, changes or goes in a folder from now on',
    body: z.object({
      driveId: z.uuid(),
      folder: folderPath.default(''),
      subFolders: z.boolean().default(true),
      leaveOut: z.array(z.enum(FILE_KINDS)).default([]),
      ignore: z.array(text.max(500)).max(100).default([]),
      templateId: chosenId.nullable().default(null),
      dossierId: chosenId.nullable().default(null),
    }),
    response: done,
  }),
  untrack: route({
    method: 'DELETE',
    path: '/api/tracked/:id',
    access: 'administer',
    summary: 'Look through a folder only when asked, from now on',
    params: idParams,
    response: done,
  }),
};
