import fc from 'fast-check';
import { follow, followAny, momentOf, proposedAhead, type Following } from './following';
import { packedTrack, TrackBuilder, unpackedTrack, type Track, type TrackPoint } from './track';
import { readTrack, receiverOf, trackFormat } from './trackFiles';
import { offsetMinutes, zoneAt } from './zones';

const NOON = Date.UTC(2030, 5, 1, 12);
const following = (more: Partial<Following> = {}): Following => ({
  ...{ zoneMinutes: 0, aheadSeconds: 0, maxGapSeconds: 300, way: 'between' },
  ...more,
});
const gpx = (points: string) =>
  `<?xml version="1.0"?><gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>${points}</trkseg></trk></gpx>`;
const trkpt = (latitude: number, longitude: number, minute: number) =>
  `<trkpt lat="${latitude}" lon="${longitude}"><ele>${minute}</ele><time>${new Date(NOON + minute * 60_000).toISOString()}</time></trkpt>`;
const pointsOf = ({ times, latitudes, longitudes }: Track) =>
  [...times].map((time, i) => [(time - NOON) / 60_000, latitudes[i], longitudes[i]]);

describe('files', () => {
  test('GPX: segments are parts, points without a time are passed over', () => {
    const track = readTrack(gpx(`${trkpt(55, 3, 0)}<trkpt lat="1" lon="1"/></trkseg><trkseg>${trkpt(56, 4, 10)}`));
    expect(pointsOf(track)).toEqual([
      [0, 55, 3],
      [10, 56, 4],
    ]);
    expect([...track.starts]).toEqual([0, 1]);
    expect([...track.altitudes]).toEqual([0, 10]);
  });

  test('KML with gx:Track', () => {
    const track = readTrack(
      '<kml xmlns:gx="http://www.google.com/kml/ext/2.2"><Placemark><gx:Track><when>2030-06-01T12:00:00Z</when><when>2030-06-01T12:05:00Z</when><gx:coord>3 55 7</gx:coord><gx:coord>4 56 8</gx:coord></gx:Track></Placemark></kml>',
    );
    expect(pointsOf(track)).toEqual([
      [0, 55, 3],
      [5, 56, 4],
    ]);
  });

  test('GeoJSON with the times of its coordinates', () => {
    const feature = {
      type: 'Feature',
      properties: { coordTimes: ['2030-06-01T12:00:00Z', '2030-06-01T14:03:00+02:00'] },
      geometry: {
        type: 'LineString',
        coordinates: [
          [3, 55, 2],
          [4, 56],
        ],
      },
    };
    expect(pointsOf(readTrack(JSON.stringify({ type: 'FeatureCollection', features: [feature] })))).toEqual([
      [0, 55, 3],
      [3, 56, 4],
    ]);
  });

  test('NMEA: a sentence whose sum is wrong is no point', () => {
    const rmc = 'GPRMC,120000.00,A,5530.000,N,00315.000,W,0.0,0.0,010630,,,A';
    const sum = [...rmc]
      .reduce((all, letter) => all ^ letter.charCodeAt(0), 0)
      .toString(16)
      .padStart(2, '0');
    expect(pointsOf(readTrack(`$${rmc}*${sum}\n$${rmc.replace('120000', '120100')}*00\n`))).toEqual([[0, 55.5, -3.25]]);
  });

  test.each([
    ['', 'neither GPX'],
    ['{"type":"Feature"}', 'no point in it has a time'],
    ['{oops', 'it is no JSON'],
    [gpx('<trkpt lat="55" lon="3"/>'), 'no point in it has a time'],
    [gpx('<trkpt lat="NaN" lon="3"><time>2030-06-01T12:00:00Z</time></trkpt>'), 'no point in it has a time'],
    [gpx('<trkpt lat="55" lon="3">'), 'no well-formed XML'],
    ['<!DOCTYPE gpx [<!ENTITY a "aaaa">]><gpx><trk/></gpx>', 'declares a document type'],
    [`<gpx>${'<a>'.repeat(60)}`, 'nested too deeply'],
  ])('%j is refused: %s', (text, why) => expect(() => readTrack(text)).toThrow(why));

  test('a million ways without a point are no track, and do not hold anything up', () => {
    expect(() => readTrack(`<gpx><trk>${'<trkseg/>'.repeat(1_000_000)}</trk></gpx>`)).toThrow(
      'no point in it has a time',
    );
  });

  test('whatever the text, it is read or refused with a sentence', () => {
    const piece = fc.constantFrom(
      '<gpx>',
      '<trkseg>',
      '<trkpt lat="1" lon="2">',
      '<time>',
      '2030-06-01T12:00:00Z',
      '</time>',
      '</trkpt>',
      '</trkseg>',
      '</gpx>',
      '&#0;',
      '<![CDATA[',
      '$GPRMC,',
      '{"features":[',
      '\u0000',
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 20 }), (pieces) => {
        try {
          expect(readTrack(pieces.join('')).times.length).toBeGreaterThan(0);
        } catch (error) {
          expect(error).toBeInstanceOf(Error);
          expect((error as Error).message).toMatch(/^(it |its |no point)/);
        }
      }),
    );
    expect(trackFormat('\ufeff  <gpx version="1.0">')).toBe('gpx');
  });
});

const point = fc.record({
  time: fc.integer({ min: 0, max: 3600 }).map((second) => NOON + second * 1000),
  latitude: fc.double({ min: -90, max: 90, noNaN: true }),
  longitude: fc.double({ min: -180, max: 180, noNaN: true }),
  altitude: fc.option(fc.integer({ min: -10, max: 4000 }), { nil: undefined }),
});
const built = (points: readonly TrackPoint[]) => {
  const builder = new TrackBuilder();
  points.forEach((each, i) => {
    if (i % 5 === 0) builder.break();
    builder.add(each);
  });
  return builder.track();
};

test('what made a track is told by a GPX file alone', () => {
  expect(receiverOf('<?xml version="1.0"?>\n<gpx version="1.1" creator="Wren  logger &amp; co\0">')).toBe(
    'Wren logger co',
  );
  expect(receiverOf('<gpx version="1.1">')).toBe('');
  expect(receiverOf('{"creator": "x"}')).toBe('');
});

test('a track is the same after it was packed, its points in order', () => {
  fc.assert(
    fc.property(fc.array(point, { minLength: 1 }), (points) => {
      const track = built(points);
      expect(unpackedTrack(packedTrack(track))).toEqual(track);
      expect([...track.times]).toEqual([...new Set(points.map(({ time }) => time))].sort((x, y) => x - y));
    }),
  );
  expect(() => unpackedTrack(new Uint8Array(5))).toThrow('not the bytes of a track');
});

describe('following', () => {
  const track = readTrack(
    gpx(
      [trkpt(55, 3, 0), trkpt(55.2, 3.2, 4), trkpt(56, 4, 60), trkpt(56, -179.9, 120), trkpt(56, 179.9, 122)].join(''),
    ),
  );
  const at = (minute: number, more?: Partial<Following>) => {
    const found = follow(track, NOON + minute * 60_000, following(more));
    return found.found
      ? [Math.round(found.latitude * 1000) / 1000, Math.round(found.longitude * 1000) / 1000]
      : found.why;
  };

  test('between two points the way is straight; in a gap only what is near its ends is known', () => {
    expect(at(1)).toEqual([55.05, 3.05]);
    expect(at(1, { way: 'nearest' })).toEqual([55, 3]);
    expect(at(6)).toEqual([55.2, 3.2]);
    expect(at(30)).toBe('gap');
    expect(at(59)).toEqual([56, 4]);
    expect([at(-4), at(-6), at(126), at(130)]).toEqual([[55, 3], 'before', [56, 179.9], 'after']);
    expect(follow(track, NaN, following())).toEqual({ found: false, why: 'timeless' });
  });

  test('of several tracks the first that was anywhere at the moment tells', () => {
    const other = readTrack(gpx([trkpt(10, 10, 28), trkpt(11, 11, 32)].join('')));
    const found = (minute: number) => followAny([track, other], NOON + minute * 60_000, following());
    expect(found(30)).toMatchObject({ latitude: 10.5 });
    expect(found(1)).toMatchObject({ latitude: 55.05 });
    // Where none was, the track within which it would lie says why.
    expect(found(20)).toEqual({ found: false, why: 'gap' });
    expect(followAny([other, track], NOON + 20 * 60_000, following())).toEqual({ found: false, why: 'gap' });
  });

  test('across the date line the short way is gone', () => {
    expect(Math.abs(Number(at(121)[1]))).toBeCloseTo(180, 6);
  });

  test('a clock is read in its zone, its own before the one that is meant, and put right', () => {
    const reading = { zoneMinutes: 120, aheadSeconds: 0 };
    expect(momentOf('2030-06-01T14:00:00', reading)).toBe(NOON);
    expect(momentOf('2030-06-01T12:00:00Z', reading)).toBe(NOON);
    expect(momentOf('2030-06-01T17:30:00.5+05:30', reading)).toBe(NOON + 500);
    expect(momentOf('2030-06-01T13:00:00', { ...reading, aheadSeconds: 3600 })).toBe(NOON);
    expect([momentOf('2030-06', reading), momentOf(null, reading)]).toEqual([NaN, NaN]);
  });

  test('how far a clock was behind is proposed by where most photos then lie', () => {
    const clocks = ['2030-06-01T10:00:30', '2030-06-01T10:02:00', '2030-06-01T10:03:00', null, '1999-01-01T00:00:00'];
    expect(proposedAhead([track], clocks, following())).toBe(2 * 3600);
    expect(proposedAhead([track], ['1999-01-01T00:00:00'], following())).toBeUndefined();
  });
});

test('the zone of a place knows summer time', () => {
  const zone = zoneAt({ latitude: 52.37, longitude: 4.9 });
  expect(zone).toBe('Europe/Amsterdam');
  expect(offsetMinutes(zone, Date.UTC(2030, 0, 15))).toBe(60);
  expect(offsetMinutes(zone, Date.UTC(2030, 6, 15))).toBe(120);
  expect(offsetMinutes('America/St_Johns', Date.UTC(2030, 0, 15))).toBe(-210);
});
