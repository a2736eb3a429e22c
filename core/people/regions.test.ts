import fc from 'fast-check';
import { regionBoxes } from './regions';

/** A face at the left, a little above the middle, of a stored picture of 1600 × 1000. */
const regions = {
  AppliedToDimensions: { w: 1600, h: 1000, unit: 'pixel' },
  RegionList: [{ Name: 'Ida Brandt', Type: 'Face', Area: { x: 0.2, y: 0.4, w: 0.1, h: 0.2, unit: 'normalized' } }],
};
const boxAt = (orientation: number) => {
  const [width, height] = orientation > 4 ? [1000, 1600] : [1600, 1000];
  const [box] = regionBoxes(regions, { orientation, width, height });
  const round = (value = NaN) => Math.round(value * 1000) / 1000;
  return box && [round(box.left), round(box.top), round(box.width), round(box.height), box.doubtful];
};

test.each([
  [1, [0.15, 0.3, 0.1, 0.2]],
  [2, [0.75, 0.3, 0.1, 0.2]],
  [3, [0.75, 0.5, 0.1, 0.2]],
  [4, [0.15, 0.5, 0.1, 0.2]],
  [5, [0.3, 0.15, 0.2, 0.1]],
  [6, [0.5, 0.15, 0.2, 0.1]],
  [7, [0.5, 0.75, 0.2, 0.1]],
  [8, [0.3, 0.75, 0.2, 0.1]],
])('in orientation %i the box is seen at %j', (orientation, place) => {
  expect(boxAt(orientation)).toEqual([...place, false]);
});

test('a region drawn on a picture of another shape is doubtful; one on a smaller copy is not', () => {
  const seen = (width: number, height: number) => regionBoxes(regions, { orientation: 1, width, height })[0]?.doubtful;
  expect([seen(800, 500), seen(1600, 1001), seen(1000, 1000)]).toEqual([false, false, true]);
});

test('what is no rectangle is left out, and nothing throws', () => {
  const picture = { orientation: 1, width: 1600, height: 1000 };
  expect(
    regionBoxes({ RegionList: [{ Name: 'no area' }, { Area: { x: 2, y: 0, w: 1, h: 1 } }, 'text'] }, picture),
  ).toEqual([]);
  expect(regionBoxes(undefined, picture)).toEqual([]);
  fc.assert(
    fc.property(fc.jsonValue(), fc.integer({ min: -1, max: 9 }), (value, orientation) =>
      Array.isArray(
        regionBoxes((value ?? undefined) as Parameters<typeof regionBoxes>[0], { ...picture, orientation }),
      ),
    ),
  );
});
