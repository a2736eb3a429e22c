// A running server: services, jobs and HTTP together.

import type { AddressInfo } from 'node:net';
import pino, { type Logger } from 'pino';
import pretty from 'pino-pretty';
import { buildApp } from './app';
import type { Config, Network } from './config';
import { openServices, type Services } from './services';

export interface RunningServer {
  services: Services;
  url: string;
  close(): Promise<void>;
}

/** The log, readable in a terminal. */
export function openLog(level: string): Logger {
  return pino(
    { level },
    pretty({ colorize: process.stdout.isTTY, translateTime: 'SYS:HH:MM:ss', ignore: 'pid,hostname', sync: true }),
  );
}

/** Serves opened services over HTTP, or HTTPS where there is a certificate. */
export async function listen(services: Services, config: Config): Promise<RunningServer> {
  const app = await buildApp(services);
  await app.listen({ host: config.network.bind, port: config.port });
  const { port } = app.server.address() as AddressInfo;
  return {
    services,
    url: addressOf(config.network, port),
    async close() {
      await app.close();
      await services.close();
    },
  };
}

/** The address under which it is reached. */
function addressOf({ bind, names, tls }: Network, port: number): string {
  const everywhere = bind === '0.0.0.0' || bind === '::';
  const name = names[0] ?? (everywhere ? '127.0.0.1' : bind);
  return `${tls ? 'https' : 'http'}://${name.includes(':') ? `[${name}]` : name}:${port}`;
}

/** Opens services, starts working on jobs, and listens. */
export async function runServer(config: Config, databaseUrl: string, log: Logger): Promise<RunningServer> {
  const services = await openServices(config, databaseUrl, log);
  await services.start();
  return listen(services, config);
}
