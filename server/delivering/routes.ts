// The routes of deliveries and presets.

import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import {
  deliveringRoutes,
  deliveryDownloadPath,
  deliveryRequest,
  FIRST_PAGE_PATH,
  originalPath,
} from '@stellin/contract/delivering';
import { deliveryServerRoutes } from '@stellin/contract/deliveryServers';
import { idParams } from '@stellin/contract/route';
import { attachment, personOf, serve } from '../serve';
import type { DeliveryServers } from './servers';
import type { Deliveries } from './service';

const fileParams = z.object({ id: z.uuid() });

export function deliveringRoutesFor(app: FastifyInstance, deliveries: Deliveries, servers: DeliveryServers): void {
  serve(app, deliveryServerRoutes.listDeliveryServers, async () => ({ servers: await servers.list() }));
  serve(app, deliveryServerRoutes.tryDeliveryServer, ({ body }) => servers.try(body));
  serve(app, deliveryServerRoutes.saveDeliveryServer, ({ body }) => servers.save(body));
  serve(app, deliveryServerRoutes.removeDeliveryServer, async ({ params }) => {
    await servers.remove(params.id);
    return { done: true as const };
  });

  serve(app, deliveringRoutes.listPresets, async ({ person }) => ({
    presets: await deliveries.presets(person.accountId),
  }));
  serve(app, deliveringRoutes.showPresetVersions, async ({ params, person }) => ({
    versions: await deliveries.presetVersions(params.id, person.accountId),
  }));
  serve(app, deliveringRoutes.planDelivery, ({ body, person }) => deliveries.plan(body, person));
  serve(app, deliveringRoutes.deliver, ({ body, person }) => deliveries.deliver(body, person), {
    records: 'delivered',
  });
  serve(app, deliveringRoutes.listDeliveries, ({ query, person }) => deliveries.list(person, query));
  serve(app, deliveringRoutes.showDelivery, ({ params, person }) => deliveries.show(params.id, person));
  serve(app, deliveringRoutes.listDeliveryFiles, ({ params, query, person }) =>
    deliveries.files(params.id, query, person),
  );
  serve(app, deliveringRoutes.retryDelivery, ({ params, person }) => deliveries.retry(params.id, person));

  // A file, not JSON: outside the contract's table, but with the same rules on who may ask.
  app.get(
    deliveryDownloadPath(':id'),
    {
      config: { access: 'deliver', shows: 'seen', records: 'downloaded' },
      schema: {
        summary: 'What a delivery comes to (a ZIP of copies, a table, a PDF), made while it is read',
        params: fileParams,
      },
    },
    async (request, reply) => {
      const { id } = fileParams.parse(request.params);
      const { name, stream, mediaType } = await deliveries.download(id, personOf(request));
      reply.type(mediaType).header('content-disposition', attachment(name)).header('cache-control', 'no-store');
      return reply.send(stream);
    },
  );
  app.get(
    originalPath(':id'),
    {
      config: { access: 'deliver', shows: 'seen', records: 'tookOriginal' },
      schema: { summary: 'The file of a photo as it is', params: idParams },
    },
    async (request, reply) => {
      const { id } = idParams.parse(request.params);
      const { name, stream, bytes } = await deliveries.original(id, personOf(request));
      return reply
        .type('application/octet-stream')
        .header('content-length', bytes)
        .header('content-disposition', attachment(name))
        .header('cache-control', 'no-store')
        .send(stream);
    },
  );
  app.post(
    FIRST_PAGE_PATH,
    {
      config: { access: 'deliver', shows: 'seen' },
      schema: { summary: 'The first page of a sheet as PDF', body: deliveryRequest },
    },
    async (request, reply) => {
      const stream = await deliveries.firstPage(deliveryRequest.parse(request.body), personOf(request));
      return reply.type('application/pdf').header('cache-control', 'no-store').send(stream);
    },
  );
}
