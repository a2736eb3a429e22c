import { BEGINNING, decide, idsWith, takeBack } from './pass';

test('verdicts come one after the other and are taken back in reverse', () => {
  const pass = decide(decide(decide(BEGINNING, 'keep'), 'drop'), 'keep');
  expect(idsWith(pass, [7, 8, 9, 10], 'keep')).toEqual([7, 9]);
  expect(idsWith(pass, [7, 8, 9, 10], 'drop')).toEqual([8]);
  const back = decide(takeBack(takeBack(pass)), 'keep');
  expect(idsWith(back, [7, 8, 9, 10], 'keep')).toEqual([7, 8]);
  expect(takeBack(BEGINNING)).toEqual(BEGINNING);
});
