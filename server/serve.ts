// Serving a route of the contract: the access level is part of the description, so no route exists without one.

import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import type { ZodTypeProvider } from 'fastify-type-provider-zod';
import type { z } from 'zod';
import { mayCall } from '@stellin/contract/accounts';
import { errorBody, type Access, type Route, type Shows } from '@stellin/contract/route';
import type { Person } from './catalogue/viewer';
import { StellinError } from './errors';

declare module 'fastify' {
  interface FastifyRequest {
    /** Who asks; null when nobody is signed in. */
    person: Person | null;
    /** The session with which they ask. */
    sessionId: string | null;
  }
  interface FastifyContextConfig {
    access?: Access;
    shows?: Shows;
  }
}

/** The value of `content-disposition` for a file of a name: in ASCII for old programs, and as it is (RFC 6266). */
export function attachment(name: string): string {
  const ascii = name.replace(/[^\x20-\x7e]|["\\]/g, '-');
  return `attachment; filename="${ascii}"; filename*=UTF-8''${encodeURIComponent(name)}`;
}

export interface Call<R extends Route> {
  params: z.output<R['params']>;
  query: z.output<R['query']>;
  body: z.output<R['body']>;
  /** Who asks. On public routes nobody may be signed in: those use `request.person`. */
  person: Person;
  request: FastifyRequest;
  reply: FastifyReply;
}

/** Serves a route: requests are checked against its schemas before the handler sees them, answers after. */
export function serve<R extends Route>(
  app: FastifyInstance,
  route: R,
  handler: (call: Call<R>) => Promise<z.input<R['response']>>,
  config: Record<string, unknown> = {},
  /** Where requests may be larger than others. */
  bodyLimit?: number,
): void {
  app.withTypeProvider<ZodTypeProvider>().route({
    method: route.method,
    url: route.path,
    config: { access: route.access, shows: route.shows, ...config },
    ...(bodyLimit === undefined ? {} : { bodyLimit }),
    schema: {
      summary: route.summary,
      tags: [route.path.split('/')[2] ?? ''],
      params: route.params,
      querystring: route.query,
      ...(route.method === 'POST' ? { body: route.body } : {}),
      response: { 200: route.response, default: errorBody },
    },
    handler: async (request, reply) =>
      (await handler({
        params: request.params as z.output<R['params']>,
        query: request.query as z.output<R['query']>,
        body: request.body as z.output<R['body']>,
        // Checked by requireAccess before any handler of a route that is not public.
        person: request.person as Person,
        request,
        reply,
      })) as never,
  });
}

/** Who asks for what is no JSON and is served beside the contract’s table, once `requireAccess` has let them. */
export function personOf({ person }: FastifyRequest): Person {
  if (!person) throw new StellinError('notSignedIn');
  return person;
}

/** Pictures are kept by the browser while their address stays, not longer than a session lasts; signing out clears them. */
export const PICTURE_CACHE = `private, max-age=${12 * 3600}, immutable`;

/** Where the description of the API can be read in a browser; its pages come with a package, which knows nothing of access. */
export const API_DOCS_PATH = '/api/docs';

/** Refuses to register a route that does not say who may call it, and turns away those who may not. */
export function requireAccess(app: FastifyInstance): void {
  app.addHook('onRoute', (route) => {
    if (route.url.startsWith(API_DOCS_PATH)) route.config = { ...route.config, access: 'public', shows: 'nothing' };
    if (!route.config?.access)
      throw new Error(`The route ${String(route.method)} ${route.url} does not say who may call it`);
  });
  app.addHook('onRequest', async (request) => {
    const { access, shows = 'all' } = request.routeOptions.config;
    // What is one’s own is for the person, not for a script that asks in their name.
    const isScript = request.person !== null && request.sessionId === null;
    if (access === undefined || (mayCall(request.person, { access, shows }) && !(isScript && access === 'signedIn')))
      return;
    throw request.person
      ? new StellinError('notAllowed', { role: request.person.role || 'no role' })
      : new StellinError('notSignedIn');
  });
}
