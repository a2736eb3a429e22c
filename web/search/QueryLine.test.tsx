/** @jest-environment ./web/testing/browser.cjs */
import { screen } from '@testing-library/react';
import { useState } from 'react';
import type { Result } from '../photos/queries';
import { answering, show } from '../testing/render';
import { QueryLine } from './QueryLine';

let asked: string[];
beforeEach(() => {
  asked = [];
  answering({ suggest: { suggestions: [] }, recentSearches: { searches: [] } });
});

function Line({ start = '' }: { start?: string }) {
  const [result, setResult] = useState<Result>({ query: start, sort: 'taken-desc' });
  return (
    <QueryLine
      ref={null}
      {...result}
      show={(change) => {
        if (change.query !== undefined) asked.push(change.query);
        setResult({ ...result, ...change });
      }}
      size={180}
      onSize={() => undefined}
      headings={false}
      onHeadings={() => undefined}
      found={undefined}
      changed=""
      onBuild={() => undefined}
      onSave={undefined}
    />
  );
}
const line = () => screen.getByRole<HTMLInputElement>('combobox', { name: 'Query' });

test.each([
  ['foo:"bar baz"', 'there is no field “foo”', 'foo', 'foo bar baz'],
  ['rating:>=3 and (kite or', 'this bracket is never closed', '(', 'rating >=3 "and" kite "or"'],
  ['rating:four', '“rating” takes a number', 'rating:four', 'rating four'],
])(
  'a mistyped query (%s) searches for nothing, stays, and says what was expected where',
  async (typed, said, place, words) => {
    const { user } = show(<Line start="kind:jpeg" />);
    await user.type(line(), typed.replace(/[[{]/g, '$&$&'));
    await user.keyboard('{Enter}');
    expect(asked).toEqual([]);
    expect(line().value).toBe(typed);
    expect(line().getAttribute('aria-invalid')).toBe('true');
    const alert = screen.getByRole('alert');
    expect(alert.textContent).toContain(said);
    expect(alert.querySelector('mark')?.textContent).toBe(place);
    await user.click(screen.getByRole('button', { name: 'Search for it as words' }));
    expect(asked).toEqual([`kind:jpeg ${words}`]);
  },
);

test('Esc clears what was typed before it leaves the line', async () => {
  const { user } = show(<Line />);
  await user.type(line(), 'kit');
  await user.keyboard('{Escape}');
  expect([line().value, document.activeElement === line()]).toEqual(['', true]);
  await user.keyboard('{Escape}');
  expect(document.activeElement).not.toBe(line());
  await user.type(line(), 'beach{Enter}');
  expect(asked).toEqual(['beach']);
});

test('a query from elsewhere that is not understood is shown as it is, so that nothing of it is lost', async () => {
  const { user } = show(<Line start='kite foo:"bar baz"' />);
  const text = screen.getByRole<HTMLInputElement>('textbox', { name: 'Query' });
  expect(text.value).toBe('kite foo:"bar baz"');
  await user.type(text, ' more{Enter}');
  await user.tab();
  expect(asked).toEqual([]);
  await user.click(text);
  await user.keyboard('{Escape}');
  expect(text.value).toBe('kite foo:"bar baz"');
  await user.clear(text);
  await user.type(text, 'kite{Enter}');
  expect(asked).toEqual(['kite']);
});

test('a token that is changed into something mistyped is neither lost nor searched for', async () => {
  const { user } = show(<Line start="kite rating:>=3" />);
  await user.click(screen.getByRole('button', { name: 'Edit rating:>=3' }));
  const token = screen.getByRole<HTMLInputElement>('combobox', { name: 'Token of the query' });
  await user.clear(token);
  await user.type(token, 'rating:high');
  await user.tab();
  expect([asked, token.value]).toEqual([[], 'rating:high']);
});
