// A stand-in for a mail server: speaks SMTP on this machine and keeps what comes in a folder, where it can be read. For the demo, for
// tests, and for archives that have no mail server. At two made-up places nobody gets anything, as it happens in life: one refuses
// whoever is written to, the other says that it has no time just now.

import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import { SMTPServer } from 'smtp-server';
import { keepFile, keepNewest } from '../../files/keep';
import { serveHere, type StandIn } from '../../standIn';

export const REFUSING = '@nobody.example';
export const BUSY = '@busy.example';
/** Of one message, as it says to who connects. */
const MAX_BYTES = 40_000_000;
/** Of all that is kept: the oldest goes first. */
const KEPT_BYTES = 200_000_000;
/** How long those who are connected have when it closes. */
const CLOSING_MS = 1000;

const REFUSALS: readonly (readonly [string, number, string])[] = [
  [REFUSING, 550, 'There is no such mailbox here'],
  [BUSY, 451, 'The mailbox is busy, try again later'],
];

/** Starts it on the loopback interface. */
export function mailBoxStandIn(folder: string): Promise<StandIn> {
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS', 'AUTH'],
    size: MAX_BYTES,
    closeTimeout: CLOSING_MS,
    onRcptTo({ address }, _session, answer) {
      const [, responseCode, words] = REFUSALS.find(([place]) => address.toLowerCase().endsWith(place)) ?? [];
      answer(words === undefined ? null : Object.assign(new Error(words), { responseCode }));
    },
    onData(stream, _session, answer) {
      keep(folder, stream).then(
        () => answer(null),
        (error: Error) => answer(Object.assign(error, { responseCode: 452 })),
      );
    },
  });
  server.on('error', () => undefined);
  const net = {
    once: (event: 'error', listener: (error: Error) => void) => server.server.once(event, listener),
    listen: (port: number, host: string, listener: () => void) => server.listen(port, host, listener),
    address: () => server.server.address(),
    close: (listener: () => void) => server.close(listener),
  };
  // Those that are connected have nothing to lose: who sends closes its own.
  return serveHere(net, 0, () => undefined);
}

async function keep(folder: string, stream: NodeJS.ReadableStream): Promise<void> {
  await keepFile(join(folder, `${Date.now()}-${randomUUID()}.eml`), await buffer(stream));
  await keepNewest([folder], KEPT_BYTES, () => Promise.resolve(new Set()));
}
