import {
  chooseAll,
  chooseOne,
  chooseRange,
  countChosen,
  isChosen,
  NOTHING,
  refocused,
  selectionOf,
  toggle,
  selectionOfGrasped,
} from './chosen';

test('all of a query less one needs no list of the rest', () => {
  const chosen = toggle(chooseAll(NOTHING), 7, 3);
  expect(selectionOf(chosen, 'kites')).toEqual({ query: 'kites', minus: [7], plus: [] });
  expect(countChosen(chosen, 1_000_000)).toBe(999_999);
  expect(isChosen(chosen, 7)).toBe(false);
  expect(isChosen(chosen, 8)).toBe(true);
});

test('toggling twice is as before', () => {
  const once = toggle(chooseOne(1, 0), 2, 1);
  expect([...once.plus]).toEqual([1, 2]);
  expect([...toggle(once, 2, 1).plus]).toEqual([1]);
});

test('a range keeps its anchor while it grows', () => {
  const range = chooseRange(chooseRange(chooseOne(5, 10), [5, 6, 7], 12), [5, 6, 7, 8], 13);
  expect(range.anchor).toBe(10);
  expect(range.focus).toBe(13);
  expect(range.plus.size).toBe(4);
});

test('nothing chosen is no selection', () => {
  expect(selectionOf(NOTHING, 'kites')).toBeNull();
});

test('the focus follows its photo when the result changes underneath', () => {
  const moved = refocused(chooseOne(5, 10), 12);
  expect(moved).toMatchObject({ focus: 12, focusId: 5, anchor: 12 });
  expect(refocused(chooseRange(chooseOne(5, 10), [5, 6], 11), 14)).toMatchObject({ focus: 14, anchor: 10 });
});

test('a grasped photo stands for all chosen ones if it is among them, else for itself', () => {
  const some = { ...NOTHING, plus: new Set([1, 2]) };
  expect(selectionOfGrasped(some, 'kind:jpeg', 2)).toMatchObject({ query: null, plus: [1, 2] });
  expect(selectionOfGrasped(some, 'kind:jpeg', 9)).toEqual({ query: null, minus: [], plus: [9] });
  const all = { ...NOTHING, all: true, minus: new Set([9]) };
  expect(selectionOfGrasped(all, 'kind:jpeg', 1)).toMatchObject({ query: 'kind:jpeg', minus: [9] });
  expect(selectionOfGrasped(all, 'kind:jpeg', 9)).toEqual({ query: null, minus: [], plus: [9] });
});
