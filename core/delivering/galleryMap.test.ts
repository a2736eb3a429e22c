import { frameOf, MAP_HEIGHT, MAP_WIDTH, pathOn, spotsOf, type Position } from './galleryMap';
import { galleryPages, type GalleryPhoto } from './gallery';

const photo = (number: number, position: Position | null): GalleryPhoto => ({
  number,
  width: 10,
  height: 10,
  alt: `Kite <${number}>`,
  captions: {},
  lines: [],
  terms: [],
  position,
});

describe('what a map shows', () => {
  test('all positions, with room around them, in the ratio of the map', () => {
    const positions = [
      { latitude: 53.5, longitude: 8.1 },
      { latitude: 60.2, longitude: 24.9 },
    ];
    const frame = frameOf(positions);
    for (const { x, y } of spotsOf(
      positions.map((position) => ({ position })),
      frame,
    )) {
      expect(x).toBeGreaterThan(MAP_WIDTH * 0.11);
      expect(x).toBeLessThan(MAP_WIDTH * 0.89);
      expect(y).toBeGreaterThan(MAP_HEIGHT * 0.05);
      expect(y).toBeLessThan(MAP_HEIGHT * 0.95);
    }
    expect(frame.west).toBeLessThan(8.1);
    expect(frame.north).toBeGreaterThan(60.2);
  });
  test('a single spot stands in the middle of half a degree', () => {
    const frame = frameOf([{ latitude: 53.5, longitude: 8 }]);
    expect(frame.east - frame.west).toBeCloseTo(0.5);
    const [spot] = spotsOf([{ position: { latitude: 53.5, longitude: 8 } }], frame);
    expect([spot?.x, spot?.y]).toEqual([expect.closeTo(MAP_WIDTH / 2, 3), expect.closeTo(MAP_HEIGHT / 2, 3)]);
  });
  test('it is widened where it has to be', () => {
    const frame = frameOf([{ latitude: 0, longitude: 0 }], 4);
    expect(frame.east - frame.west).toBeCloseTo(2);
    expect(frameOf([{ latitude: 0, longitude: 0 }], 10_000).width).toBe(1);
  });
  test('the ends of the world are on it', () => {
    const ends = [
      { latitude: 89.9, longitude: -180 },
      { latitude: -89.9, longitude: 180 },
    ];
    expect(frameOf(ends)).toMatchObject({ left: 0, width: 1, west: -180, east: 180 });
  });
  test('lines are drawn where spots of the same degrees lie', () => {
    const frame = frameOf([{ latitude: 10, longitude: 10 }]);
    const [spot] = spotsOf([{ position: { latitude: 10.1, longitude: 10.1 } }], frame);
    expect(pathOn(frame, [[[10.1, 10.1]]], true)).toBe(`M${spot?.x.toFixed(1)} ${spot?.y.toFixed(1)}Z`);
  });
});

test('pictures close together are one spot with a page of its own, one alone leads to its page; texts are escaped', () => {
  const photos = [
    photo(1, { latitude: 53.5, longitude: 8 }),
    photo(2, { latitude: 53.5, longitude: 8.0001 }),
    photo(3, { latitude: 54.5, longitude: 9 }),
    photo(4, null),
  ];
  const ground = {
    frame: frameOf([
      { latitude: 53.5, longitude: 8 },
      { latitude: 54.5, longitude: 9 },
    ]),
    land: [
      [
        [
          [7, 53],
          [9, 53],
          [9, 55],
        ],
      ],
    ],
    coasts: [
      [
        [7, 53],
        [9, 55],
      ],
    ],
    towns: [{ name: 'Northmere & Co', latitude: 54, longitude: 8.5 }],
  };
  const pages = new Map(
    [...galleryPages({ title: 'Kites', words: '', look: 'paper', perPage: 60, photos, map: ground })].map(
      ({ name, text }) => [name, text],
    ),
  );
  const map = pages.get('map.html') ?? '';
  expect(map.match(/<a [^>]*><title>[^<]*<\/title><circle/g)).toHaveLength(2);
  expect(map).toContain('Northmere &amp; Co</text>');
  expect(map).toContain('<a href="spot-1.html" aria-label="2 pictures">');
  expect(map).toContain('<a href="photo-00003.html" aria-label="Kite &lt;3&gt;">');
  expect(map).toContain('Where 1 of 4 pictures were taken is not known.');
  expect(pages.get('spot-1.html')).toContain('photo-00002.html');
  expect(pages.get('index.html')).toContain('<a href="map.html">On a map</a>');
});

test('without a map there is no page of it, and nothing says where a picture was taken', () => {
  const photos = [photo(1, { latitude: 53.5, longitude: 8 })];
  const pages = [...galleryPages({ title: 'Kites', words: '', look: 'night', perPage: 60, photos })];
  expect(pages.map(({ name }) => name)).not.toContain('map.html');
  expect(pages.map(({ text }) => text).join('')).not.toContain('53.5');
});
