// Which requests are ours: made to this machine by a name that it is reached under, by nobody or by a page of ours. A page from elsewhere that
// lets its name point to this machine (DNS rebinding), or that asks from another address, is turned away.

import type { FastifyInstance, FastifyRequest } from 'fastify';
import { StellinError } from './errors';

/** Names of this machine that no name server can point elsewhere. */
const OWN_NAMES: ReadonlySet<string> = new Set(['localhost', '127.0.0.1', '[::1]']);

/** `names`: those it is reached under besides its own, as it was told. */
export function requireOwnOrigin(app: FastifyInstance, names: readonly string[]): void {
  const known = new Set([...OWN_NAMES, ...names]);
  app.addHook('onRequest', (request, _reply, next) => {
    next(strangenessOf(request.headers, known));
  });
}

/** Why a request is not ours; undefined when it is. */
function strangenessOf(
  { host = '', origin }: FastifyRequest['headers'],
  known: ReadonlySet<string>,
): StellinError | undefined {
  const ours = hostOf(`http://${host}`);
  if (!ours || !known.has(ours.name)) return new StellinError('foreignHost', { host });
  // Programs send none; browsers do with every request that another page could have made.
  if (origin !== undefined && hostOf(origin)?.whole !== ours.whole)
    return new StellinError('foreignOrigin', { origin });
  return undefined;
}

function hostOf(address: string): { name: string; whole: string } | undefined {
  if (!URL.canParse(address)) return undefined;
  const { hostname, host } = new URL(address);
  return { name: hostname, whole: host };
}
