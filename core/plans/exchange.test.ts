import fc from 'fast-check';
import { featureOf, pinOfFeature, type SaidPin } from './geojson';
import { pinsOfRegions, withPinRegions } from './regions';
import { middleOf } from './pins';
import { tiedBy } from './tying';

const SIZE = { width: 800, height: 400 };
const TIED = tiedBy(
  [
    { x: 0, y: 0, latitude: 55.51, longitude: 3.5 },
    { x: 1, y: 1, latitude: 55.5, longitude: 3.52 },
  ],
  SIZE,
);
const rounded = (value: number) => Number(value.toFixed(6));
const part = fc.double({ min: 0, max: 1, noNaN: true }).map(rounded);
const spot = fc.record({ x: part, y: part });
const words = {
  number: fc.integer({ min: 1, max: 9999 }),
  label: fc.constantFrom('', 'North wall', 'Tür', '12'),
  note: fc.constantFrom('', 'In two lines\nof text'),
  layer: fc.constantFrom('', 'Water'),
  colour: fc.constantFrom('teal', 'red'),
  shape: fc.constantFrom('disc' as const, 'diamond' as const),
  term: fc.constantFrom('', 'urn:term:4'),
  place: fc.constantFrom('', 'Old pier'),
};
const pin: fc.Arbitrary<SaidPin> = fc.oneof(
  fc.record({
    ...words,
    x: part,
    y: part,
    kind: fc.constant('point' as const),
    corners: fc.constant(null),
    direction: fc.constant(null),
  }),
  fc.record({
    ...{ ...words, x: part, y: part, kind: fc.constant('view' as const), corners: fc.constant(null) },
    direction: fc.integer({ min: 0, max: 359 }),
  }),
  fc.record({ ...words, corners: fc.array(spot, { minLength: 3, maxLength: 6 }) }).map(({ corners, ...said }) => {
    const { x, y } = middleOf(corners);
    return { ...said, kind: 'area' as const, corners, direction: null, x: rounded(x), y: rounded(y) };
  }),
);

test('what is written as GeoJSON is read again, tied to the map or not', () => {
  fc.assert(
    fc.property(pin, fc.boolean(), (given, isTied) => {
      const feature = JSON.parse(JSON.stringify(featureOf(given, isTied ? TIED : undefined))) as ReturnType<
        typeof featureOf
      >;
      expect(feature.geometry === null).toBe(!isTied);
      expect(pinOfFeature(feature, undefined)).toEqual(given);
    }),
  );
});

test('features of others have their spot by where in the world they are', () => {
  const point = { longitude: 3.51, latitude: 55.505 };
  const at = TIED?.spotAt(point);
  const feature = {
    type: 'Feature' as const,
    geometry: { type: 'Point' as const, coordinates: [3.51, 55.505] as const },
    properties: { name: 'Pond', direction: -90, kind: 'view' },
  };
  expect(pinOfFeature(feature, TIED)).toMatchObject({ kind: 'view', direction: 270, label: 'Pond', number: 0, ...at });
  // On no map, or beside the plan, there is no spot.
  expect(pinOfFeature(feature, undefined)).toBeUndefined();
  expect(pinOfFeature({ ...feature, geometry: { type: 'Point', coordinates: [9, 50] } }, TIED)).toBeUndefined();
  const line = { type: 'Polygon' as const, coordinates: [[[3.51, 55.505] as const]] };
  expect(pinOfFeature({ ...feature, geometry: line }, TIED)).toBeUndefined();
});

test('the outline of an area goes against the clock in the world, whichever way it was drawn', () => {
  const corners = [
    { x: 0.2, y: 0.2 },
    { x: 0.8, y: 0.2 },
    { x: 0.5, y: 0.8 },
  ];
  for (const outline of [corners, [...corners].reverse()]) {
    const area = { ...base(), kind: 'area' as const, corners: outline };
    const { geometry } = featureOf(area, TIED);
    const ring = geometry?.type === 'Polygon' ? (geometry.coordinates[0] ?? []) : [];
    const signed = ring.slice(1).reduce((sum, [x, y], i) => {
      const [x0, y0] = ring[i] ?? [0, 0];
      return sum + (x0 * y - x * y0);
    }, 0);
    expect([signed > 0, ring.length]).toEqual([true, 4]);
    expect(ring[0]).toEqual(ring.at(-1));
  }
});

test('what is written as image regions is read again, as far as these go; regions of others stay', () => {
  fc.assert(
    fc.property(fc.uniqueArray(pin, { maxLength: 5, selector: ({ number }) => number }), (pins) => {
      const foreign = {
        RegionBoundary: { rbShape: 'rectangle', rbUnit: 'relative', rbX: 0.1, rbY: 0.1, rbW: 0.2, rbH: 0.2 },
        rId: 'p1',
        Name: 'A face',
      };
      const written = withPinRegions(withPinRegions([foreign], pins), pins);
      expect(written[0]).toEqual(foreign);
      const read = pinsOfRegions(written, SIZE);
      expect(
        read.slice(1).map(({ kind, number, direction, corners, term }) => ({ kind, number, direction, corners, term })),
      ).toEqual(pins.map(({ kind, number, direction, corners, term }) => ({ kind, number, direction, corners, term })));
      expect(read[0]).toMatchObject({ kind: 'area', label: 'A face', number: 0 });
    }),
  );
});

test('regions in pixels are parts of the picture; what is no region, or lies beside it, is left out', () => {
  const circle = (rbX: number, rbUnit = 'pixel') => ({
    RegionBoundary: { rbShape: 'circle', rbUnit, rbX, rbY: 100, rbRx: 4 },
  });
  expect(pinsOfRegions([circle(200)], SIZE)).toMatchObject([{ x: 0.25, y: 0.25 }]);
  expect(
    pinsOfRegions(
      [circle(900), circle(2, 'relative'), { Name: 'x' }, 'text', { RegionBoundary: { rbShape: 'star' } }],
      SIZE,
    ),
  ).toEqual([]);
  expect(pinsOfRegions(undefined, SIZE)).toEqual([]);
});

function base(): SaidPin {
  return {
    ...{ kind: 'point', number: 1, x: 0.5, y: 0.5, corners: null, direction: null, label: '', note: '', layer: '' },
    ...{ colour: 'teal', shape: 'disc', term: '', place: '' },
  };
}
