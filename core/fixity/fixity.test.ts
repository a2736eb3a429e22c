import { hoursEnd, restAfter } from './due';
import { verdictOn, type FileHashes, type KnownFile } from './states';

const file = (sha256: string, picture: string | null = 'kite', sidecar: string | null = null): FileHashes => ({
  sha256,
  picture,
  sidecar,
});
const known = (origin: KnownFile['origin'], sidecar: string | null = null): KnownFile => ({
  ...file('first', 'kite', sidecar),
  origin,
});

test('a file that is read for the first time is as it should be from then on', () => {
  expect(verdictOn(undefined, file('first'), 'reading')).toEqual({ state: 'unchanged', known: known('unchanged') });
  expect(verdictOn(undefined, file('first'), 'us').state).toBe('ours');
});

test.each(['unchanged', 'ours', 'others'] as const)('the same bytes stay %s', (origin) => {
  expect(verdictOn(known(origin), file('first'), 'reading')).toEqual({ state: origin, known: known(origin) });
});

test('other metadata around the same picture is a change by others, or ours when we wrote it', () => {
  expect(verdictOn(known('unchanged'), file('second'), 'reading')).toEqual({
    state: 'others',
    known: { ...file('second'), origin: 'others' },
  });
  expect(verdictOn(known('others'), file('second'), 'us').known.origin).toBe('ours');
  expect(verdictOn(known('unchanged', 'before'), file('first', 'kite', 'after'), 'reading').state).toBe('others');
  expect(verdictOn(known('unchanged', 'before'), file('first'), 'reading').state).toBe('others');
  // Of a kind whose picture can’t be told from the rest, only the sidecar may differ.
  expect(verdictOn({ ...known('unchanged'), picture: null }, file('first', null, 'new'), 'reading').state).toBe(
    'others',
  );
});

test('another picture is damage, whoever wrote last, and what the file should hold is kept', () => {
  for (const by of ['reading', 'us'] as const)
    for (const found of [file('second', 'broken'), file('second', null)])
      expect(verdictOn(known('ours'), found, by)).toEqual({ state: 'damaged', known: known('ours') });
});

const at = (time: string) => new Date(`2026-03-01T${time}`);

test.each([
  ['22:00', '06:00', '21:59', undefined],
  ['22:00', '06:00', '22:00', '2026-03-02T06:00'],
  ['22:00', '06:00', '05:59', '2026-03-01T06:00'],
  ['22:00', '06:00', '06:00', undefined],
  ['01:30', '02:30', '02:00', '2026-03-01T02:30'],
  ['01:30', '02:30', '03:00', undefined],
  ['00:00', '00:00', '13:00', '2026-03-02T00:00'],
])('within %s to %s at %s it is read until %s', (from, to, now, end) => {
  expect(hoursEnd(at(now), { from, to })).toEqual(end === undefined ? undefined : new Date(end));
});

test('rests as long as the pace asks for', () => {
  expect(restAfter(10_000_000, 200, 10)).toBe(800);
  expect(restAfter(10_000_000, 2000, 10)).toBe(0);
});
