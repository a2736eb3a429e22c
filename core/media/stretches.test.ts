import fc from 'fast-check';
import type { FieldValue } from '../metadata/fields';
import { edlText } from './edl';
import { stretchesOf, withStretches, wordsOfStretches, type Stretch } from './stretches';

const stretch = (from: number, to: number, part: Partial<Stretch> = {}): Stretch => ({
  ...{ key: null, from, to, name: '', note: '', rating: 0, terms: [], people: [] },
  ...part,
});
/** What comes back, without where it stands. */
const said = (value: ReturnType<typeof withStretches>) =>
  stretchesOf(value ?? undefined).map(({ key: _, ...rest }) => rest);
const plain = ({ key: _, ...rest }: Stretch) => rest;

test('stretches are markers of a track of our own, and come back as they were, in the order in which they begin', () => {
  const [late, early] = [
    stretch(12.5, 20, {
      name: 'Launch',
      note: 'Of the rokkaku',
      rating: 4,
      terms: ['Rokkaku'],
      people: ['Ida Brandt'],
    }),
    stretch(1, 1, { name: 'Clap' }),
  ];
  const value = withStretches(undefined, [late, early]);
  expect(value).toMatchObject([
    {
      trackName: 'Stretches',
      frameRate: 'f1000',
      markers: [{ startTime: '12500', duration: '7500', name: 'Launch' }, {}],
    },
  ]);
  expect(said(value)).toEqual([early, late].map(plain));
  expect(wordsOfStretches(value ?? undefined)).toEqual(['Clap', 'Launch', 'Of the rokkaku', 'Rokkaku', 'Ida Brandt']);
  expect(withStretches(value ?? undefined, [])).toBeNull();
});

test('what other programs have marked is a stretch, changed in their units, and keeps what only they understand', () => {
  const theirs: FieldValue = [
    {
      trackName: 'Comments',
      trackType: 'Comment',
      frameRate: 'f30000s1001',
      markers: [
        {
          startTime: '300',
          duration: '30000@f30000',
          speaker: 'Jon',
          cuePointParams: [{ key: 'colour', value: 'red' }],
        },
        { startTime: 'maximum', name: 'End' },
      ],
    },
    { frameRate: 'f25', markers: [{ startTime: '50', duration: 'maximum', name: 'Rest' }] },
  ];
  const found = stretchesOf(theirs, 60);
  expect(found.map(({ key, from, to, name }) => [key, Number(from.toFixed(3)), Number(to.toFixed(3)), name])).toEqual([
    ['1:0', 2, 60, 'Rest'],
    ['0:0', 10.01, 11.01, ''],
  ]);
  const changed = withStretches(theirs, [{ ...found[1]!, name: 'Kite', rating: 3 }, stretch(5, 6)]);
  expect(changed).toEqual([
    {
      ...{ trackName: 'Comments', trackType: 'Comment', frameRate: 'f30000s1001' },
      markers: [
        {
          startTime: '300',
          duration: '30',
          speaker: 'Jon',
          name: 'Kite',
          cuePointParams: [
            { key: 'colour', value: 'red' },
            { key: 'rating', value: '3' },
          ],
        },
        { startTime: 'maximum', name: 'End' },
      ],
    },
    { frameRate: 'f25' },
    {
      trackName: 'Stretches',
      trackType: 'Markers',
      frameRate: 'f1000',
      markers: [{ startTime: '5000', duration: '1000' }],
    },
  ]);
});

const anyStretch = fc
  .record({
    from: fc.integer({ min: 0, max: 1e7 }),
    length: fc.integer({ min: 0, max: 1e6 }),
    name: fc.string({ maxLength: 20 }),
    note: fc.string({ maxLength: 20 }),
    rating: fc.integer({ min: 0, max: 5 }),
    terms: fc.array(fc.string({ minLength: 1, maxLength: 9 }), { maxLength: 3 }),
    people: fc.array(fc.string({ minLength: 1, maxLength: 9 }), { maxLength: 3 }),
  })
  .map(({ from, length, ...rest }) => stretch(from / 1000, (from + length) / 1000, rest));

test('whatever stretches there are, they come back, and keeping all of them changes nothing', () => {
  fc.assert(
    fc.property(fc.array(anyStretch, { maxLength: 8 }), (stretches) => {
      const value = withStretches(undefined, stretches);
      const found = stretchesOf(value ?? undefined);
      expect(found.map(plain)).toEqual(expect.arrayContaining(stretches.map(plain)));
      expect(withStretches(value ?? undefined, found)).toEqual(value);
    }),
  );
});

test('no value, however odd, makes a stretch that ends before it begins', () => {
  fc.assert(
    fc.property(fc.jsonValue(), (value) => {
      for (const { from, to } of stretchesOf(value as never)) expect(to >= from && from >= 0).toBe(true);
      withStretches(value as never, [stretch(1, 2)]);
    }),
  );
});

test('an edit decision list tells source and record times, by drop-frame counting where the film counts so', () => {
  const stretches = [
    stretch(10, 12, { name: 'Launch', note: 'first\ntry' }),
    stretch(3, 3, { name: 'Mark' }),
    stretch(60, 61),
  ];
  expect(edlText({ name: 'Over the dunes.mp4', rate: 25, begins: '10:00:00:00', stretches })).toBe(
    [
      'TITLE: Over the dunes.mp4',
      'FCM: NON-DROP FRAME',
      '001  OVERTHED V     C        10:00:10:00 10:00:12:00 00:00:00:00 00:00:02:00',
      '* FROM CLIP NAME: Over the dunes.mp4',
      '* COMMENT: Launch - first try',
      '002  OVERTHED V     C        10:01:00:00 10:01:01:00 00:00:02:00 00:00:03:00',
      '* FROM CLIP NAME: Over the dunes.mp4',
      '',
    ].join('\r\n'),
  );
  const dropped = edlText({ name: '9.mov', rate: 30000 / 1001, begins: '01:00:00;00', stretches: [stretch(0, 61)] });
  expect(dropped).toContain('FCM: DROP FRAME');
  expect(dropped).toContain('01:00:00;00 01:01:01;00 00:00:00;00 00:01:01;00');
});
