// The routes of jobs, and of the room that they need.

import type { FastifyInstance } from 'fastify';
import type { SignedIn } from '@stellin/contract/accounts';
import { jobRoutes } from '@stellin/contract/jobs';
import { roomRoutes } from '@stellin/contract/room';
import { serve } from '../serve';
import type { RoomLeft } from './room';
import type { Jobs } from './service';

/** Whose jobs exist for somebody: their own, where not everything does; null: all. */
function ownerOf({ seesAll, id }: Pick<SignedIn, 'seesAll' | 'id'>): number | null {
  return seesAll ? null : id;
}

export function jobsRoutes(app: FastifyInstance, jobs: Jobs, room: RoomLeft): void {
  serve(app, roomRoutes.showRoom, () => room());
  serve(app, jobRoutes.listJobs, async ({ person }) => ({ jobs: await jobs.list(ownerOf(person)) }));
  serve(app, jobRoutes.listFailures, async ({ params, person }) => {
    await jobs.requireOf(params.id, ownerOf(person));
    return { failures: await jobs.failures(params.id) };
  });
  serve(app, jobRoutes.controlJob, async ({ params, body, person }) => {
    // Everybody minds their own jobs; others’ are for who administers.
    await jobs.requireOf(params.id, ownerOf(person));
    if (!person.everywhere.includes('administer')) await jobs.requireMine(params.id, person.id, person.role);
    return jobs.control(params.id, body.wish);
  });
}
