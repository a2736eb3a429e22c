import type { FastifyInstance } from 'fastify';
import { vocabularyRoutes } from '@stellin/contract/vocabulary';
import { serve } from '../serve';
import type { Vocabulary } from './service';

export function vocabularyRoutesFor(app: FastifyInstance, vocabulary: Vocabulary): void {
  serve(app, vocabularyRoutes.listTerms, async () => ({ terms: await vocabulary.list() }));
}
