// The routes of jobs, and of the room that they need.

import type { FastifyInstance } from 'fastify';
import { jobRoutes } from '@stellin/contract/jobs';
import { roomRoutes } from '@stellin/contract/room';
import { serve } from '../serve';
import type { RoomLeft } from './room';
import type { Jobs } from './service';

export function jobsRoutes(app: FastifyInstance, jobs: Jobs, room: RoomLeft): void {
  serve(app, roomRoutes.showRoom, () => room());
  serve(app, jobRoutes.listJobs, async () => ({ jobs: await jobs.list() }));
  serve(app, jobRoutes.listFailures, async ({ params }) => ({ failures: await jobs.failures(params.id) }));
  serve(app, jobRoutes.controlJob, ({ params, body }) => jobs.control(params.id, body.wish));
}
