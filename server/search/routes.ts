// The routes of finding and of saved searches.

import type { FastifyInstance } from 'fastify';
import { searchRoutes } from '@stellin/contract/search';
import { serve } from '../serve';
import type { Search } from './service';

export function searchRoutesFor(app: FastifyInstance, search: Search): void {
  serve(app, searchRoutes.listSearches, async ({ person }) => ({ searches: await search.seenBy(person).list() }));
  serve(app, searchRoutes.exportSearches, async ({ person }) => ({
    kind: 'stellin saved searches' as const,
    searches: await search.definitions(person),
  }));
  serve(app, searchRoutes.recentSearches, async ({ person }) => ({ searches: await search.recent(person.id) }));
  serve(app, searchRoutes.rememberSearch, async ({ person, body }) => {
    await search.remember(person.id, body.query, body.sort);
    return {};
  });
  serve(app, searchRoutes.suggest, async ({ query, person }) => ({
    suggestions: await search.seenBy(person).suggest(query.text, query.query),
  }));
  serve(app, searchRoutes.facets, async ({ query, person }) => {
    const started = performance.now();
    const facets = await search.seenBy(person).facets(query);
    return { facets, milliseconds: Math.round(performance.now() - started) };
  });
  serve(app, searchRoutes.ruler, ({ query, person }) => search.seenBy(person).ruler(query.query, query.from, query.to));
  serve(app, searchRoutes.why, ({ body, person }) => search.seenBy(person).why(body.query, body.photo));
}
