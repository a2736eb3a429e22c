// The formats by name, for those who do not read or write them themselves.

export const FORMAT_IDS = ['turtle', 'rdfxml', 'jsonld', 'indented', 'csv'] as const;
export type FormatId = (typeof FORMAT_IDS)[number];

export const FORMAT_LABELS: Record<FormatId, string> = {
  turtle: 'SKOS, Turtle',
  rdfxml: 'SKOS, RDF/XML',
  jsonld: 'SKOS, JSON-LD',
  indented: 'Indented text',
  csv: 'Table (CSV)',
};
