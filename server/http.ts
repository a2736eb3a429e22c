// What every HTTP server of ours has: security headers, limits, and errors in words.

import { readFileSync } from 'node:fs';
import fastifyCookie from '@fastify/cookie';
import fastifyHelmet from '@fastify/helmet';
import fastifyRateLimit from '@fastify/rate-limit';
import Fastify, {
  type FastifyBaseLogger,
  type FastifyError,
  type FastifyInstance,
  type FastifyReply,
  type FastifyRequest,
} from 'fastify';
import { hasZodFastifySchemaValidationErrors, serializerCompiler, validatorCompiler } from 'fastify-type-provider-zod';
import type { Logger } from 'pino';
import type { Network } from './config';
import { isDatabaseAway } from './database/away';
import { StellinError } from './errors';

const MAX_HEADER_BYTES = 512 * 1024;
const MAX_BODY_BYTES = 2 * 1024 * 1024;
const REQUESTS_A_MINUTE = 6000;

/** A server without routes. */
export async function openHttp(network: Network, log: Logger): Promise<FastifyInstance> {
  const { trustProxy, tls } = network;
  const app = Fastify({
    trustProxy,
    ...(tls ? { https: { cert: readFileSync(tls.cert), key: readFileSync(tls.key) } } : {}),
    loggerInstance: log as FastifyBaseLogger,
    bodyLimit: MAX_BODY_BYTES,
    forceCloseConnections: true,
    // A query stands in the address; one that is too long is refused by name, not by silence.
    http: { maxHeaderSize: MAX_HEADER_BYTES },
  });
  app.setValidatorCompiler(validatorCompiler);
  app.setSerializerCompiler(serializerCompiler);
  app.setErrorHandler(answerError);
  app.setNotFoundHandler((request, reply) => answerNotFound(request, reply));

  await app.register(fastifyHelmet, {
    contentSecurityPolicy: {
      // No `upgrade-insecure-requests`: the application may be served over plain HTTP, on loopback.
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        styleSrc: ["'self'", "'unsafe-inline'"],
        objectSrc: ["'none'"],
        frameAncestors: ["'none'"],
        baseUri: ["'self'"],
        formAction: ["'self'"],
      },
    },
    hsts: tls !== undefined,
  });
  await app.register(fastifyCookie);
  await app.register(fastifyRateLimit, {
    max: REQUESTS_A_MINUTE,
    timeWindow: '1 minute',
    // Who has gone already has no address any more.
    keyGenerator: ({ ip }) => ip || 'gone',
    errorResponseBuilder: (_request, { after }) => new StellinError('tooManyTries', { wait: after }),
  });
  return app;
}

/** The path that is asked for. */
export function pathOf(request: FastifyRequest): string {
  return request.url.split('?')[0] ?? '/';
}

function answerNotFound(request: FastifyRequest, reply: FastifyReply): FastifyReply {
  return answer(reply, new StellinError('notFound', { what: `route ${request.method} ${pathOf(request)}` }));
}

/** Answers what went wrong, in words. */
export function answerError(
  error: FastifyError | StellinError | Error,
  request: FastifyRequest,
  reply: FastifyReply,
): FastifyReply {
  if (error instanceof StellinError) return answer(reply, error);
  if (hasZodFastifySchemaValidationErrors(error)) {
    const issues = error.validation.map(({ instancePath, message }) => ({
      path: instancePath.replace(/^\//, '').replaceAll('/', '.'),
      message,
    }));
    const problem = issues.map(({ path, message }) => (path ? `${path}: ${message}` : message)).join('; ');
    return answer(reply, new StellinError('badRequest', { problem }, issues));
  }
  const status = 'statusCode' in error ? error.statusCode : undefined;
  if (status === 413) return answer(reply, new StellinError('tooLarge'));
  if (status !== undefined && status >= 400 && status < 500)
    return answer(reply, new StellinError('badRequest', { problem: error.message }));
  if (isDatabaseAway(error)) {
    request.log.warn(`${request.method} ${request.url}: ${error.message}`);
    return answer(reply, new StellinError('databaseAway'));
  }
  request.log.error(error, `${request.method} ${request.url}`);
  return answer(reply, new StellinError('unexpected', { reference: request.id }));
}

function answer(reply: FastifyReply, { code, message, details, status }: StellinError): FastifyReply {
  return reply.code(status).send({ error: { code, message, details } });
}
