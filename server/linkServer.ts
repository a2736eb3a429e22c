// A server of nothing but view links, with a database role that can do no more: for a machine, or a process, that others may reach.

import type { AddressInfo } from 'node:net';
import type { Logger } from 'pino';
import { nothingPage } from '@stellin/core/sharing/pages';
import { LINK_PATH } from '@stellin/contract/sharing';
import { isPasswordOf } from './accounts/passwords';
import { rightsService } from './accounts/rights';
import { vocabularyIndex } from './catalogue/vocabularySnapshot';
import { places, type Config } from './config';
import { openDatabase } from './database/database';
import { outsideService } from './delivering/outside';
import { answerError, openHttp } from './http';
import { accessRecord } from './ledger/access';
import { requireOwnOrigin } from './requestOrigin';
import { searchService } from './search/service';
import { requireLinksRole } from './sharing/grantStore';
import { gazetteerClient } from './places/gazetteer';
import { embeddingRoutes } from './sharing/embeddingRoutes';
import { keptPictures } from './sharing/keptPictures';
import { sharedPictures } from './sharing/pictures';
import { publicLinkRoutes } from './sharing/publicRoutes';
import { openLinkService } from './sharing/showing';

export type LinkServer = Awaited<ReturnType<typeof openLinkServer>>;

/** What links that follow find is kept by the server of the catalogue; here nothing is searched. */
const NO_FINDER = {
  ask: () => Promise.reject(new Error('view links ask for no search')),
  close: () => Promise.resolve(),
};

/** Opens it; refuses a role that may do more. Listens where the configuration says once it is told to. */
export async function openLinkServer(config: Config, databaseUrl: string, log: Logger) {
  const database = openDatabase(databaseUrl);
  try {
    await requireLinksRole(database);
    const terms = vocabularyIndex(database);
    const outside = outsideService(database, terms);
    const search = searchService({
      database,
      vocabulary: terms,
      finder: NO_FINDER,
      like: () => Promise.resolve(undefined),
    });
    const { personOf } = rightsService(database, search.queryOf);
    const links = openLinkService({ database, outside, personOf, isPassword: isPasswordOf });
    const pictures = sharedPictures({
      ...keptPictures(places.previews(config.home)),
      render: outside.pictureOutside,
      folder: places.shared(config.home),
      limitBytes: config.largeBytes,
    });
    const access = accessRecord(database, log);
    const app = await openHttp(config.network, log);
    requireOwnOrigin(app, config.network.names);
    app.setErrorHandler((error: Error, request, reply) => {
      if (!isForbidden(error)) return answerError(error, request, reply);
      // What its maker may show hangs on what the role must not read: then it shows nothing here.
      log.warn(`a view link can't be shown with this database role: ${error.message}`);
      return reply
        .code(404)
        .type('text/html; charset=utf-8')
        .send(nothingPage(`${LINK_PATH}-`));
    });
    const publicUrl = config.network.publicUrl ?? '';
    const gazetteer = gazetteerClient();
    for (const routes of [publicLinkRoutes, embeddingRoutes])
      await app.register(routes, { links, pictures, noteAccess: access.note, world: gazetteer, publicUrl });
    return {
      app,
      /** The port it listens on. */
      async listen(): Promise<number> {
        await app.listen({ host: config.network.bind, port: config.port });
        return (app.server.address() as AddressInfo).port;
      },
      async close(): Promise<void> {
        await app.close();
        await gazetteer.close();
        await access.close();
        await database.close();
      },
    };
  } catch (error) {
    await database.close();
    throw error;
  }
}

/** Whether PostgreSQL refused a statement for want of a right (SQLSTATE 42501). */
function isForbidden(error: Error): boolean {
  const { original } = error as { original?: { code?: string } };
  return original?.code === '42501';
}
