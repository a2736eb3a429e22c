// Moving, copying, renaming, trashing files: what is asked and what would come of it.

import { z } from 'zod';
import { FIND_MODES } from '@stellin/core/describing/replacing';
import { idParams, route, text } from './route';
import { job } from './jobs';
import { selection } from './photos';

/** What can be done with files; `return` brings back what was taken out of the catalogue. */
export const FILING_ACTIONS = ['move', 'copy', 'rename', 'trash', 'restore', 'remove', 'return'] as const;
export type FilingAction = (typeof FILING_ACTIONS)[number];

/** A folder below a drive, with / between; empty for the drive itself. */
export const folderPath = text.max(2000).transform((path) => path.replace(/^\/+|\/+$/g, ''));
/** Where photos go to, and whether their folders go along. */
export const target = z.object({
  driveId: z.uuid(),
  folder: folderPath,
  keepBelow: folderPath
    .nullable()
    .default(null)
    .describe(
      'A folder above the photos: what is below it is so below the new one as well; null: all go into the one folder',
    ),
});

/** Text with placeholders, see core/filing/namePattern. */
export const namePattern = text.trim().min(1).max(300);

/** When the numbers of new names begin anew. */
export const RESTARTS = ['never', 'folder', 'day'] as const;

/** How files get new names. */
export const renaming = z.object({
  pattern: text.trim().max(300).default('').describe('Of the new names; empty is refused'),
  start: z.number().int().min(0).max(9_999_999).default(1).describe('The first {number}'),
  step: z.number().int().min(1).max(1000).default(1),
  restart: z.enum(RESTARTS).default('never'),
  replacing: z
    .object({
      find: text.min(1).max(300),
      how: z.enum(FIND_MODES),
      matchCase: z.boolean().default(false),
      replace: text.max(300),
    })
    .optional()
    .describe('What is replaced in the name so far, before it stands in the pattern as {name}'),
});
export type Renaming = z.infer<typeof renaming>;

export const filingPlan = z.object({
  photos: z.number().describe('That it will be done to'),
  bytes: z.number(),
  away: z.number().describe('Left out: their drive is away'),
  missing: z.number().describe('Left out: their file is missing'),
  readOnly: z.number().describe('Left out: their drive can’t be written to'),
  busy: z.number().describe('Left out: their files are still on the way'),
  taken: z.number().describe('Whose name is taken where they go: they get a number'),
  examples: z.array(
    z.object({
      photoId: z.number(),
      before: z.string(),
      after: z.string(),
      taken: z.boolean().describe('Another file has that name, or gets it before'),
    }),
  ),
  problem: z.string().nullable().describe('Why it can’t be done at all'),
});
export type FilingPlan = z.infer<typeof filingPlan>;

/** So many files of a folder are counted at most. */
export const MOST_COUNTED_FILES = 50_000;

export const filingRoutes = {
  showFolder: route({
    method: 'GET',
    path: '/api/folders/:id/contents',
    access: 'files',
    summary: 'What is in a folder and all below it, also what the catalogue does not know',
    params: idParams,
    response: z.object({
      photos: z.number().describe('With films, sounds and documents'),
      folders: z.number().describe('Below it'),
      others: z
        .number()
        .nullable()
        .describe('Files that are none of these; null: the drive is away, or there are too many to count'),
    }),
  }),
  planFiling: route({
    method: 'POST',
    path: '/api/filing/plan',
    access: 'files',
    summary: 'What moving, copying, renaming, trashing or removing photos would do',
    body: z.object({
      action: z.enum(FILING_ACTIONS),
      selection,
      driveId: z.uuid().optional().describe('Where to, in moving and copying'),
      folder: folderPath.default(''),
      keepBelow: target.shape.keepBelow,
      ...renaming.shape,
    }),
    response: filingPlan,
  }),
  listTrash: route({
    method: 'GET',
    path: '/api/filing/trash',
    access: 'files',
    summary: 'What is in the trash of each drive, and taken out of the catalogue',
    response: z.object({
      drives: z.array(
        z.object({ id: z.uuid(), label: z.string(), away: z.boolean(), photos: z.number(), bytes: z.number() }),
      ),
      removed: z.number(),
    }),
  }),
  emptyTrash: route({
    method: 'POST',
    path: '/api/filing/trash/empty',
    access: 'files',
    summary: 'Delete the files in the trash of a drive for good, with all that was said of them',
    body: z.object({ driveId: z.uuid() }),
    response: job,
  }),
};
