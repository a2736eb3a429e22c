import type { FilingPlan } from '@stellin/contract/filing';
import { planText } from './wording';

const NOTHING: FilingPlan = {
  photos: 2,
  bytes: 3_400_000,
  taken: 0,
  away: 0,
  missing: 0,
  readOnly: 0,
  busy: 0,
  examples: [],
  problem: null,
};

test('a plan says how much it is, and no more where all goes well', () => {
  expect(planText(NOTHING)).toEqual(['2 photos, 3.4 MB.']);
  expect(planText({ ...NOTHING, photos: 1 })).toEqual(['1 photo, 3.4 MB.']);
});

test('names that are taken and whatever is left out is told before it is done', () => {
  expect(planText({ ...NOTHING, taken: 1 })).toEqual([
    '2 photos, 3.4 MB.',
    '1 name is taken there: a number is added, nothing is written over.',
  ]);
  expect(planText({ ...NOTHING, taken: 3, away: 1, missing: 2, readOnly: 4, busy: 5 })).toEqual([
    '2 photos, 3.4 MB.',
    '3 names are taken there: a number is added, nothing is written over.',
    'Left out: 1 photo on drives that are away, 2 photos whose files are missing, 4 photos on drives that can’t be written to, 5 photos that are still being moved.',
  ]);
});
