// Server-sent events (WHATWG HTML, section 9.2): what changed, told to every open browser.

import type { FastifyInstance, FastifyRequest } from 'fastify';
import { EVENTS_PATH, type Topic } from '@stellin/contract/events';
import type { EventHub } from './hub';

const GATHER_MS = 150;
const KEEP_ALIVE_MS = 20_000;

/** `isSignedIn`: whether the session that a request was made with is still open. */
export function eventsRoutes(
  app: FastifyInstance,
  hub: EventHub,
  isSignedIn: (request: FastifyRequest) => Promise<boolean>,
): void {
  const open = new Set<() => void>();
  app.get(
    EVENTS_PATH,
    { config: { access: 'signedIn', shows: 'nothing' }, schema: { hide: true } },
    (request, reply) => {
      reply.hijack();
      const stream = reply.raw;
      stream.writeHead(200, {
        'content-type': 'text/event-stream',
        'cache-control': 'no-store',
        'x-accel-buffering': 'no',
      });
      stream.write(': open\n\n');

      // Changes that come in quick succession go out as one event.
      const gathered = new Set<Topic>();
      let timer: NodeJS.Timeout | undefined;
      const flush = () => {
        timer = undefined;
        stream.write(`data: ${JSON.stringify({ topics: [...gathered] })}\n\n`);
        gathered.clear();
      };
      // It ends with the session, whoever ends that.
      const lookAgain = () =>
        void isSignedIn(request).then(
          (isOpen) => isOpen || end(),
          () => undefined,
        );
      const unsubscribe = hub.subscribe(({ topics }) => {
        if (topics.includes('accounts')) lookAgain();
        topics.forEach((topic) => gathered.add(topic));
        timer ??= setTimeout(flush, GATHER_MS);
      });
      const keepAlive = setInterval(() => {
        stream.write(': still here\n\n');
        lookAgain();
      }, KEEP_ALIVE_MS);
      const end = () => {
        open.delete(end);
        unsubscribe();
        clearTimeout(timer);
        clearInterval(keepAlive);
        stream.end();
      };
      open.add(end);
      request.raw.on('close', end);
    },
  );
  app.addHook('preClose', async () => {
    for (const end of [...open]) end();
  });
}
