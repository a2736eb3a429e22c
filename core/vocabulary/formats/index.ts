// The formats in which vocabularies come and go: adding one means adding an entry.

import { FORMAT_IDS, FORMAT_LABELS, type FormatId } from '../formatIds';
import { readCsv, writeCsv } from './csv';
import { MAX_TERMS, soundDraft, type Draft } from './draft';
import { readIndented, writeIndented } from './indented';
import { readJsonLd, readRdfXml, readTurtle, writeJsonLd, writeRdfXml, writeTurtle } from './rdf';
import { draftFrom, statementsOf } from './skos';

export interface Format {
  extensions: readonly [string, ...string[]];
  mediaType: string;
  /** Throws an Error with a sentence when the text is not of this format. */
  read: (text: string) => Draft | Promise<Draft>;
  write: (draft: Draft) => string;
}

export const FORMATS: Record<FormatId, Format> = {
  turtle: {
    extensions: ['.ttl'],
    mediaType: 'text/turtle',
    read: (text) => draftFrom(readTurtle(text)),
    write: (draft) => writeTurtle(statementsOf(draft)),
  },
  rdfxml: {
    extensions: ['.rdf', '.xml'],
    mediaType: 'application/rdf+xml',
    read: async (text) => draftFrom(await readRdfXml(text)),
    write: (draft) => writeRdfXml(statementsOf(draft)),
  },
  jsonld: {
    extensions: ['.jsonld', '.json'],
    mediaType: 'application/ld+json',
    read: async (text) => draftFrom(await readJsonLd(text)),
    write: (draft) => writeJsonLd(statementsOf(draft)),
  },
  indented: {
    extensions: ['.txt'],
    mediaType: 'text/plain',
    read: readIndented,
    write: writeIndented,
  },
  csv: { extensions: ['.csv'], mediaType: 'text/csv', read: readCsv, write: writeCsv },
};

/** The format a file's name or its beginning speaks of. */
export function formatOf(name: string, text: string): FormatId {
  const start = text.slice(0, 2000).trimStart();
  if (start.startsWith('<?xml') || start.startsWith('<rdf:RDF')) return 'rdfxml';
  if (/^[[{]\s*("|\{|\]|\})/.test(start)) return 'jsonld';
  const byName = FORMAT_IDS.find((id) => FORMATS[id].extensions.some((end) => name.toLowerCase().endsWith(end)));
  if (byName) return byName;
  return /^\s*(@prefix|prefix|@base)\s/im.test(start) ? 'turtle' : 'indented';
}

/** Reads a vocabulary and makes it sound. Throws an Error with a sentence when that can't be done. */
export async function readVocabulary(format: FormatId, text: string): Promise<Draft> {
  let draft: Draft;
  try {
    draft = await FORMATS[format].read(text.replace(/^\ufeff/, ''));
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    throw new Error(`This can’t be read as ${FORMAT_LABELS[format]}: ${why.split('\n')[0]?.slice(0, 300)}`);
  }
  if (draft.terms.length > MAX_TERMS)
    throw new Error(
      `There are ${draft.terms.length.toLocaleString('en')} terms in it; ${MAX_TERMS.toLocaleString('en')} are the most.`,
    );
  return soundDraft(draft);
}
