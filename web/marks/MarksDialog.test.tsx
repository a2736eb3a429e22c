/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import type { Mark } from '@stellin/contract/marks';
import { DONE } from '../testing/fixtures';
import { answering, changesIn, choose, show } from '../testing/render';
import { MarksDialog } from './MarksDialog';

const MARKS: Mark[] = [
  { id: 1, name: 'Checked', letter: 'c', colour: 'green', photos: 4 },
  { id: 2, name: 'Print', letter: 'r', colour: 'red', photos: 1 },
];

test('a mark gets a letter of its name that no other has, and another if one wants', async () => {
  const asked = answering({ listMarks: { marks: MARKS }, apply: DONE });
  const { user } = show(<MarksDialog onClose={() => undefined} />);
  await user.type(await screen.findByLabelText('A new mark'), 'Cover');
  await user.click(screen.getByRole('button', { name: 'Define' }));
  await waitFor(() => expect(changesIn(asked)).toHaveLength(1));
  const [made] = changesIn(asked) as { letter: string }[];
  expect(made).toMatchObject({ kind: 'defineMark', markId: null, name: 'Cover', colour: 'green' });
  expect(['c', 'r']).not.toContain(made?.letter);
});

test('a mark is changed and removed by a keeper', async () => {
  const asked = answering({ listMarks: { marks: MARKS }, apply: DONE });
  const { user } = show(<MarksDialog onClose={() => undefined} />);
  await user.click((await screen.findAllByRole('button', { name: 'Change' }))[1] as HTMLElement);
  expect(screen.getByLabelText<HTMLInputElement>('Another name for “Print”').value).toBe('Print');
  await choose(user, screen.getByLabelText('Colour'), 'blue');
  await user.click(screen.getByRole('button', { name: 'Keep' }));
  await waitFor(() => expect(changesIn(asked)).toHaveLength(1));
  expect(changesIn(asked)[0]).toMatchObject({ markId: 2, name: 'Print', letter: 'r', colour: 'blue' });
  await user.click(screen.getAllByRole('button', { name: 'Remove' })[0] as HTMLElement);
  await waitFor(() => expect(changesIn(asked)[1]).toEqual({ kind: 'removeMark', markId: 1 }));
});

test('others see the marks and change nothing', async () => {
  answering({ listMarks: { marks: MARKS } });
  show(<MarksDialog onClose={() => undefined} />, { role: 'cataloguer' });
  expect(await screen.findByText('4 photos')).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Remove' })).toBeNull();
  expect(screen.queryByLabelText('A new mark')).toBeNull();
});
