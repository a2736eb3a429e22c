// The routes of marks.

import type { FastifyInstance } from 'fastify';
import { markRoutes } from '@stellin/contract/marks';
import { serve } from '../serve';
import type { Marks } from './service';

export function marksRoutes(app: FastifyInstance, marks: Marks): void {
  serve(app, markRoutes.listMarks, async ({ person }) => ({ marks: await marks.list(person) }));
}
