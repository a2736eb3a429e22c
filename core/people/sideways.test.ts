import { sidewaysOf } from './sideways';

const face = (roll: number, pixels = 100) => ({ roll, pixels });

test('where all faces lie on one side the picture is to be turned the other way', () => {
  expect(sidewaysOf([face(-89), face(-75)])).toBe(90);
  expect(sidewaysOf([face(87)])).toBe(270);
});

test('faces that stand, lie on both sides, or are tiny turn nothing', () => {
  expect(sidewaysOf([])).toBe(0);
  expect(sidewaysOf([face(-20), face(35)])).toBe(0);
  expect(sidewaysOf([face(-89), face(80)])).toBe(0);
  expect(sidewaysOf([face(-89), face(3)])).toBe(0);
  expect(sidewaysOf([face(-89, 20)])).toBe(0);
  // A tiny one says nothing against the others.
  expect(sidewaysOf([face(-89), face(0, 18)])).toBe(90);
});
