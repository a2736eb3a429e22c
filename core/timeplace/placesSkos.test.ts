import fc from 'fast-check';
import { readTurtle, writeTurtle } from '../vocabulary/formats/rdf';
import type { OwnPlace } from './ownPlaces';
import { PLACE_PREFIXES, placesFrom, placeStatements } from './placesSkos';

const place = (id: number, said: Partial<OwnPlace>): OwnPlace => ({
  ...{ id, parentId: null, kind: 'spot', name: `Place ${id}`, otherNames: [], countryCode: '', note: '' },
  ...{ geonamesId: null, termId: null },
  ...{ point: null, metres: null, corners: null },
  ...said,
});
const throughTurtle = (places: readonly OwnPlace[]) =>
  placesFrom(readTurtle(writeTurtle(placeStatements(places), PLACE_PREFIXES)));

const PREFIX = `@prefix skos: <http://www.w3.org/2004/02/skos/core#> . @prefix geo: <http://www.w3.org/2003/01/geo/wgs84_pos#> .`;

test('places are read back as they were written, wherever they stand in the list', () => {
  const name = fc
    .string({ unit: 'grapheme', minLength: 1, maxLength: 30 })
    .map((text) => `x${text.replace(/\s+/g, ' ').trim()}`);
  const year = fc.constantFrom('', '1204', '1641');
  const point = fc.record({
    latitude: fc.integer({ min: -9000, max: 9000 }).map((value) => value / 100),
    longitude: fc.integer({ min: -18000, max: 18000 }).map((value) => value / 100),
  });
  const said = fc.record({
    name,
    otherNames: fc.array(fc.record({ name, from: year, until: year }), { maxLength: 3 }),
    note: name,
    countryCode: fc.constantFrom('', 'XN'),
    point: fc.option(point),
    metres: fc.option(fc.integer({ min: 1, max: 100_000 })),
    geonamesId: fc.option(fc.integer({ min: 1, max: 99_999_999 })),
  });
  fc.assert(
    fc.property(said, said, said, (country, town, spot) => {
      const places = [
        place(3, { ...spot, parentId: 2 }),
        place(2, { ...town, kind: 'town', parentId: 1 }),
        place(1, {
          ...country,
          kind: 'country',
          corners: [
            { latitude: 55, longitude: 3 },
            { latitude: 56, longitude: 3.5 },
            { latitude: 55.5, longitude: 4 },
          ],
        }),
      ];
      const read = throughTurtle(places);
      expect(read.map(({ parent }) => parent)).toEqual([null, 0, 1]);
      for (const [i, from] of [places[2], places[1], places[0]].entries()) {
        const { id: _, parentId: _parent, termId: _termId, otherNames, ...rest } = from ?? place(0, {});
        expect(read[i]).toMatchObject(rest);
        // Names without years come first.
        const sorted = (names: readonly { name: string; from: string; until: string }[]) =>
          names.map((other) => JSON.stringify(other)).sort();
        expect(sorted(read[i]?.otherNames ?? [])).toEqual(sorted(otherNames));
      }
    }),
  );
});

test('the term that stands for a place is said by its address', () => {
  const uriOf = (id: number) => (id === 7 ? 'urn:term:pier' : undefined);
  const text = writeTurtle(placeStatements([place(1, { termId: 7 }), place(2, { termId: 8 })], uriOf), PLACE_PREFIXES);
  expect(text.match(/skos:closeMatch <urn:term:pier>/g)).toHaveLength(1);
});

test('concepts of others are places, too: their kind is made of how deep they lie', () => {
  const text = `${PREFIX}
    <urn:a> a skos:Concept ; skos:prefLabel "Isle"@en ; geo:lat "55.9" ; geo:long "3.5" .
    <urn:b> a skos:Concept ; skos:prefLabel "North"@en ; skos:broader <urn:a> .
    <urn:c> a skos:Concept ; skos:prefLabel "Pier"@en ; skos:altLabel "Jetty"@en ; skos:broader <urn:b> .`;
  expect(placesFrom(readTurtle(text))).toMatchObject([
    { name: 'Isle', kind: 'country', parent: null, point: { latitude: 55.9, longitude: 3.5 } },
    { name: 'North', kind: 'region', parent: 0 },
    { name: 'Pier', kind: 'spot', parent: 1, otherNames: [{ name: 'Jetty', from: '', until: '' }] },
  ]);
});

test('what can be no place is refused with a sentence', () => {
  for (const [text, problem] of [
    [`<urn:a> a skos:Concept .`, 'the place urn:a has no name'],
    [`<urn:a> a skos:Concept ; skos:prefLabel "A" ; skos:broader <urn:a> .`, '“A” lies in itself'],
    [
      `<urn:a> a skos:Concept ; skos:prefLabel "A" ; <https://stellin.example/ns/vocabulary#placeKind> "spot" .
       <urn:b> a skos:Concept ; skos:prefLabel "B" ; skos:broader <urn:a> ; <https://stellin.example/ns/vocabulary#placeKind> "town" .`,
      '“B” can’t be taken in: a town can’t lie in a spot',
    ],
  ] as const)
    expect(() => placesFrom(readTurtle(`${PREFIX} ${text}`))).toThrow(problem);
  const odd = `<urn:a> a skos:Concept ; skos:prefLabel "A" ; geo:lat "north" ; geo:long "3" .`;
  expect(placesFrom(readTurtle(`${PREFIX} ${odd}`))).toMatchObject([{ point: null, corners: null }]);
});
