import type { FastifyInstance } from 'fastify';
import { keywordRoutes } from '@stellin/contract/keywords';
import { vocabularyRoutes } from '@stellin/contract/vocabulary';
import { serve } from '../serve';
import type { Vocabulary } from './service';

export function vocabularyRoutesFor(app: FastifyInstance, vocabulary: Vocabulary): void {
  serve(app, keywordRoutes.listIncoming, ({ query }) => vocabulary.incoming(query));
  serve(app, vocabularyRoutes.listTerms, async () => ({ terms: await vocabulary.list() }));
}
