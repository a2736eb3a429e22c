/** @jest-environment ./web/testing/browser.cjs */
import { screen } from '@testing-library/react';
import { answering, choose, show } from '../testing/render';
import { QueryBuilder } from './QueryBuilder';

function builder(query: string) {
  answering({
    countPhotos: { count: 12, folded: 0, milliseconds: 1, errors: [] },
    suggest: {
      suggestions: [{ kind: 'camera', label: 'Corvina D1', detail: '60', query: 'camera:"Corvina D1"', photos: 60 }],
    },
  });
  const shown: unknown[] = [];
  let closed = 0;
  const view = show(<QueryBuilder query={query} show={(change) => shown.push(change)} onClose={() => closed++} />);
  return { ...view, shown, closed: () => closed };
}
const says = () => document.querySelector('p.font-mono')?.textContent;

test('a query is shown as conditions, and says the same as the query line at any moment', async () => {
  const { user, shown, closed } = builder('rating:>=3 not kind:tiff');
  expect(says()).toBe('rating:>=3 not kind:tiff');
  expect(screen.getAllByLabelText('Criterion').map(({ textContent }) => textContent)).toEqual(['rating', 'kind']);
  await choose(user, screen.getAllByLabelText('Whether it holds')[1] as HTMLElement, 'has');
  expect(says()).toBe('rating:>=3 kind:tiff');
  await choose(user, screen.getByLabelText('How the conditions go together'), 'Any of these');
  expect(says()).toBe('rating:>=3 or kind:tiff');
  await user.click(await screen.findByRole('button', { name: 'Show 12 photos' }));
  expect([shown, closed()]).toEqual([[{ query: 'rating:>=3 or kind:tiff' }], 1]);
});

test('values are suggested; choices are chosen', async () => {
  const { user } = builder('');
  await choose(user, screen.getByLabelText('Criterion'), 'camera');
  await user.type(screen.getByLabelText('Value'), 'Cor');
  await user.click(await screen.findByRole('option', { name: /Corvina D1/ }));
  expect(says()).toBe('camera:"Corvina D1"');
  await choose(user, screen.getByLabelText('Criterion'), 'shape');
  await choose(user, screen.getByLabelText('Value'), 'portrait');
  expect(says()).toBe('shape:portrait');
});

test('groups nest, and what is removed is gone', async () => {
  const { user } = builder('rating:5');
  await user.click(screen.getByRole('button', { name: 'Group' }));
  const values = () => screen.getAllByLabelText('Value');
  await user.type(values()[1] as HTMLElement, 'dunes');
  await user.type(values()[2] as HTMLElement, 'marsh');
  expect(says()).toBe('rating:5 (dunes or marsh)');
  await user.click(screen.getByRole('button', { name: 'Remove the group' }));
  expect(says()).toBe('rating:5');
});
