import type { FastifyInstance } from 'fastify';
import { searchRoutes } from '@stellin/contract/search';
import { serve } from '../serve';
import type { Search } from './service';

export function searchRoutesFor(app: FastifyInstance, search: Search): void {
  serve(app, searchRoutes.listSearches, async () => ({ searches: await search.list() }));
  serve(app, searchRoutes.suggest, async ({ query }) => ({
    suggestions: await search.suggest(query.text, query.query),
  }));
}
