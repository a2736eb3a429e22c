/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor, within } from '@testing-library/react';
import { MAX_FACETS, type FacetResult } from '@stellin/contract/search';
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

const own = (name: string) => ({
  ...{ target: `custom:${name}`, required: false, help: '', initial: '', kind: 'text', choices: [], branch: null },
  offered: [],
});
const prepared = {
  fieldSets: [{ id: 1, name: 'Loans', entries: [own('Hall'), own('Price'), { ...own('x'), target: 'title' }] }],
  templates: [],
  rules: [],
};

function tab(query = '', answer: unknown = { facets: [KINDS, PLACES], milliseconds: 1 }) {
  const asked = answering({ facets: answer, showPrepared: prepared });
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

test('fields of projects are facets where anything is said of them', async () => {
  const hall: FacetResult = {
    id: 'own:Hall',
    values: [value('South', 'own:"Hall: South"', 3)],
    distinct: 1,
    missing: null,
  };
  const { user, shown, asked } = tab('kite', {
    facets: [KINDS, hall, { ...hall, id: 'own:Price', values: [], distinct: 0 }],
    milliseconds: 1,
  });
  await user.click(within(await facet('Hall')).getByRole('button', { name: /^South 3/ }));
  expect(shown).toEqual([{ query: 'kite own:"Hall: South"' }]);
  expect(screen.queryByRole('region', { name: 'Price' })).toBeNull();
  expect(asked.findLast(({ name }) => name === 'facets')?.query).toMatchObject({
    facets: expect.arrayContaining(['kind', 'own:Hall', 'own:Price']) as unknown,
  });
});

test('more fields of projects than are asked for at once are told of', async () => {
  const entries = Array.from({ length: MAX_FACETS }, (_, n) => own(`Field ${n}`));
  answering({
    facets: { facets: [KINDS], milliseconds: 1 },
    showPrepared: { ...prepared, fieldSets: [{ id: 1, name: 'Loans', entries }] },
  });
  show(<NarrowTab query="" show={() => undefined} />);
  expect(await screen.findByText(/^\d+ more fields of projects can be asked for/)).toBeTruthy();
});
