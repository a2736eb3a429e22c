// Where accessions come from, and their papers.

import { NO_PROVENANCE, provenanceShape, type Paper, type Provenance } from '@stellin/contract/accessions';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import * as store from './store';

export type Accessions = ReturnType<typeof accessionService>;

export function accessionService(database: Database) {
  const requireAccession = async (id: number) => {
    if (!(await store.isAccession(database, id))) throw new StellinError('notFound', { what: 'such accession' });
  };
  return {
    async show(id: number): Promise<{ provenance: Provenance; papers: Paper[] }> {
      await requireAccession(id);
      const [row, papers] = await Promise.all([store.provenanceOf(database, id), store.papersOf(database, id)]);
      return { provenance: row ? provenanceShape.parse(row) : NO_PROVENANCE, papers };
    },

    async addPaper(accessionId: number, name: string, content: Buffer, accountId: number): Promise<void> {
      await requireAccession(accessionId);
      await store.insertPaper(database, { accessionId, name, content, accountId });
      await database.notify(['accessions']);
    },

    async paper(id: number): Promise<{ name: string; content: Buffer }> {
      const paper = await store.findPaper(database, id);
      if (!paper) throw new StellinError('notFound', { what: 'such paper' });
      return paper;
    },

    async removePaper(id: number): Promise<void> {
      if (!(await store.removePaper(database, id))) throw new StellinError('notFound', { what: 'such paper' });
      await database.notify(['accessions']);
    },

    /** The accessions of which what was agreed ends by a day (YYYY-MM-DD), the earliest first. */
    endingBy: (day: string): Promise<number[]> => store.endingBy(database, day),
  };
}
