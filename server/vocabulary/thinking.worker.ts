// Worker thread: reads and writes files of vocabularies, and looks for what is doubtful, so that none of it holds up the server.

import type { FormatId } from '@stellin/core/vocabulary/formatIds';
import type { Draft } from '@stellin/core/vocabulary/formats/draft';
import { FORMATS, readVocabulary } from '@stellin/core/vocabulary/formats/index';
import { BY_USE, FINDING_KINDS, findingsOf, type Finding, type FindingKind } from '@stellin/core/vocabulary/lint';
import type { Relation, Term } from '@stellin/core/vocabulary/term';
import { TermTree } from '@stellin/core/vocabulary/tree';

/** What a file says of a vocabulary. */
export function read({ format, text }: { format: FormatId; text: string }): Promise<Draft> {
  return readVocabulary(format, text);
}

/** The file of a vocabulary. */
export function write({ format, draft }: { format: FormatId; draft: Draft }): string {
  return FORMATS[format].write(draft);
}

/** What is doubtful in terms, of all kinds that do not depend on which photos have them. */
export function doubt({
  terms,
  relations,
}: {
  terms: readonly Term[];
  relations: readonly Relation[];
}): Map<FindingKind, Finding[]> {
  const tree = new TermTree(terms, relations);
  const kinds = FINDING_KINDS.filter((kind) => !BY_USE.has(kind));
  return new Map(kinds.map((kind) => [kind, findingsOf(kind, { tree, relations, photos: new Map() })]));
}
