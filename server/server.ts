// A running server: services, jobs and HTTP together.

import type { AddressInfo } from 'node:net';
import pino, { type Logger } from 'pino';
import pretty from 'pino-pretty';
import { buildApp } from './app';
import type { Config } from './config';
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

/** Serves opened services over HTTP on loopback. */
export async function listen(services: Services, config: Config): Promise<RunningServer> {
  const app = await buildApp(services);
  await app.listen({ host: '127.0.0.1', port: config.port });
  const { port } = app.server.address() as AddressInfo;
  return {
    services,
    url: `http://127.0.0.1:${port}`,
    async close() {
      await app.close();
      await services.close();
    },
  };
}

/** Opens services, starts working on jobs, and listens. */
export async function runServer(config: Config, databaseUrl: string, log: Logger): Promise<RunningServer> {
  const services = await openServices(config, databaseUrl, log);
  await services.start();
  return listen(services, config);
}
