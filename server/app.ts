// The HTTP side: security, who asks, errors, the routes of every subject, the built interface.

import { existsSync } from 'node:fs';
import fastifyStatic from '@fastify/static';
import fastifySwagger from '@fastify/swagger';
import fastifySwaggerUi from '@fastify/swagger-ui';
import type { FastifyInstance } from 'fastify';
import { jsonSchemaTransform } from 'fastify-type-provider-zod';
import { installationRoutes } from '@stellin/contract/installation';
import { DEMO_ACCOUNTS } from './accounts/demoAccounts';
import { accountsRoutes, identify, isSignedIn } from './accounts/routes';
import { teamRoutesFor } from './accounts/teamRoutes';
import { tokenRoutesFor } from './accounts/tokenRoutes';
import { backupRoutesFor } from './backup/routes';
import { calendarRoutesFor } from './calendar/routes';
import { copyingRoutesFor } from './copying/routes';
import { deliveringRoutesFor } from './delivering/routes';
import { openHttp, pathOf } from './http';
import { handoverRoutesFor } from './handover/routes';
import { lookalikeRoutesFor } from './lookalikes/routes';
import { mediaRoutesFor } from './media/routes';
import { pictureTextRoutesFor } from './pictureText/routes';
import { incomingTableRoutesFor } from './incomingTables/routes';
import { describingRoutesFor } from './describing/routes';
import { dossiersRoutes } from './dossiers/routes';
import { doublesRoutes } from './doubles/routes';
import { bayRoutesFor } from './drives/bayRoutes';
import { drivesRoutes } from './drives/routes';
import { eventsRoutes } from './events/routes';
import { fixityRoutesFor } from './fixity/routes';
import { filingRoutesFor } from './filing/routes';
import { holdingsRoutes } from './holdings/routes';
import { pocketRoutesFor } from './pocket/routes';
import { reportsRoutes } from './reports/routes';
import { steppingRoutesFor } from './stepping/routes';
import { accessionsRoutes } from './accessions/routes';
import { workListsRoutes } from './workLists/routes';
import { intakeRoutesFor } from './intake/routes';
import { jobsRoutes } from './jobs/routes';
import { recordAccess } from './ledger/accessHook';
import { accessRoutesFor } from './ledger/accessRoutes';
import { ledgerRoutesFor } from './ledger/routes';
import { mailingRoutesFor } from './mailing/routes';
import { marksRoutes } from './marks/routes';
import { onlookerRoutesFor } from './onlookers/routes';
import { peopleRoutesFor } from './people/routes';
import { photosRoutes } from './photos/routes';
import { oldMapsRoutes, placesRoutes, tracksRoutes } from './places/routes';
import { streetMapsRoutes } from './places/streetMapRoutes';
import { plansRoutes } from './plans/routes';
import { projectsRoutesFor } from './projects/routes';
import { searchRoutesFor } from './search/routes';
import { requireOwnOrigin } from './requestOrigin';
import { embeddingRoutes } from './sharing/embeddingRoutes';
import { publicLinkRoutes } from './sharing/publicRoutes';
import { sharingRoutesFor } from './sharing/routes';
import { API_DOCS_PATH, requireAccess, serve } from './serve';
import type { Services } from './services';
import { WEB_BUILD } from './threads/program';
import { trackingRoutesFor } from './tracking/routes';
import { vocabularyRoutesFor } from './vocabulary/routes';
import { writeBackRoutesFor } from './writeback/routes';

/** The name of the product, above the description of the API. */
const API_DOCS_LOGO =
  '<svg xmlns="http://www.w3.org/2000/svg" width="90" height="30"><text x="0" y="22" font-family="sans-serif" font-size="20" fill="#fff">Stellin</text></svg>';

/** The application, ready to listen or to be asked directly. */
export async function buildApp(services: Services): Promise<FastifyInstance> {
  // One list of what an application is made of, in the order in which a request goes through it.
  const app = await openHttp(services.config.network, services.log);
  await app.register(fastifySwagger, {
    openapi: {
      info: {
        title: 'Stellin',
        version: '0.1.0',
        description: 'A script asks with a token, which is made on “Your account”: Authorization: Bearer …',
      },
      components: { securitySchemes: { token: { type: 'http', scheme: 'bearer' } } },
      security: [{ token: [] }],
    },
    transform: jsonSchemaTransform,
  });
  requireOwnOrigin(app, services.config.network.names);
  identify(app, services);
  requireAccess(app);
  recordAccess(app, services.access);

  app.after(() => {
    const { kind } = services.config;
    serve(app, installationRoutes.installation, () =>
      Promise.resolve({ kind, accounts: kind === 'demo' ? [...DEMO_ACCOUNTS] : [] }),
    );
    accountsRoutes(app, services);
    teamRoutesFor(app, services);
    tokenRoutesFor(app, services.tokens);
    copyingRoutesFor(app, services.copying);
    deliveringRoutesFor(app, services.deliveries, services.deliveryServers);
    handoverRoutesFor(app, services.handovers);
    lookalikeRoutesFor(app, services.lookalikes);
    pictureTextRoutesFor(app, services.database, services.pictureTexts);
    mediaRoutesFor(app, { ...services, requireLeaving: services.deliveries.requireLeaving });
    incomingTableRoutesFor(app, services.incomingTables);
    describingRoutesFor(app, services.describing);
    dossiersRoutes(app, services.dossiers);
    doublesRoutes(app, services.doubles);
    drivesRoutes(app, services.drives);
    if (kind === 'demo') bayRoutesFor(app, services.drives, services.config.home);
    filingRoutesFor(app, services.filing);
    fixityRoutesFor(app, services.fixity);
    holdingsRoutes(app, services.holdings);
    workListsRoutes(app, services.workLists);
    reportsRoutes(app, services.reports);
    pocketRoutesFor(app, services.pocket);
    accessionsRoutes(app, services.accessions);
    steppingRoutesFor(app, services.stepping);
    intakeRoutesFor(app, services);
    jobsRoutes(app, services.jobs, services.room);
    accessRoutesFor(app, services);
    ledgerRoutesFor(app, services.ledger, services.largeChanges);
    mailingRoutesFor(app, services.mailing);
    marksRoutes(app, services.marks);
    placesRoutes(app, services.places, services.doubts);
    calendarRoutesFor(app, services.calendar);
    oldMapsRoutes(app, services.oldMaps);
    streetMapsRoutes(app, services.streetMaps);
    tracksRoutes(app, services.tracks, services.clocks);
    plansRoutes(app, services.database, services.plans);
    photosRoutes(app, services.photos, services);
    onlookerRoutesFor(app, services);
    projectsRoutesFor(app, services.projects);
    peopleRoutesFor(app, services);
    searchRoutesFor(app, services.search);
    sharingRoutesFor(app, services.viewLinks);
    // A place of its own: what is said there holds for nothing else.
    const ofLinks = {
      links: services.openLinks,
      pictures: services.linkPictures,
      noteAccess: services.access.note,
      world: services.places,
      publicUrl: services.config.network.publicUrl ?? '',
    };
    for (const routes of [publicLinkRoutes, embeddingRoutes]) void app.register(routes, ofLinks);
    trackingRoutesFor(app, services.tracking);
    vocabularyRoutesFor(app, services.vocabulary);
    writeBackRoutesFor(app, services.writeBack, services);
    backupRoutesFor(app, services.backups);
    eventsRoutes(app, services.events, (request) => isSignedIn(request, services.sessions));
    void app.register(fastifySwaggerUi, {
      routePrefix: API_DOCS_PATH,
      logo: { type: 'image/svg+xml', content: Buffer.from(API_DOCS_LOGO) },
      theme: { title: 'Stellin: what scripts can ask' },
    });
    app.get('/api/openapi.json', { config: { access: 'public' }, schema: { hide: true } }, () => app.swagger());
  });
  if (existsSync(WEB_BUILD)) await serveInterface(app);
  return app;
}

async function serveInterface(app: FastifyInstance): Promise<void> {
  await app.register(fastifyStatic, { root: WEB_BUILD, serve: false, cacheControl: false });
  app.get('/*', { config: { access: 'public' }, schema: { hide: true } }, (request, reply) => {
    const path = pathOf(request);
    // Vite names the files of assets/ after their contents.
    reply.header('cache-control', path.startsWith('/assets/') ? 'public, max-age=31536000, immutable' : 'no-cache');
    return reply.sendFile(isPage(path) ? 'index.html' : path.slice(1));
  });
}

/** Paths of the interface are its own to understand; unknown paths of the API are an error. */
function isPage(path: string): boolean {
  return !path.startsWith('/api/') && !/\.[a-z0-9]+$/i.test(path);
}
