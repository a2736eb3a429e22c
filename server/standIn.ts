// What stand-ins for somebody's servers have in common: they are there for this machine only.

import type { AddressInfo } from 'node:net';

const LOOPBACK = '127.0.0.1';

export interface StandIn {
  port: number;
  close(): Promise<void>;
}

/** A server of whatever protocol, as Node.js and its libraries have them. */
interface Server {
  once(event: 'error', listener: (error: Error) => void): unknown;
  listen(port: number, host: string, listener: () => void): unknown;
  address(): AddressInfo | string | null;
  close(listener: () => void): unknown;
}

/** Serves on the loopback interface; port 0 is any that is free. `endConnections`: those that are open when it closes. */
export async function serveHere(server: Server, port: number, endConnections: () => void): Promise<StandIn> {
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, LOOPBACK, resolve);
  });
  const address = server.address();
  if (address === null || typeof address === 'string') throw new Error('the stand-in has no port');
  return {
    port: address.port,
    close: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        endConnections();
      }),
  };
}
