import { nearest } from './GraspSensor';

const [left, right, up, down] = [
  { x: -1, y: 0 },
  { x: 1, y: 0 },
  { x: 0, y: -1 },
  { x: 0, y: 1 },
];
const places = {
  delta: { x: 50, y: 100 },
  rokkaku: { x: 50, y: 130 },
  sled: { x: 50, y: 160 },
  photo: { x: 400, y: 110 },
  farPhoto: { x: 700, y: 110 },
};
const all = Object.values(places);

test('arrows go to the next place in their direction, not past it', () => {
  expect(nearest(places.delta, down, all)).toBe(places.rokkaku);
  expect(nearest(places.sled, up, all)).toBe(places.rokkaku);
  expect(nearest(places.delta, right, all)).toBe(places.photo);
  expect(nearest(places.farPhoto, left, all)).toBe(places.photo);
});

test('what lies straight ahead comes before what is nearer and aside', () => {
  const aside = { x: 90, y: 120 };
  expect(nearest(places.delta, down, [aside, places.rokkaku])).toBe(places.rokkaku);
});

test('at the last place one stays', () => {
  expect(nearest(places.sled, down, all)).toBeUndefined();
  expect(nearest(places.delta, right, [])).toBeUndefined();
});
