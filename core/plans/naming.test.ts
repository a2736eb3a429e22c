import { parseQuery, queryText } from '../search/language';
import { followPlans } from './naming';

const follow = (text: string) => {
  const { query } = parseQuery(text);
  const followed = followPlans(
    query,
    new Map([
      ['Hall', 'Great hall'],
      ['Hall/3', 'Great hall/Door'],
    ]),
  );
  return followed === query ? 'the same' : queryText(followed);
};

test('queries name plans and pins as they are called now, wherever they stand', () => {
  expect(follow('plan:hall/3 rating:2')).toBe('plan:"Great hall/Door" rating:2');
  expect(follow('not (plan:Hall or caption:x)')).toBe('not (plan:"Great hall" or caption:x)');
  expect(follow('plan:"Hall/4"')).toBe('the same');
  expect(follow('name:Hall')).toBe('the same');
});
