// A vocabulary as statements of SKOS (W3C Recommendation 2009) with ISO 25964's arrays for headings, Dublin Core for what
// SKOS leaves to others, and a namespace of our own for the rest. Turtle, RDF/XML and JSON-LD are written from and read into
// these statements.

import { languageTag, tidyLabel, TERM_COLOURS, WRITTEN_OTHERS, type LabelKind, type OtherLabel } from '../term';
import { compareLabels } from '../tree';
import { draftTerm, emptyDraft, type Draft, type DraftPart, type DraftTerm } from './draft';

export const PREFIXES = {
  rdf: 'http://www.w3.org/1999/02/22-rdf-syntax-ns#',
  skos: 'http://www.w3.org/2004/02/skos/core#',
  isothes: 'http://purl.org/iso25964/skos-thes#',
  dct: 'http://purl.org/dc/terms/',
  owl: 'http://www.w3.org/2002/07/owl#',
  stellin: 'https://stellin.example/ns/vocabulary#',
} as const;

/** One statement. An object is a resource, or a text with an optional language. */
export interface Statement {
  subject: string;
  predicate: string;
  object: { resource: string } | { text: string; language: string };
}

type Prefix = keyof typeof PREFIXES;
/** The full IRI of a short name (`skos:broader`). */
export function iri(short: `${Prefix}:${string}`): string {
  const colon = short.indexOf(':');
  return PREFIXES[short.slice(0, colon) as Prefix] + short.slice(colon + 1);
}

const KIND_PROPERTIES: Record<LabelKind, string> = {
  preferred: iri('skos:prefLabel'),
  alternative: iri('skos:altLabel'),
  hidden: iri('skos:hiddenLabel'),
};

/** What the rules and looks of a term are called in our own namespace: always said, so that reading brings them back. */
const OWN: readonly {
  part: DraftPart;
  name: string;
  write: (term: DraftTerm) => string;
  read: (text: string) => Partial<DraftTerm>;
}[] = [
  {
    part: 'status',
    name: 'status',
    write: ({ status }) => status,
    read: (text) => ({ status: text === 'proposed' ? 'proposed' : 'accepted' }),
  },
  {
    part: 'colour',
    name: 'colour',
    write: ({ colour }) => colour,
    read: (text) => ({ colour: TERM_COLOURS.find((one) => one === text) ?? '' }),
  },
  {
    part: 'byHand',
    name: 'narrowerByHand',
    write: ({ byHand }) => String(byHand),
    read: (text) => ({ byHand: text === 'true' }),
  },
  {
    part: 'writeSelf',
    name: 'writeItself',
    write: (term) => String(term.writeSelf),
    read: (text) => ({ writeSelf: text === 'true' }),
  },
  {
    part: 'writeBroader',
    name: 'writeBroader',
    write: (term) => String(term.writeBroader),
    read: (text) => ({ writeBroader: text === 'true' }),
  },
  {
    part: 'writeOthers',
    name: 'writeOtherLabels',
    write: (term) => term.writeOthers,
    read: (text) => ({ writeOthers: WRITTEN_OTHERS.find((one) => one === text) ?? 'none' }),
  },
  {
    part: 'writeLanguage',
    name: 'writeInLanguage',
    write: (term) => term.writeLanguage,
    read: (writeLanguage) => ({ writeLanguage }),
  },
];
const POSITION = iri('stellin:position');
const TREE_BROADER = iri('stellin:treeBroader');
const HEADING = iri('stellin:heading');
const BY_HAND = iri('stellin:narrowerByHand');

/** The statements that a draft makes. Headings are arrays (isothes:ThesaurusArray) whose members stand below the concept above. */
export function statementsOf(draft: Draft): Statement[] {
  const statements: Statement[] = [];
  const language = draft.language || 'en';
  const link = (subject: string, predicate: string, resource: string) =>
    statements.push({ subject, predicate, object: { resource } });
  const say = (subject: string, predicate: string, text: string, tag = '') => {
    if (text !== '') statements.push({ subject, predicate, object: { text, language: tag } });
  };
  const terms = new Map(draft.terms.map((term) => [term.key, term]));
  const idOf = (term: DraftTerm) => term.uri || `urn:stellin:term:${encodeURIComponent(term.key)}`;
  const idOfKey = (key: string) => {
    const term = terms.get(key);
    return term ? idOf(term) : undefined;
  };
  const scheme = draft.uri || 'urn:stellin:vocabulary';
  link(scheme, iri('rdf:type'), iri('skos:ConceptScheme'));
  say(scheme, iri('dct:title'), draft.name, language);
  say(scheme, iri('dct:description'), draft.note, language);
  say(scheme, iri('dct:language'), language);
  say(scheme, BY_HAND, String(draft.byHand));
  const conceptAbove = (term: DraftTerm): DraftTerm | undefined => {
    let above = term.parent === null ? undefined : terms.get(term.parent);
    while (above?.heading) above = above.parent === null ? undefined : terms.get(above.parent);
    return above;
  };
  const places = new Map<string | null, number>();
  for (const term of draft.terms) {
    const id = idOf(term);
    const parent = term.parent === null ? undefined : terms.get(term.parent);
    const above = conceptAbove(term);
    link(id, iri('rdf:type'), iri(term.heading ? 'isothes:ThesaurusArray' : 'skos:Concept'));
    if (term.heading) link(id, iri('rdf:type'), iri('skos:Collection'));
    link(id, iri('skos:inScheme'), scheme);
    if (term.heading && parent && !parent.heading) link(id, iri('isothes:superOrdinate'), idOf(parent));
    if (parent?.heading) {
      link(idOf(parent), iri('skos:member'), id);
      link(id, HEADING, idOf(parent));
    }
    if (!term.heading && above) link(id, iri('skos:broader'), idOf(above));
    if (!term.heading && !above) link(id, iri('skos:topConceptOf'), scheme);
    if (!term.heading && above && term.broader.length) link(id, TREE_BROADER, idOf(above));
    for (const key of term.broader) if (idOfKey(key)) link(id, iri('skos:broader'), idOfKey(key) ?? '');
    for (const key of term.related) if (idOfKey(key)) link(id, iri('skos:related'), idOfKey(key) ?? '');
    say(id, KIND_PROPERTIES.preferred, term.label, language);
    for (const other of term.otherLabels) say(id, KIND_PROPERTIES[other.kind], other.label, other.language || language);
    say(id, iri('skos:scopeNote'), term.scopeNote, language);
    say(id, iri('skos:definition'), term.definition, language);
    say(id, iri('skos:notation'), term.notation);
    if (term.deprecated) say(id, iri('owl:deprecated'), 'true');
    if (term.replacedBy !== null) link(id, iri('dct:isReplacedBy'), idOfKey(term.replacedBy) ?? '');
    for (const { name, write } of OWN) say(id, PREFIXES.stellin + name, write(term));
    const place = (places.get(term.parent) ?? 0) + 1;
    places.set(term.parent, place);
    if (term.parent === null ? draft.byHand : parent?.byHand) say(id, POSITION, String(place));
  }
  return statements;
}

/** What statements say of a vocabulary. Throws an Error with a sentence when there is none in them. */
export function draftFrom(statements: readonly Statement[]): Draft {
  const graph = new Graph(statements);
  const scheme = graph.ofType(iri('skos:ConceptScheme'))[0];
  const collections = new Set(
    ['skos:Collection', 'skos:OrderedCollection', 'isothes:ThesaurusArray', 'isothes:ConceptGroup'].flatMap((type) =>
      graph.ofType(iri(type as `skos:${string}`)),
    ),
  );
  const concepts = new Set([
    ...graph.ofType(iri('skos:Concept')),
    ...graph.subjects(KIND_PROPERTIES.preferred),
    ...graph.subjects(iri('skos:broader')),
    ...graph.objects(iri('skos:narrower')),
    ...graph.subjects(iri('skos:topConceptOf')),
    ...graph.objects(iri('skos:hasTopConcept')),
  ]);
  for (const one of [...collections, ...(scheme ? [scheme] : [])]) concepts.delete(one);
  if (concepts.size + collections.size === 0) throw new Error('there are no concepts of SKOS in it');
  const language = languageOf(graph, scheme, concepts);
  const title = (subject: string) =>
    graph.text(subject, iri('dct:title'), language) ||
    graph.text(subject, KIND_PROPERTIES.preferred, language) ||
    graph.text(subject, 'http://www.w3.org/2000/01/rdf-schema#label', language) ||
    graph.text(subject, 'http://purl.org/dc/elements/1.1/title', language);
  const draft = emptyDraft(partsSaid(graph));
  draft.name = scheme ? title(scheme) : '';
  draft.uri = scheme ?? '';
  draft.language = language;
  draft.note = scheme ? graph.text(scheme, iri('dct:description'), language) : '';
  draft.byHand = scheme !== undefined && graph.text(scheme, BY_HAND, '') === 'true';

  const broader = graph.links(iri('skos:broader'), iri('skos:narrower'));
  const related = graph.links(iri('skos:related'), iri('skos:related'));
  const members = graph.links(iri('skos:member'));
  for (const collection of collections)
    members.set(collection, [...(members.get(collection) ?? []), ...graph.list(collection, iri('skos:memberList'))]);
  const headings = headingsOf(graph, collections, members, broader);
  const links: Links = { broader, related, headings, isTerm: (one) => concepts.has(one) || collections.has(one) };

  for (const id of [...concepts, ...collections]) {
    const label = labelOf(graph, id, language);
    const heading = collections.has(id);
    if (!label) {
      draft.problems.push({ at: id, message: 'there is no preferred label, or it is longer than 200 characters' });
      continue;
    }
    draft.terms.push(termFrom(graph, id, label, { heading, language, links }));
  }
  const positions = new Map(draft.terms.map(({ key }) => [key, Number(graph.text(key, POSITION, '') || Infinity)]));
  draft.terms.sort(
    (a, b) =>
      (positions.get(a.key) ?? 0) - (positions.get(b.key) ?? 0) ||
      compareLabels(a.label, b.label) ||
      (a.key < b.key ? -1 : 1),
  );
  return draft;
}

/** What stands between the subjects of a graph. */
interface Links {
  broader: ReadonlyMap<string, readonly string[]>;
  related: ReadonlyMap<string, readonly string[]>;
  /** Of members of a heading, the one they stand below. */
  headings: ReadonlyMap<string, string>;
  isTerm: (subject: string) => boolean;
}

/** A concept or collection as a term of the draft: what SKOS says of it, and what our own properties say on top. */
function termFrom(
  graph: Graph,
  id: string,
  label: NonNullable<ReturnType<typeof labelOf>>,
  {
    heading,
    language,
    links: { broader, related, headings, isTerm },
  }: { heading: boolean; language: string; links: Links },
): DraftTerm {
  const above = (broader.get(id) ?? []).filter(isTerm);
  const inTree = graph.resource(id, TREE_BROADER) ?? above[0] ?? null;
  const said = OWN.flatMap(({ name, read }) => {
    const text = graph.text(id, PREFIXES.stellin + name, '');
    return text === '' ? [] : [read(text)];
  });
  return Object.assign(
    draftTerm({
      key: id,
      label: label.text,
      uri: id.startsWith('_:') ? '' : id,
      heading,
      parent:
        graph.resource(id, HEADING) ??
        headings.get(id) ??
        (heading ? (graph.resource(id, iri('isothes:superOrdinate')) ?? null) : inTree),
      broader: above.filter((one) => one !== inTree),
      related: (related.get(id) ?? []).filter(isTerm),
      otherLabels: otherLabelsOf(graph, id, label, language),
      scopeNote: graph.text(id, iri('skos:scopeNote'), language) || graph.text(id, iri('skos:note'), language),
      definition: graph.text(id, iri('skos:definition'), language),
      notation: graph.text(id, iri('skos:notation'), ''),
      deprecated: graph.text(id, iri('owl:deprecated'), '') === 'true',
      replacedBy: graph.resource(id, iri('dct:isReplacedBy')) ?? null,
    }),
    ...said,
  ) as DraftTerm;
}

/** For each member of a heading the heading it stands below; not where the member is broader than that itself. */
function headingsOf(
  graph: Graph,
  collections: ReadonlySet<string>,
  members: ReadonlyMap<string, string[]>,
  broader: ReadonlyMap<string, string[]>,
): Map<string, string> {
  const found = new Map<string, string>();
  for (const collection of collections) {
    const above = graph.resource(collection, iri('isothes:superOrdinate'));
    for (const member of members.get(collection) ?? []) {
      if (found.has(member) || member === collection) continue;
      // A collection of concepts from all over the tree groups them without being where they stand.
      const stands =
        (broader.get(member) ?? []).length === 0 ||
        (above !== undefined && broader.get(member)?.includes(above)) ||
        collections.has(member) ||
        sameBroader(member, members.get(collection) ?? [], broader);
      if (stands) found.set(member, collection);
    }
  }
  // A heading without a place of its own stands where its members' broader concept is.
  for (const collection of collections) {
    if (found.has(collection) || graph.resource(collection, iri('isothes:superOrdinate'))) continue;
    const [first] = members.get(collection) ?? [];
    const [above] = (first && found.get(first) === collection && broader.get(first)) || [];
    if (above) found.set(collection, above);
  }
  return found;
}

function sameBroader(member: string, members: readonly string[], broader: ReadonlyMap<string, string[]>): boolean {
  const own = broader.get(member)?.[0];
  return members.every((other) => broader.get(other)?.[0] === own);
}

/** What the file can say at all: our own properties only where it uses them. */
function partsSaid(graph: Graph): DraftPart[] {
  const own = OWN.filter(({ name }) => graph.subjects(PREFIXES.stellin + name).length > 0).map(({ part }) => part);
  return [
    'otherLabels',
    'heading',
    'deprecated',
    'scopeNote',
    'definition',
    'notation',
    'replacedBy',
    'broader',
    'related',
    ...own,
  ];
}

/** The language most preferred labels are in, where the scheme doesn't say one. */
function languageOf(graph: Graph, scheme: string | undefined, concepts: ReadonlySet<string>): string {
  const said = scheme ? graph.text(scheme, iri('dct:language'), '') : '';
  if (languageTag(said) !== '') return languageTag(said);
  const counts = new Map<string, number>();
  for (const id of concepts)
    for (const { language } of graph.texts(id, KIND_PROPERTIES.preferred))
      if (language) counts.set(language, (counts.get(language) ?? 0) + 1);
  const [most] = [...counts].sort(
    (a, b) => b[1] - a[1] || (a[0] === 'en' ? -1 : b[0] === 'en' ? 1 : a[0] < b[0] ? -1 : 1),
  );
  return most?.[0] ?? 'en';
}

/** The preferred label in the vocabulary's language, or without one, or any. */
function labelOf(graph: Graph, id: string, language: string): { text: string; language: string } | undefined {
  const texts = graph.texts(id, KIND_PROPERTIES.preferred);
  const best =
    texts.find((text) => text.language === language) ?? texts.find((text) => text.language === '') ?? texts[0];
  const text = tidyLabel(best?.text ?? graph.text(id, 'http://www.w3.org/2000/01/rdf-schema#label', language));
  return text === undefined ? undefined : { text, language: best?.language ?? '' };
}

function otherLabelsOf(
  graph: Graph,
  id: string,
  own: { text: string; language: string },
  language: string,
): OtherLabel[] {
  return (Object.entries(KIND_PROPERTIES) as [LabelKind, string][]).flatMap(([kind, property]) =>
    graph.texts(id, property).flatMap((said) => {
      const label = tidyLabel(said.text);
      if (!label || (kind === 'preferred' && said.language === own.language && label === own.text)) return [];
      return [{ kind, language: said.language === language ? '' : said.language, label }];
    }),
  );
}

/** Statements by subject and property. */
class Graph {
  private readonly bySubject = new Map<string, Map<string, Statement['object'][]>>();

  constructor(private readonly statements: readonly Statement[]) {
    for (const { subject, predicate, object: given } of statements) {
      const object = 'text' in given ? { ...given, language: languageTag(given.language) } : given;
      const properties = this.bySubject.get(subject) ?? new Map<string, Statement['object'][]>();
      this.bySubject.set(subject, properties);
      const known = properties.get(predicate);
      if (known) known.push(object);
      else properties.set(predicate, [object]);
    }
  }

  texts(subject: string, predicate: string): { text: string; language: string }[] {
    return (this.bySubject.get(subject)?.get(predicate) ?? []).flatMap((object) => ('text' in object ? [object] : []));
  }

  /** The text in a language, or without one, or any. */
  text(subject: string, predicate: string, language: string): string {
    const texts = this.texts(subject, predicate);
    return (
      (texts.find((one) => one.language === language) ?? texts.find((one) => one.language === '') ?? texts[0])?.text ??
      ''
    );
  }

  resource(subject: string, predicate: string): string | undefined {
    return this.resources(subject, predicate)[0];
  }

  ofType(type: string): string[] {
    return this.statements.flatMap(({ subject, predicate, object }) =>
      predicate === iri('rdf:type') && 'resource' in object && object.resource === type ? [subject] : [],
    );
  }

  subjects(predicate: string): string[] {
    return this.statements.flatMap((one) => (one.predicate === predicate ? [one.subject] : []));
  }

  objects(predicate: string): string[] {
    return this.statements.flatMap(({ predicate: said, object }) =>
      said === predicate && 'resource' in object ? [object.resource] : [],
    );
  }

  /** From each subject to what it is linked with, said from this side or, by the inverse property, from the other. */
  links(predicate: string, inverse?: string): Map<string, string[]> {
    const found = new Map<string, string[]>();
    const put = (from: string, to: string) => {
      const known = found.get(from) ?? [];
      if (!known.includes(to)) found.set(from, [...known, to]);
    };
    for (const { subject, predicate: said, object } of this.statements) {
      if (!('resource' in object)) continue;
      if (said === predicate) put(subject, object.resource);
      if (said === inverse) put(object.resource, subject);
    }
    return found;
  }

  /** The members of an RDF list. */
  list(subject: string, predicate: string): string[] {
    const found: string[] = [];
    const seen = new Set<string>();
    for (let at = this.resource(subject, predicate); at && !seen.has(at); at = this.resource(at, iri('rdf:rest'))) {
      seen.add(at);
      const first = this.resource(at, iri('rdf:first'));
      if (first) found.push(first);
    }
    return found;
  }

  private resources(subject: string, predicate: string): string[] {
    return (this.bySubject.get(subject)?.get(predicate) ?? []).flatMap((object) =>
      'resource' in object ? [object.resource] : [],
    );
  }
}
