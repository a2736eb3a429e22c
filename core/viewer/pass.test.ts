import fc from 'fast-check';
import { beginPass, currentStep, decide, idsWith, openBurst, takeBack, VERDICTS, withBursts, type Pass } from './pass';

test('verdicts come one after the other and are taken back in reverse', () => {
  const pass = decide(decide(decide(beginPass([7, 8, 9, 10]), 'keep'), 'drop'), 'second');
  expect([idsWith(pass, 'keep'), idsWith(pass, 'drop'), idsWith(pass, 'second')]).toEqual([[7], [8], [9]]);
  const back = decide(takeBack(takeBack(pass)), 'keep');
  expect(idsWith(back, 'keep')).toEqual([7, 8]);
  expect(takeBack(beginPass([1]))).toEqual(beginPass([1]));
});

test('of a burst the sharpest is shown; what is said of it drops the others', () => {
  const pass = beginPass([1, 2, 3, 4, 5], [[3, 2, 4, 99]]);
  expect(pass.steps).toEqual([[1], [3, 2, 4], [5]]);
  const agreed = decide(decide(pass, 'keep'), 'keep');
  expect([idsWith(agreed, 'keep'), idsWith(agreed, 'drop')]).toEqual([
    [1, 3],
    [2, 4],
  ]);
  expect(idsWith(decide(decide(pass, 'keep'), 'drop'), 'drop')).toEqual([3, 2, 4]);
});

test('a burst that was opened is gone through in its order', () => {
  const pass = openBurst(decide(beginPass([1, 2, 3, 4], [[3, 2]]), 'drop'), [1, 2, 3, 4]);
  expect(pass.steps).toEqual([[1], [2], [3], [4]]);
  expect(currentStep(pass)).toEqual([2]);
  // One photo alone can't be opened.
  expect(openBurst(pass, [1, 2, 3, 4])).toBe(pass);
});

test('bursts that become known later leave what was decided', () => {
  const pass = withBursts(decide(beginPass([1, 2, 3, 4, 5]), 'keep'), [
    [2, 1],
    [5, 4],
  ]);
  expect(pass.steps).toEqual([[1], [2], [3], [5, 4]]);
  expect(idsWith(pass, 'keep')).toEqual([1]);
});

test('at the end every photo has just one verdict', () => {
  const anyPass = fc.record({
    bursts: fc.subarray([
      [1, 2],
      [4, 3, 5],
      [9, 8],
    ]),
    verdicts: fc.array(fc.constantFrom(...VERDICTS, 'open' as const), { minLength: 30, maxLength: 30 }),
  });
  const ids = [1, 2, 3, 4, 5, 6, 7, 8, 9];
  fc.assert(
    fc.property(anyPass, ({ bursts, verdicts }) => {
      const step = (pass: Pass, verdict: (typeof verdicts)[number]) =>
        verdict === 'open' ? openBurst(pass, ids) : decide(pass, verdict);
      const pass = [...verdicts, ...ids.map(() => 'keep' as const)].reduce(step, beginPass(ids, bursts));
      expect(currentStep(pass)).toBeUndefined();
      expect(VERDICTS.flatMap((verdict) => idsWith(pass, verdict)).sort((a, b) => a - b)).toEqual(ids);
    }),
  );
});
