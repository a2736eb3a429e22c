// The routes of the vocabulary.

import type { FastifyInstance } from 'fastify';
import { keywordRoutes } from '@stellin/contract/keywords';
import { vocabularyRoutes } from '@stellin/contract/vocabulary';
import { attachment, serve } from '../serve';
import { MAX_IMPORT_BYTES } from './exchange';
import type { Vocabulary } from './service';

export function vocabularyRoutesFor(app: FastifyInstance, vocabulary: Vocabulary): void {
  serve(app, keywordRoutes.listIncoming, ({ query }) => vocabulary.incoming(query));
  serve(app, vocabularyRoutes.listVocabularies, ({ person }) => vocabulary.overview(person));
  serve(app, vocabularyRoutes.listColumn, async ({ query, person }) => ({
    terms: await vocabulary.column(query.parentId ?? null, person),
  }));
  serve(app, vocabularyRoutes.findTerms, async ({ query, person }) => ({
    terms: await vocabulary.find(query.text, query.assignable === 'yes', query.limit, person),
  }));
  serve(app, vocabularyRoutes.showTerm, ({ params, person }) => vocabulary.card(params.id, person));
  serve(app, vocabularyRoutes.termUses, ({ params }) => vocabulary.uses(params.id));
  serve(app, vocabularyRoutes.termHistory, async ({ params }) => ({ entries: await vocabulary.history(params.id) }));
  serve(app, vocabularyRoutes.showGrowth, () => vocabulary.growth());
  serve(app, vocabularyRoutes.listFindings, async ({ query }) => ({
    findings: await vocabulary.findings(query.kind, query.limit),
  }));
  serve(app, vocabularyRoutes.listProposals, ({ person }) => vocabulary.proposals(person.id));
  serve(app, vocabularyRoutes.impact, ({ body, person }) => vocabulary.impact(body.change, person.id));
  serve(app, vocabularyRoutes.listPads, async ({ person }) => ({ pads: await vocabulary.pads(person) }));
  serve(app, vocabularyRoutes.recentTerms, async ({ person }) => ({ terms: await vocabulary.recent(person.id) }));
  serve(app, vocabularyRoutes.suggestTerms, async ({ body }) => ({ terms: await vocabulary.suggest(body.selection) }));
  serve(
    app,
    vocabularyRoutes.readImport,
    ({ body, person }) => vocabulary.readImport(body, person.id),
    {},
    MAX_IMPORT_BYTES,
  );
  serve(app, vocabularyRoutes.compareImport, ({ params, query, person }) =>
    vocabulary.compareImport({ ...params, ...query }, person.id),
  );
  serve(app, vocabularyRoutes.exportVocabulary, async ({ params, query, reply }) => {
    const { name, mediaType, text } = await vocabulary.write(params.id, query.format);
    void reply.type(`${mediaType}; charset=utf-8`).header('content-disposition', attachment(name)).send(text);
    return reply as never;
  });
}
