/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor, within } from '@testing-library/react';
import { DONE, doubleOf } from '../testing/fixtures';
import { answering, changesIn, show, type Asked } from '../testing/render';
import { DoublesScreen } from './DoublesScreen';

const SAME = [
  [doubleOf(1, { terms: 4 }), doubleOf(2, { away: true }), doubleOf(3)],
  [doubleOf(8), doubleOf(9)],
];
const ALIKE = [[doubleOf(20), doubleOf(21)]];
const answers = {
  listDoubles: ({ query }: Asked) => ({
    groups: (query as { kind: string }).kind === 'same' ? SAME : ALIKE,
    next: null,
  }),
  countDoubles: { groups: 2, surplus: 3, bytes: 6_000_000 },
  apply: DONE,
};

test('one of a group is kept and the others trashed; which, is said before', async () => {
  const asked = answering(answers);
  const { user } = show(<DoublesScreen />);
  const group = await screen.findByRole('radiogroup', { name: 'Keep of 2 photos' });
  await user.click(within(group).getByText('SKM_9.jpg'));
  await user.click(screen.getByRole('button', { name: 'Keep SKM_9.jpg, trash the other' }));
  await waitFor(() =>
    expect(changesIn(asked)).toMatchObject([{ kind: 'trashFiles', selection: { query: null, plus: [8] } }]),
  );
  expect(screen.getByText(/2 pictures more than once/)).toBeTruthy();
});

test('what can’t be reached is not trashed, and is said', async () => {
  const asked = answering(answers);
  const { user } = show(<DoublesScreen />);
  const group = await screen.findByRole('radiogroup', { name: 'Keep of 3 photos' });
  const card = group.closest('li') as HTMLElement;
  expect(within(card).getByText('1 photo can’t be reached now')).toBeTruthy();
  await user.click(within(card).getByRole('button', { name: /^Keep SKM_1\.jpg/ }));
  await waitFor(() => expect(changesIn(asked)).toMatchObject([{ selection: { plus: [3] } }]));
});

test('pictures that look alike are bundled or told apart', async () => {
  const asked = answering(answers);
  const { user } = show(<DoublesScreen />, { role: 'cataloguer' });
  await user.click(screen.getByRole('tab', { name: 'Look alike' }));
  await user.click(await screen.findByRole('button', { name: 'They are different pictures' }));
  await user.click(screen.getByRole('button', { name: 'Bundle them: they belong together' }));
  await waitFor(() =>
    expect(changesIn(asked)).toMatchObject([
      { kind: 'tellApart', photoIds: [20, 21] },
      { kind: 'bundlePhotos', selection: { plus: [20, 21] } },
    ]),
  );
});

test('a cataloguer tells pictures apart, and trashes none', async () => {
  answering(answers);
  const { user } = show(<DoublesScreen />, { role: 'cataloguer' });
  await screen.findByRole('radiogroup', { name: 'Keep of 2 photos' });
  expect(screen.queryByRole('button', { name: /^Keep/ })).toBeNull();
  await user.click(screen.getByRole('tab', { name: 'Look alike' }));
  expect(await screen.findByRole('button', { name: 'They are different pictures' })).toBeTruthy();
});

test('a viewer sees them and is offered nothing', async () => {
  answering(answers);
  show(<DoublesScreen />, { role: 'viewer' });
  await screen.findByRole('radiogroup', { name: 'Keep of 2 photos' });
  expect(screen.queryByRole('button', { name: /^Keep/ })).toBeNull();
});
