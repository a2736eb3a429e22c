// Statements of SKOS as Turtle, RDF/XML and JSON-LD. Reading is done by well-kept packages of the RDF community; nothing is
// ever fetched: a JSON-LD context that stands elsewhere is refused.

import jsonld from 'jsonld';
import { DataFactory, Parser, Writer, type Quad } from 'n3';
import { RdfXmlParser } from 'rdfxml-streaming-parser';
import { iri, PREFIXES, type Statement } from './skos';

/** More statements than that are refused: a vocabulary of 100,000 terms makes about two million. */
const MAX_STATEMENTS = 3_000_000;

/** Reads Turtle (W3C 2014). Throws an Error that names the line. */
export function readTurtle(text: string): Statement[] {
  return new Parser({ format: 'text/turtle' }).parse(text).map(statementOf);
}

/** Writes Turtle; `more` prefixes stand beside those of vocabularies. */
export function writeTurtle(statements: readonly Statement[], more: Readonly<Record<string, string>> = {}): string {
  const { namedNode, literal, quad } = DataFactory;
  const writer = new Writer({ prefixes: { ...PREFIXES, ...more } });
  for (const { subject, predicate, object } of statements)
    writer.addQuad(
      quad(
        namedNode(subject),
        namedNode(predicate),
        'resource' in object ? namedNode(object.resource) : literal(object.text, object.language || undefined),
      ),
    );
  let written = '';
  writer.end((error, result: string) => {
    if (error) throw error;
    written = result;
  });
  return written;
}

/** Reads RDF/XML (W3C 2014). Throws an Error that names the line. */
export async function readRdfXml(text: string): Promise<Statement[]> {
  return new Promise((resolve, reject) => {
    const statements: Statement[] = [];
    const parser = new RdfXmlParser({ trackPosition: true });
    parser.on('data', (quad: Quad) => {
      statements.push(statementOf(quad));
      if (statements.length > MAX_STATEMENTS) parser.destroy(new Error('there are too many statements in it'));
    });
    parser.on('error', reject);
    parser.on('end', () => resolve(statements));
    parser.write(text);
    parser.end();
  });
}

export function writeRdfXml(statements: readonly Statement[]): string {
  const bySubject = new Map<string, Statement[]>();
  for (const statement of statements) {
    const known = bySubject.get(statement.subject);
    if (known) known.push(statement);
    else bySubject.set(statement.subject, [statement]);
  }
  const declarations = Object.entries(PREFIXES)
    .map(([prefix, uri]) => ` xmlns:${prefix}="${uri}"`)
    .join('');
  const nodes = [...bySubject].map(([subject, said]) => {
    const lines = said.map(({ predicate, object }) => {
      const name = shortName(predicate);
      if ('resource' in object) return `    <${name} rdf:resource="${escapeXml(object.resource)}"/>\n`;
      const language = object.language ? ` xml:lang="${escapeXml(object.language)}"` : '';
      return `    <${name}${language}>${escapeXml(object.text)}</${name}>\n`;
    });
    return `  <rdf:Description rdf:about="${escapeXml(subject)}">\n${lines.join('')}  </rdf:Description>\n`;
  });
  return `<?xml version="1.0" encoding="UTF-8"?>\n<rdf:RDF${declarations}>\n${nodes.join('')}</rdf:RDF>\n`;
}

/** The short name of a property of ours (`skos:broader`). */
function shortName(predicate: string): string {
  const found = Object.entries(PREFIXES).find(([, uri]) => predicate.startsWith(uri));
  if (!found) throw new Error(`${predicate} has no short name`);
  return `${found[0]}:${predicate.slice(found[1].length)}`;
}

function escapeXml(text: string): string {
  return (
    text
      // XML 1.0 has no place for control characters.
      // oxlint-disable-next-line no-control-regex
      .replace(/[\x00-\x08\x0b\x0c\x0e-\x1f\ufffe\uffff]/g, '')
      .replace(/[&<>"\r\n\t]/g, (letter) => `&#${letter.charCodeAt(0)};`)
  );
}

/** Reads JSON-LD (W3C 2020). Throws an Error with a sentence. */
export async function readJsonLd(text: string): Promise<Statement[]> {
  const document = JSON.parse(text) as jsonld.JsonLdDocument;
  const quads = (await jsonld.toRDF(document, {
    documentLoader: (url: string) => Promise.reject(new Error(`it refers to ${url}, and nothing is fetched`)),
  })) as unknown as RdfQuad[];
  return quads.map(({ subject, predicate, object }) => ({
    subject: subject.value,
    predicate: predicate.value,
    object:
      object.termType === 'Literal'
        ? { text: object.value, language: object.language ?? '' }
        : { resource: object.value },
  }));
}

interface RdfQuad {
  subject: { value: string };
  predicate: { value: string };
  object: { termType: string; value: string; language?: string };
}

export function writeJsonLd(statements: readonly Statement[]): string {
  const nodes = new Map<string, Record<string, unknown>>();
  for (const { subject, predicate, object } of statements) {
    const node = nodes.get(subject) ?? { '@id': subject };
    nodes.set(subject, node);
    const isType = predicate === iri('rdf:type');
    const name = isType ? '@type' : shortName(predicate);
    const value =
      'resource' in object
        ? isType
          ? shortName(object.resource)
          : { '@id': object.resource }
        : object.language
          ? { '@value': object.text, '@language': object.language }
          : object.text;
    const known = node[name];
    node[name] = known === undefined ? value : Array.isArray(known) ? [...(known as unknown[]), value] : [known, value];
  }
  return `${JSON.stringify({ '@context': PREFIXES, '@graph': [...nodes.values()] }, null, 1)}\n`;
}

function statementOf({ subject, predicate, object }: Quad): Statement {
  return {
    subject: idOf(subject),
    predicate: predicate.value,
    object:
      object.termType === 'Literal' ? { text: object.value, language: object.language } : { resource: idOf(object) },
  };
}

/** Blank nodes are told from resources by `_:`. */
function idOf({ termType, value }: { termType: string; value: string }): string {
  return termType === 'BlankNode' && !value.startsWith('_:') ? `_:${value}` : value;
}
