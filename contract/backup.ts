// Backups of the catalogue: when they are made, where they stand, how the last ones ended.

import { z } from 'zod';
import { job } from './jobs';
import { done, isoTime, route, text } from './route';

const MAX_KEPT = 1000;
const kept = z.number().int().min(0).max(MAX_KEPT);

export const backupPlan = z.object({
  nightly: z.boolean().describe('Whether backups are made by themselves'),
  time: z
    .string()
    .regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'a time of day, as 02:30')
    .describe('When, by the clock of the machine'),
  folder: text
    .max(4000)
    .refine((folder) => folder === '' || folder.startsWith('/'), 'a whole path, which begins with /')
    .describe('Where they are kept; empty: in the data folder'),
  keep: z.object({ days: kept, weeks: kept, months: kept }).describe('Of how many days, weeks and months one stays'),
  previews: z.boolean().describe('Whether previews go along; they can be made anew from the files'),
});
export type BackupPlan = z.infer<typeof backupPlan>;

export const USUAL_PLAN: BackupPlan = {
  nightly: true,
  time: '02:30',
  folder: '',
  keep: { days: 7, weeks: 4, months: 12 },
  previews: false,
};

export const backup = z.object({
  id: z.uuid(),
  at: isoTime,
  path: z.string(),
  there: z.boolean().describe('Whether its file is there now'),
  bytes: z.number(),
  seconds: z.number(),
  nightly: z.boolean(),
  previews: z.boolean(),
  problem: z.string().nullable().describe('Why there is none'),
  checkedAt: isoTime.nullable().describe('When it was last restored for trial'),
  checkProblem: z.string().nullable().describe('What was wrong then'),
});
export type Backup = z.infer<typeof backup>;

export const backupState = z.object({
  nightly: z.boolean(),
  last: z.object({ at: isoTime, bytes: z.number(), isOld: z.boolean() }).nullable(),
  failed: z.object({ at: isoTime, problem: z.string() }).nullable().describe('The last try, where it failed'),
  checked: z.object({ at: isoTime, problem: z.string().nullable() }).nullable().describe('The last trial'),
});
export type BackupState = z.infer<typeof backupState>;

export const backupRoutes = {
  showBackupState: route({
    method: 'GET',
    path: '/api/backups/state',
    access: 'see',
    shows: 'nothing',
    summary: 'How old the last backup is, and how it ended',
    response: backupState,
  }),
  listBackups: route({
    method: 'GET',
    path: '/api/backups',
    access: 'administer',
    shows: 'nothing',
    summary: 'The backups of the catalogue, newest first, and when they are made',
    response: z.object({
      plan: backupPlan,
      ownFolder: z.string().describe('Where they are kept if the plan names no folder'),
      backups: z.array(backup),
    }),
  }),
  backUp: route({
    method: 'POST',
    path: '/api/backups',
    access: 'administer',
    shows: 'nothing',
    summary: 'Back the catalogue up now',
    response: job,
  }),
  planBackups: route({
    method: 'POST',
    path: '/api/backups/plan',
    access: 'administer',
    shows: 'nothing',
    summary: 'Say when backups are made, where they are kept and how many stay',
    body: backupPlan,
    response: done,
  }),
  checkBackup: route({
    method: 'POST',
    path: '/api/backups/:id/check',
    access: 'administer',
    shows: 'nothing',
    summary: 'Restore a backup for trial, into a database of its own that is dropped afterwards',
    params: z.object({ id: z.uuid() }),
    response: job,
  }),
};
