// The formats in which vocabularies come and go: adding one means adding an entry here and in formatIds.ts.

import { FORMAT_FACTS, type FormatId } from '../formatIds';
import { readCsv, writeCsv } from './csv';
import { MAX_TERMS, soundDraft, type Draft } from './draft';
import { readIndented, writeIndented } from './indented';
import { readJsonLd, readRdfXml, readTurtle, writeJsonLd, writeRdfXml, writeTurtle } from './rdf';
import { draftFrom, statementsOf } from './skos';

interface Format {
  /** Throws an Error with a sentence when the text is not of this format. */
  read: (text: string) => Draft | Promise<Draft>;
  write: (draft: Draft) => string;
}

export const FORMATS: Record<FormatId, Format> = {
  turtle: { read: (text) => draftFrom(readTurtle(text)), write: (draft) => writeTurtle(statementsOf(draft)) },
  rdfxml: {
    read: async (text) => draftFrom(await readRdfXml(text)),
    write: (draft) => writeRdfXml(statementsOf(draft)),
  },
  jsonld: {
    read: async (text) => draftFrom(await readJsonLd(text)),
    write: (draft) => writeJsonLd(statementsOf(draft)),
  },
  indented: { read: readIndented, write: writeIndented },
  csv: { read: readCsv, write: writeCsv },
};

/** Reads a vocabulary and makes it sound. Throws an Error with a sentence when that can't be done. */
export async function readVocabulary(format: FormatId, text: string): Promise<Draft> {
  let draft: Draft;
  try {
    draft = await FORMATS[format].read(text.replace(/^\ufeff/, ''));
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    throw new Error(`This can’t be read as ${FORMAT_FACTS[format].label}: ${why.split('\n')[0]?.slice(0, 300)}`);
  }
  if (draft.terms.length > MAX_TERMS)
    throw new Error(
      `There are ${draft.terms.length.toLocaleString('en')} terms in it; ${MAX_TERMS.toLocaleString('en')} are the most.`,
    );
  return soundDraft(draft);
}
