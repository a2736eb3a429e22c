/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import type { Selection } from '@stellin/contract/photos';
import { answering, show } from '../testing/render';
import { PocketRow } from './PocketRow';

const pocket = (ids: number[], selection: Selection | null) => {
  const asked = answering({
    ...{ showPocket: { ids, query: ids.length ? `photos:${ids.join(',')}` : '' } },
    ...{ changePocket: { done: true }, emptyPocket: { done: true } },
  });
  const shown: string[] = [];
  const view = show(<PocketRow query="" show={({ query }) => shown.push(query)} selection={selection} />);
  return { asked, shown, ...view };
};
const clicked = (...plus: number[]): Selection => ({ query: null, minus: [], plus });

test('the key puts the chosen photos in, and takes them out where all are in it', async () => {
  const first = pocket([4], clicked(4, 5));
  await screen.findByText('1');
  await first.user.keyboard('+');
  await waitFor(() =>
    expect(first.asked.find(({ name }) => name === 'changePocket')?.body).toEqual({
      selection: clicked(4, 5),
      way: 'in',
    }),
  );
  first.unmount();
  const second = pocket([4, 5], clicked(4));
  await screen.findByText('2');
  await second.user.keyboard('+');
  await waitFor(() =>
    expect(second.asked.find(({ name }) => name === 'changePocket')?.body).toEqual({
      selection: clicked(4),
      way: 'out',
    }),
  );
});

test('it is opened like a source, and emptied by its menu', async () => {
  const { user, shown, asked } = pocket([4, 5], null);
  await screen.findByText('2');
  await user.click(screen.getByText('Your pocket'));
  expect(shown).toEqual(['photos:4,5']);
  await user.click(screen.getAllByRole('button', { name: 'Your pocket' }).at(-1)!);
  await user.click(await screen.findByRole('menuitem', { name: 'Empty it' }));
  await waitFor(() => expect(asked.some(({ name }) => name === 'emptyPocket')).toBe(true));
});
