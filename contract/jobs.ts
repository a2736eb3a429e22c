// Jobs: what runs, waits or ended lately, and minding it.

import { z } from 'zod';
import { route } from './route';

export const JOB_STATES = ['queued', 'running', 'paused', 'waiting', 'done', 'failed', 'cancelled'] as const;

export const job = z.object({
  id: z.uuid(),
  kind: z.string(),
  title: z.string(),
  state: z.enum(JOB_STATES),
  done: z.number(),
  total: z.number().describe('0 while it is not known yet'),
  current: z.string().describe('What is being worked on, or why it waits'),
  failures: z.number(),
  result: z.record(z.string(), z.union([z.number(), z.string(), z.null()])),
  createdAt: z.string(),
  startedAt: z.string().nullable(),
  finishedAt: z.string().nullable(),
  secondsActive: z.number().describe('Time spent running, pauses left out'),
  accountId: z.number().nullable().describe('Who started it; null: the program itself'),
});
export type Job = z.infer<typeof job>;

const jobParams = z.object({ id: z.uuid() });

export const jobRoutes = {
  listJobs: route({
    method: 'GET',
    path: '/api/jobs',
    access: 'see',
    shows: 'seen',
    summary: 'Jobs that run, wait or ended lately, newest first',
    response: z.object({ jobs: z.array(job) }),
  }),
  listFailures: route({
    method: 'GET',
    path: '/api/jobs/:id/failures',
    access: 'see',
    shows: 'seen',
    summary: 'What a job could not do, with the reason',
    params: jobParams,
    response: z.object({ failures: z.array(z.object({ subject: z.string(), message: z.string() })) }),
  }),
  controlJob: route({
    method: 'POST',
    path: '/api/jobs/:id/control',
    access: 'see',
    shows: 'seen',
    summary: 'Pause, resume or cancel a job',
    params: jobParams,
    body: z.object({ wish: z.enum(['run', 'pause', 'cancel']) }),
    response: job,
  }),
};
