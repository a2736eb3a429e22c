// Own places as SKOS: concepts with broader ones, WGS 84 coordinates (W3C Basic Geo) and outlines as WKT (OGC GeoSPARQL).

import { iri, PREFIXES, type Statement } from '../vocabulary/formats/skos';
import type { Point } from './areas';
import { PLACE_KINDS, placingProblem, type OtherPlaceName, type OwnPlace, type PlaceKind } from './ownPlaces';

/** The prefixes of places beside those of vocabularies. */
export const PLACE_PREFIXES = {
  geo: 'http://www.w3.org/2003/01/geo/wgs84_pos#',
  gsp: 'http://www.opengis.net/ont/geosparql#',
} as const;

/** Where GeoNames has its places, by their numbers. */
const GEONAMES = 'https://sws.geonames.org/';
const SCHEME = 'urn:stellin:places';
const LATITUDE = `${PLACE_PREFIXES.geo}lat`;
const LONGITUDE = `${PLACE_PREFIXES.geo}long`;
const OUTLINE = `${PLACE_PREFIXES.gsp}asWKT`;
const KIND = `${PREFIXES.stellin}placeKind`;
const REACHES = `${PREFIXES.stellin}reachesMetres`;
/** A name that was used in certain years: `Saltmersc, 1204–1641`. */
const FORMER = `${PREFIXES.stellin}formerName`;
const YEARS = /^(.*), (\d{0,4})–(\d{0,4})$/s;

/** So many places lie in one another. */
const MAX_DEPTH = 50;

/** The statements that own places make. `uriOfTerm`: the address of a term by its number. */
export function placeStatements(
  places: readonly OwnPlace[],
  uriOfTerm: (termId: number) => string | undefined = () => undefined,
): Statement[] {
  const statements: Statement[] = [];
  const link = (subject: string, predicate: string, resource: string) =>
    statements.push({ subject, predicate, object: { resource } });
  const say = (subject: string, predicate: string, text: string) => {
    if (text !== '') statements.push({ subject, predicate, object: { text, language: '' } });
  };
  link(SCHEME, iri('rdf:type'), iri('skos:ConceptScheme'));
  for (const place of places) {
    const { id, parentId, kind, name, otherNames, countryCode, note, point, metres, corners } = place;
    const subject = iriOf(id);
    link(subject, iri('rdf:type'), iri('skos:Concept'));
    link(subject, iri('skos:inScheme'), SCHEME);
    if (parentId === null) link(subject, iri('skos:topConceptOf'), SCHEME);
    else link(subject, iri('skos:broader'), iriOf(parentId));
    say(subject, iri('skos:prefLabel'), name);
    for (const other of otherNames) {
      if (other.from === '' && other.until === '') say(subject, iri('skos:altLabel'), other.name);
      else say(subject, FORMER, `${other.name}, ${other.from}–${other.until}`);
    }
    say(subject, iri('skos:note'), note);
    say(subject, iri('skos:notation'), countryCode);
    say(subject, KIND, kind);
    if (point) {
      say(subject, LATITUDE, String(point.latitude));
      say(subject, LONGITUDE, String(point.longitude));
    }
    say(subject, REACHES, metres === null ? '' : String(metres));
    say(subject, OUTLINE, corners ? wktOf(corners) : '');
    if (place.geonamesId !== null) link(subject, iri('skos:exactMatch'), `${GEONAMES}${place.geonamesId}/`);
    const term = place.termId === null ? undefined : uriOfTerm(place.termId);
    if (term !== undefined) link(subject, iri('skos:closeMatch'), term);
  }
  return statements;
}

/** A place as it was read; what it lies in by its position in the list, which comes before it. */
export interface ReadPlace extends Omit<OwnPlace, 'id' | 'parentId' | 'termId'> {
  parent: number | null;
}

/**
 * The places that statements tell of, each behind the one it lies in. A kind that is not said is made of how deep it lies.
 * Throws an Error with a sentence for places without a name, in a circle, or where none of their kind can lie.
 */
export function placesFrom(statements: readonly Statement[]): ReadPlace[] {
  const said = new Map<string, Map<string, string[]>>();
  for (const { subject, predicate, object } of statements) {
    const values = said.get(subject) ?? new Map<string, string[]>();
    said.set(subject, values);
    values.set(predicate, [...(values.get(predicate) ?? []), 'resource' in object ? object.resource : object.text]);
  }
  const concepts = [...said].filter(([, values]) => values.get(iri('rdf:type'))?.includes(iri('skos:Concept')));
  const above = new Map(concepts.map(([key, values]) => [key, values.get(iri('skos:broader'))?.[0]]));
  const parents = new Set(above.values());
  const places: ReadPlace[] = [];
  const numbers = new Map<string, number>();
  const take = (key: string, values: ReadonlyMap<string, string[]>, below: readonly string[]): number => {
    const known = numbers.get(key);
    if (known !== undefined) return known;
    const name = values.get(iri('skos:prefLabel'))?.[0]?.trim() ?? '';
    if (name === '') throw new Error(`the place ${key} has no name`);
    if (below.includes(key)) throw new Error(`“${name}” lies in itself`);
    if (below.length > MAX_DEPTH) throw new Error(`“${name}” has places in one another, too many to be meant`);
    const parentKey = above.get(key);
    const parentValues = parentKey === undefined ? undefined : said.get(parentKey);
    const parent =
      parentKey !== undefined && above.has(parentKey) && parentValues
        ? take(parentKey, parentValues, [...below, key])
        : null;
    const kind = kindOf(values.get(KIND)?.[0], parent === null ? undefined : places[parent]?.kind, parents.has(key));
    const place = { ...placeOf(values), name, kind, parent };
    const wider = parent === null ? null : places[parent];
    const problem = placingProblem(kind, wider ? { ...wider, id: 0, parentId: null, termId: null } : null);
    if (problem) throw new Error(`“${name}” can’t be taken in: ${problem}`);
    numbers.set(key, places.push(place) - 1);
    return places.length - 1;
  };
  for (const [key, values] of concepts) take(key, values, []);
  return places;
}

function placeOf(values: ReadonlyMap<string, string[]>): Omit<ReadPlace, 'name' | 'kind' | 'parent'> {
  const first = (predicate: string) => values.get(predicate)?.[0] ?? '';
  const [latitude, longitude] = [numberIn(first(LATITUDE)), numberIn(first(LONGITUDE))];
  const isPoint = latitude !== undefined && longitude !== undefined && isOnEarth({ latitude, longitude });
  const metres = numberIn(first(REACHES));
  const code = first(iri('skos:notation'));
  return {
    otherNames: [
      ...(values.get(iri('skos:altLabel')) ?? []).map((name) => ({ name, from: '', until: '' })),
      ...(values.get(FORMER) ?? []).map(formerOf),
    ],
    countryCode: /^[A-Z]{2,3}$/.test(code) ? code : '',
    note: first(iri('skos:note')) || first(iri('skos:scopeNote')),
    point: isPoint ? { latitude, longitude } : null,
    metres: metres !== undefined && metres >= 1 ? Math.round(Math.min(metres, 1_000_000)) : null,
    corners: cornersOf(first(OUTLINE)),
    geonamesId: geonamesIdOf(values.get(iri('skos:exactMatch')) ?? []),
  };
}

function kindOf(said: string | undefined, parent: PlaceKind | undefined, isParent: boolean): PlaceKind {
  const known = PLACE_KINDS.find((kind) => kind === said);
  if (known) return known;
  if (!isParent) return 'spot';
  // The next narrower one, but no spot: something lies in it.
  const at = parent === undefined ? 0 : PLACE_KINDS.indexOf(parent) + 1;
  return PLACE_KINDS[Math.min(at, PLACE_KINDS.indexOf('town'))] ?? 'town';
}

function formerOf(text: string): OtherPlaceName {
  const [, name = text, from = '', until = ''] = YEARS.exec(text) ?? [];
  return { name, from, until };
}

/** The number of a place at GeoNames, if one of some addresses is there. */
function geonamesIdOf(addresses: readonly string[]): number | null {
  const found = addresses.flatMap(
    (address) => /^https?:\/\/sws\.geonames\.org\/(\d{1,9})\/?$/.exec(address)?.[1] ?? [],
  );
  return found[0] === undefined ? null : Number(found[0]);
}

function iriOf(id: number): string {
  return `urn:stellin:place:${id}`;
}

function wktOf(corners: readonly Point[]): string {
  const ring = [...corners, ...corners.slice(0, 1)].map(({ latitude, longitude }) => `${longitude} ${latitude}`);
  return `POLYGON ((${ring.join(', ')}))`;
}

/** The corners of a polygon without holes; null when a text is none. */
function cornersOf(wkt: string): Point[] | null {
  const [, inner = ''] = /^\s*(?:<[^>]*>\s*)?POLYGON\s*\(\(([^()]*)\)\)\s*$/i.exec(wkt) ?? [];
  const corners = inner.split(',').map((pair) => {
    const [longitude = NaN, latitude = NaN] = pair.trim().split(/\s+/).map(Number);
    return { latitude, longitude };
  });
  const [first, last] = [corners[0], corners.at(-1)];
  if (first && last && first.latitude === last.latitude && first.longitude === last.longitude) corners.pop();
  return corners.length >= 3 && corners.every(isOnEarth) ? corners : null;
}

function numberIn(text: string): number | undefined {
  return text.trim() === '' || !Number.isFinite(Number(text)) ? undefined : Number(text);
}

function isOnEarth({ latitude, longitude }: Point): boolean {
  return Math.abs(latitude) <= 90 && Math.abs(longitude) <= 180;
}
