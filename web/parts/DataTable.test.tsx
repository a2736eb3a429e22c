/** @jest-environment ./web/testing/browser.cjs */
import { screen, within } from '@testing-library/react';
import { show } from '../testing/render';
import { DataTable, type Column } from './DataTable';

interface Kite {
  name: string;
  span: number | null;
}
const KITES: readonly Kite[] = [
  { name: 'Rokkaku', span: 180 },
  { name: 'Delta', span: null },
  { name: 'Sled', span: 90 },
];
const COLUMNS: readonly Column<Kite>[] = [
  {
    id: 'name',
    title: 'Name',
    headsRow: true,
    cell: ({ name }, above) => (above ? `${name} after ${above.name}` : name),
  },
  { id: 'span', title: 'Span', isNumber: true, sortBy: ({ span }) => span, cell: ({ span }) => span ?? '–' },
];
const names = () => screen.getAllByRole('rowheader').map(({ textContent }) => textContent);

test('rows stand as they are given until a column is sorted; what has no value comes last either way', async () => {
  const { user } = show(<DataTable label="Kites" rows={KITES} keyOf={({ name }) => name} columns={COLUMNS} />);
  expect(names()).toEqual(['Rokkaku', 'Delta after Rokkaku', 'Sled after Delta']);
  const head = screen.getByRole('columnheader', { name: 'Span' });
  const sort = within(head).getByRole('button');
  await user.click(sort);
  const first = [head.getAttribute('aria-sort'), names()];
  await user.click(sort);
  const second = [head.getAttribute('aria-sort'), names()];
  expect([first, second]).toEqual([
    ['descending', ['Rokkaku', 'Sled after Rokkaku', 'Delta after Sled']],
    ['ascending', ['Sled', 'Rokkaku after Sled', 'Delta after Rokkaku']],
  ]);
  // A column that says nothing to sort by has no button.
  expect(within(screen.getByRole('columnheader', { name: 'Name' })).queryByRole('button')).toBeNull();
});

test('without rows it says so instead', () => {
  show(<DataTable label="Kites" rows={[]} keyOf={String} columns={[]} empty={<p>No kites</p>} />);
  expect(screen.queryByRole('table')).toBeNull();
  expect(screen.getByText('No kites')).toBeTruthy();
});
