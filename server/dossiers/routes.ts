// The routes of dossiers.

import type { FastifyInstance } from 'fastify';
import { dossierRoutes } from '@stellin/contract/dossiers';
import { serve } from '../serve';
import type { Dossiers } from './service';

export function dossiersRoutes(app: FastifyInstance, dossiers: Dossiers): void {
  serve(app, dossierRoutes.listDossiers, async ({ person }) => ({ dossiers: await dossiers.list(person) }));
  serve(app, dossierRoutes.pinDossier, async ({ person, body }) => {
    await dossiers.pin(person.id, body.dossierId);
    return {};
  });
}
