// The formats by name, for those who do not read or write them themselves.

export const FORMAT_IDS = ['turtle', 'rdfxml', 'jsonld', 'indented', 'csv'] as const;
export type FormatId = (typeof FORMAT_IDS)[number];

interface FormatFacts {
  label: string;
  /** Of file names; the first one is that of files we write. */
  extensions: readonly [string, ...string[]];
  mediaType: string;
}

export const FORMAT_FACTS: Record<FormatId, FormatFacts> = {
  turtle: { label: 'SKOS, Turtle', extensions: ['.ttl'], mediaType: 'text/turtle' },
  rdfxml: { label: 'SKOS, RDF/XML', extensions: ['.rdf', '.xml'], mediaType: 'application/rdf+xml' },
  jsonld: { label: 'SKOS, JSON-LD', extensions: ['.jsonld', '.json'], mediaType: 'application/ld+json' },
  indented: { label: 'Indented text', extensions: ['.txt'], mediaType: 'text/plain' },
  csv: { label: 'Table (CSV)', extensions: ['.csv'], mediaType: 'text/csv' },
};

/** The format that a file's beginning or its name speaks of. */
export function formatOf(name: string, text: string): FormatId {
  const start = text.slice(0, 2000).trimStart();
  if (start.startsWith('<?xml') || start.startsWith('<rdf:RDF')) return 'rdfxml';
  if (/^[[{]\s*("|\{|\]|\})/.test(start)) return 'jsonld';
  const byName = FORMAT_IDS.find((id) => FORMAT_FACTS[id].extensions.some((end) => name.toLowerCase().endsWith(end)));
  if (byName) return byName;
  return /^\s*(@prefix|prefix|@base)\s/im.test(start) ? 'turtle' : 'indented';
}
