// The routes of site plans.

import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import {
  MAX_PINS_TEXT,
  MAX_PLAN_CHARACTERS,
  PIN_FORMATS,
  planExport,
  planPrint,
  planRoutes,
  tileParams,
} from '@stellin/contract/plans';
import { idParams } from '@stellin/contract/route';
import type { Database } from '../database/database';
import { requireSeen } from '../catalogue/seen';
import { StellinError } from '../errors';
import { attachment, personOf, PICTURE_CACHE, serve } from '../serve';
import type { Plans } from './service';

const layerList = z.array(z.string());

export function plansRoutes(app: FastifyInstance, database: Database, plans: Plans): void {
  serve(app, planRoutes.listPlans, async ({ person }) => ({ plans: await plans.list(person) }));
  serve(app, planRoutes.showPlan, ({ params, person }) => plans.show(person, params.id));
  serve(
    app,
    planRoutes.addPlanPicture,
    async ({ body, person }) => {
      if ('picture' in body) return plans.addFile(body.name, Buffer.from(body.picture, 'base64'), person.accountId);
      await requireSeen(database, person, body.photoId);
      return plans.addPhoto(body.photoId, body.page, person.accountId);
    },
    {},
    MAX_PLAN_CHARACTERS * 2,
  );
  serve(app, planRoutes.proposePins, ({ params, body, person }) => plans.propose(person, params.id, body.query));
  serve(
    app,
    planRoutes.readPins,
    ({ params, body, person }) => plans.read(person, params.id, body.text),
    {},
    MAX_PINS_TEXT * 2,
  );
  serve(app, planRoutes.readPinRegions, ({ params, person }) => plans.readRegions(person, params.id));
  serve(app, planRoutes.pinsOfPhoto, async ({ params, person }) => {
    await requireSeen(database, person, params.id);
    return { pins: await plans.ofPhoto(person, params.id) };
  });
  filesRoutes(app, plans);
}

/** Pictures and files, not JSON: outside the contract's table, but with the same rules on who may ask. */
function filesRoutes(app: FastifyInstance, plans: Plans): void {
  const config = { access: 'see', shows: 'seen' } as const;
  app.get(
    '/api/plans/:id/tiles/:z/:y/:x',
    { config, schema: { summary: 'A tile of the picture of a plan as WebP', params: tileParams } },
    async (request, reply) => {
      const { id, ...at } = tileParams.parse(request.params);
      const tile = await plans.tile(personOf(request), id, at);
      if (!tile) throw new StellinError('notFound', { what: 'such tile' });
      return reply.header('cache-control', PICTURE_CACHE).type('image/webp').send(tile);
    },
  );
  app.get(
    '/api/plans/:id/export',
    { config, schema: { summary: 'The pins of a plan as a file', params: idParams, querystring: planExport } },
    async (request, reply) => {
      const { format } = planExport.parse(request.query);
      const { name, text } = await plans.write(personOf(request), idParams.parse(request.params).id, format);
      const { ending, type } = PIN_FORMATS[format];
      return reply
        .header('content-disposition', attachment(`${name}.${ending}`))
        .type(`${type}; charset=utf-8`)
        .send(text);
    },
  );
  app.get(
    '/api/plans/:id/print',
    { config, schema: { summary: 'A plan with its pins as PDF', params: idParams, querystring: planPrint } },
    async (request, reply) => {
      const { pictures, layers } = planPrint.parse(request.query);
      const { name, pdf } = await plans.print(personOf(request), idParams.parse(request.params).id, {
        withPictures: pictures === 'yes',
        layers: layersIn(layers),
      });
      return reply
        .header('content-disposition', attachment(`${name}.pdf`))
        .type('application/pdf')
        .send(pdf);
    },
  );
}

function layersIn(text: string | undefined): string[] | undefined {
  if (text === undefined) return undefined;
  try {
    return layerList.parse(JSON.parse(text));
  } catch {
    throw new StellinError('badRequest', { problem: 'layers is no JSON list of names' });
  }
}
