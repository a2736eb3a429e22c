// The routes of projects.

import type { FastifyInstance } from 'fastify';
import { projectRoutes } from '@stellin/contract/projects';
import { serve } from '../serve';
import type { Projects } from './service';

export function projectsRoutesFor(app: FastifyInstance, projects: Projects): void {
  serve(app, projectRoutes.listProjects, async ({ person }) => ({ projects: await projects.list(person) }));
}
