import type { FastifyInstance } from 'fastify';
import { searchRoutes } from '@stellin/contract/search';
import { serve } from '../serve';
import type { Search } from './service';

export function searchRoutesFor(app: FastifyInstance, search: Search): void {
  serve(app, searchRoutes.listSearches, async () => ({ searches: await search.list() }));
  serve(app, searchRoutes.exportSearches, async () => ({
    kind: 'stellin saved searches' as const,
    searches: await search.definitions(),
  }));
  serve(app, searchRoutes.recentSearches, async ({ person }) => ({ searches: await search.recent(person.id) }));
  serve(app, searchRoutes.rememberSearch, async ({ person, body }) => {
    await search.remember(person.id, body.query, body.sort);
    return {};
  });
  serve(app, searchRoutes.suggest, async ({ query }) => ({
    suggestions: await search.suggest(query.text, query.query),
  }));
  serve(app, searchRoutes.facets, async ({ query }) => {
    const started = performance.now();
    const facets = await search.facets(query);
    return { facets, milliseconds: Math.round(performance.now() - started) };
  });
  serve(app, searchRoutes.ruler, ({ query }) => search.ruler(query.query, query.from, query.to));
  serve(app, searchRoutes.why, ({ body }) => search.why(body.query, body.photo));
}
