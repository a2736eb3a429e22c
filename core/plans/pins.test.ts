import { inOrder, isWithin, middleOf, nextNumber, pinAt, pinName, pinProblem, sizeOf, type PinShape } from './pins';

const SQUARE = [
  { x: 0, y: 0 },
  { x: 1, y: 0 },
  { x: 1, y: 1 },
  { x: 0, y: 1 },
];
/** Like an L: its middle lies outside. */
const CORNER = [
  { x: 0, y: 0 },
  { x: 0.1, y: 0 },
  { x: 0.1, y: 0.9 },
  { x: 1, y: 0.9 },
  { x: 1, y: 1 },
  { x: 0, y: 1 },
];
const pin = (number: number, x: number, y: number, more: Partial<PinShape> = {}): PinShape => ({
  ...{ kind: 'point', number, x, y, corners: null, direction: null, label: '', note: '', layer: '' },
  ...more,
});

test('a pin is called by its label, or by its number', () => {
  expect([pinName({ label: 'Door', number: 3 }), pinName({ label: '', number: 3 })]).toEqual(['Door', '3']);
});

test('what is within an outline, how large it is, and where its number stands', () => {
  expect([isWithin(SQUARE, { x: 0.5, y: 0.5 }), isWithin(SQUARE, { x: 1.5, y: 0.5 })]).toEqual([true, false]);
  expect(isWithin(CORNER, { x: 0.5, y: 0.5 })).toBe(false);
  expect(sizeOf(SQUARE)).toBe(1);
  expect(sizeOf([...SQUARE].reverse())).toBe(1);
  expect(middleOf(SQUARE)).toEqual({ x: 0.5, y: 0.5 });
  const { x, y } = middleOf(CORNER);
  expect([x, y].every(Number.isFinite)).toBe(true);
  // All on a line: some middle still.
  expect(middleOf([SQUARE[0], SQUARE[0], SQUARE[0]].flatMap((corner) => corner ?? []))).toEqual({ x: 0, y: 0 });
});

test('the nearest pin in reach is meant, else the smallest area that holds the spot', () => {
  const size = { width: 1000, height: 500 };
  const small = SQUARE.map(({ x, y }) => ({ x: 0.4 + x / 5, y: 0.4 + y / 5 }));
  const pins = [
    pin(1, 0.1, 0.1),
    pin(2, 0.12, 0.1),
    pin(3, 0.5, 0.5, { kind: 'area', corners: SQUARE }),
    pin(4, 0.5, 0.5, { kind: 'area', corners: small }),
  ];
  const at = (x: number, y: number) => pinAt(pins, { x, y }, size, 24)?.number;
  expect([at(0.115, 0.1), at(0.1, 0.11), at(0.5, 0.5), at(0.9, 0.9)]).toEqual([2, 1, 4, 3]);
  expect(pinAt(pins.slice(0, 2), { x: 0.5, y: 0.5 }, size, 24)).toBeUndefined();
});

test('pins are numbered in an order', () => {
  const pins = [
    pin(5, 0.9, 0.1, { label: 'B10', layer: 'Water' }),
    pin(6, 0.1, 0.12, { label: 'B9', layer: 'Walls' }),
    pin(7, 0.5, 0.9, { label: 'a', layer: 'Walls' }),
  ];
  const order = (numbering: Parameters<typeof inOrder>[1]) => inOrder(pins, numbering).map(({ number }) => number);
  expect(order('reading')).toEqual([6, 5, 7]);
  expect(order('label')).toEqual([7, 6, 5]);
  expect(order('layer')).toEqual([6, 7, 5]);
  expect([nextNumber(pins), nextNumber([])]).toEqual([8, 1]);
});

test('only areas have outlines, and only views look somewhere', () => {
  expect(pinProblem(pin(1, 0, 0))).toBeUndefined();
  expect(pinProblem(pin(1, 0, 0, { kind: 'area', corners: SQUARE }))).toBeUndefined();
  expect(pinProblem(pin(1, 0, 0, { kind: 'view', direction: 10 }))).toBeUndefined();
  for (const wrong of [
    { kind: 'area' },
    { kind: 'area', corners: SQUARE.slice(0, 2) },
    { corners: SQUARE },
    { kind: 'view' },
    { direction: 4 },
  ] as const)
    expect(pinProblem(pin(1, 0, 0, wrong))).toBeTruthy();
});
