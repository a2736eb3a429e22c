// Where accessions come from: source, donor, agreement, restrictions, and the papers that say so.

import { z } from 'zod';
import { dayOrNone, done, id, idParams, isoTime, route, text } from './route';

const line = text.trim().max(500);
const words = text.trim().max(10_000);

/** What a person says of an accession. */
export const provenanceShape = z.object({
  number: line.describe('As the archive numbers it'),
  source: line.describe('Where the files were before'),
  donor: line,
  agreement: words.describe('What was agreed, or where that stands'),
  restrictions: words.describe('What may not be done with them'),
  ends: dayOrNone.describe('Until when that holds; empty: no end'),
  note: words,
});
export type Provenance = z.infer<typeof provenanceShape>;
export const NO_PROVENANCE: Provenance = {
  ...{ number: '', source: '', donor: '', agreement: '', restrictions: '', ends: '', note: '' },
};

/** The changes to what is said of accessions: entries of the union of changes. */
export const accessionChanges = [
  provenanceShape.extend({ kind: z.literal('describeAccession'), accessionId: id }),
] as const;

const paper = z.object({
  id: z.number(),
  name: z.string(),
  bytes: z.number(),
  addedAt: isoTime,
  addedBy: z.string().nullable(),
});
export type Paper = z.infer<typeof paper>;

/** Of a paper, as base64. */
export const MAX_PAPER_CHARACTERS = 30_000_000;

export const accessionRoutes = {
  showProvenance: route({
    method: 'GET',
    path: '/api/accessions/:id/provenance',
    access: 'intake',
    summary: 'Where an accession comes from, and its papers',
    params: idParams,
    response: z.object({ provenance: provenanceShape, papers: z.array(paper) }),
  }),
  addPaper: route({
    method: 'POST',
    path: '/api/accessions/:id/papers',
    access: 'intake',
    summary: 'Attach a paper to an accession',
    params: idParams,
    body: z.object({ name: text.trim().min(1).max(255), content: z.base64().min(1).max(MAX_PAPER_CHARACTERS) }),
    response: done,
  }),
  removePaper: route({
    method: 'DELETE',
    path: '/api/papers/:id',
    access: 'intake',
    summary: 'Take a paper off its accession, for good',
    params: idParams,
    response: done,
  }),
};
