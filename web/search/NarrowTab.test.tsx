/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor, within } from '@testing-library/react';
import type { FacetResult } from '@stellin/contract/search';
import { answering, show, type Asked } from '../testing/render';
import { NarrowTab } from './NarrowTab';

const value = (label: string, query: string, photos: number, chosen: 'any' | 'none' | null = null) => ({
  label,
  detail: '',
  query,
  photos,
  chosen,
  termId: null,
  narrower: false,
});
const KINDS: FacetResult = {
  id: 'kind',
  values: [value('jpeg', 'kind:jpeg', 20), value('dng', 'kind:dng', 5)],
  distinct: 2,
  missing: null,
};
const PLACES: FacetResult = {
  id: 'place',
  values: ['Ebbwick', 'Norland', 'Saltmarsh'].map((name) => value(name, `place:${name}`, 3)),
  distinct: 14,
  missing: { query: 'missing:place', photos: 4, chosen: false },
};

function tab(query = '', answer: unknown = { facets: [KINDS, PLACES], milliseconds: 1 }) {
  const asked = answering({ facets: answer });
  const shown: unknown[] = [];
  const view = show(<NarrowTab query={query} show={(next) => shown.push(next)} />);
  return { ...view, asked, shown };
}
const facet = (name: string) => screen.findByRole('region', { name });

test('a value narrows to it; the sign beside it means only that one, or all but that one', async () => {
  const { user, shown } = tab('rating:5');
  const kinds = within(await facet('Kinds'));
  await user.click(kinds.getByRole('button', { name: /^jpeg 20/ }));
  await user.click(kinds.getByRole('button', { name: 'Only dng' }));
  expect(shown).toEqual([{ query: 'rating:5 kind:jpeg' }, { query: 'rating:5 kind:dng' }]);
});

test('photos that have none are a value like others', async () => {
  const { user, shown } = tab();
  await user.click(within(await facet('Places')).getByRole('button', { name: /^without 4/ }));
  expect(shown).toEqual([{ query: 'missing:place' }]);
});

test('a facet with many values is searched in, at the server', async () => {
  const { user, asked } = tab('', ({ body, query }: Asked) => {
    const { containing } = { ...(body as object), ...(query as object) } as { containing?: string };
    const salt = { ...PLACES, values: [value('Saltmarsh', 'place:Saltmarsh', 3)] };
    return { facets: containing ? [salt] : [KINDS, PLACES], milliseconds: 1 };
  });
  const places = within(await facet('Places'));
  expect(within(await facet('Kinds')).queryByRole('searchbox')).toBeNull();
  await user.type(places.getByLabelText('Search places'), 'salt');
  await waitFor(() => expect(places.queryByText('Ebbwick')).toBeNull());
  expect(places.getByText('Saltmarsh')).toBeTruthy();
  expect(JSON.stringify(asked.at(-1))).toContain('"containing":"salt"');
});
