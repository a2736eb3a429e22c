// What requests leave in the record of access: routes say by `records` in their configuration what it means that they were answered.

import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import type { AccessKind } from '@stellin/contract/access';
import type { AccessRecord } from './access';

declare module 'fastify' {
  interface FastifyContextConfig {
    /** What is recorded of a request that is answered; of one that is turned away, `refused`. */
    records?: AccessKind;
    /** What is recorded of one that is turned away because nobody is who it says. */
    recordsRefused?: AccessKind;
  }
}

const photo = z.object({ id: z.coerce.number().int() });
const asked = z.object({ name: z.string().max(200) });
const MAX_DEVICE = 200;

export function recordAccess(app: FastifyInstance, access: AccessRecord): void {
  app.addHook('onResponse', (request, reply, next) => {
    const { records, recordsRefused } = request.routeOptions.config;
    const { person, ip: address } = request;
    const accountId = person?.accountId ?? null;
    const { statusCode } = reply;
    if (records && statusCode < 300) {
      const photoId = photo.safeParse(request.params).data?.id;
      const about = records === 'signedIn' ? (request.headers['user-agent'] ?? '').slice(0, MAX_DEVICE) : '';
      access.note({ kind: records, accountId, address, about, photoId });
    } else if (recordsRefused && (statusCode === 401 || statusCode === 429))
      access.note({ kind: recordsRefused, accountId, address, name: asked.safeParse(request.body).data?.name });
    else if (statusCode === 403 && person)
      access.note({ kind: 'refused', accountId, address, about: summaryOf(request.routeOptions.schema) });
    next();
  });
}

/** What a route does, in its own words. */
function summaryOf(schema: unknown): string {
  return z.object({ summary: z.string() }).safeParse(schema).data?.summary ?? '';
}
