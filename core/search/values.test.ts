import fc from 'fast-check';
import { dateInterval } from './dates';
import { areaOf, contains, latitudesOf } from '../timeplace/areas';
import { numberOf } from '../query/units';

describe('relative dates', () => {
  test.each([
    ['today', '2024-06-15', '2024-06-16'],
    ['yesterday', '2024-06-14', '2024-06-15'],
    ['this week', '2024-06-10', '2024-06-17'],
    ['last week', '2024-06-03', '2024-06-10'],
    ['this month', '2024-06-01', '2024-07-01'],
    ['Last Month', '2024-05-01', '2024-06-01'],
    ['last year', '2023-01-01', '2024-01-01'],
    ['last 7 days', '2024-06-09', '2024-06-16'],
    ['last 2 weeks', '2024-06-02', '2024-06-16'],
    ['last 1 month', '2024-05-16', '2024-06-16'],
  ])('%s', (text, from, to) => {
    expect(dateInterval(text, '2024-06-15')).toEqual({ from: `${from}T00:00:00`, to: `${to}T00:00:00` });
  });

  test('a month before the end of a long month is the end of the short one', () => {
    expect(dateInterval('last 1 month', '2024-03-30')?.from).toBe('2024-02-29T00:00:00');
  });

  test.each(['tomorrow', 'last 0 days', 'last days', 'this 2 weeks', 'last 1 days', 'last 2 day'])(
    '%s is none',
    (text) => expect(dateInterval(text, '2024-06-15')).toBeUndefined(),
  );
});

test('numbers with units and fractions', () => {
  const seconds = { s: 1, ms: 0.001, min: 60 };
  expect(numberOf('1/250s', seconds)).toBe(1 / 250);
  expect(numberOf('4 MS', seconds)).toBe(0.004);
  expect(numberOf('-2.5')).toBe(-2.5);
  for (const wrong of ['', 's', '1/0', '1..2', '5 mm', '1e5', '--1'])
    expect([wrong, numberOf(wrong, seconds)]).toEqual([wrong, undefined]);
});

describe('places', () => {
  const at = (latitude: number, longitude: number) => ({ latitude, longitude });
  const area = (text: string) => {
    const found = areaOf(text);
    if (!found) throw new Error(`${text} is no area`);
    return found;
  };

  test('a radius is along the great circle', () => {
    // One degree of latitude is 111.2 km.
    expect(contains(area('54,8,112km'), at(55, 8))).toBe(true);
    expect(contains(area('54,8,111km'), at(55, 8))).toBe(false);
    expect(contains(area('0,179.9,30km'), at(0, -179.9))).toBe(true);
  });

  test('a box may lie across the date line; a polygon holds what is inside', () => {
    expect(contains(area('-20,170,20,-170'), at(0, 180))).toBe(true);
    expect(contains(area('-20,170,20,-170'), at(0, 0))).toBe(false);
    expect(contains(area('0,0 0,10 10,10 10,0 5,5'), at(5, 8))).toBe(true);
    expect(contains(area('0,0 0,10 10,10 10,0 5,5'), at(5, 2))).toBe(false);
  });

  test('nothing in an area lies beyond its latitudes', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('54,8,50km', '-89,0,500km', '10,20,30,40', '1,1 2,9 8,4'),
        fc.double({ min: -90, max: 90, noNaN: true }),
        fc.double({ min: -180, max: 180, noNaN: true }),
        (text, latitude, longitude) => {
          const [south, north] = latitudesOf(area(text));
          if (contains(area(text), at(latitude, longitude))) expect(latitude >= south && latitude <= north).toBe(true);
        },
      ),
    );
  });

  test.each(['', '1', '1,2', '91,0,5km', '0,181,5', '10,0,5,5', '1,2 3,4', '1,2,3,4,5', 'a,b,c'])(
    '%s is none',
    (text) => expect(areaOf(text)).toBeUndefined(),
  );
});
