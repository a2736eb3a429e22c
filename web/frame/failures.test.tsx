/** @jest-environment ./web/testing/browser.cjs */
import { onlineManager, useQuery } from '@tanstack/react-query';
import { screen, waitFor } from '@testing-library/react';
import { ledgerRoutes } from '@stellin/contract/ledger';
import { call } from '../foundation/api';
import { ScreenBoundary } from './Broken';
import { ServerAway } from './ServerAway';
import { answering, Refused, show } from '../testing/render';
import { Queried } from '../parts/Queried';

function Next() {
  const query = useQuery({ queryKey: ['ledger', 'next'], queryFn: () => call(ledgerRoutes.nextSteps, {}) });
  return (
    <>
      <ServerAway />
      <Queried query={query} pending="reading">
        {({ undo }) => <p>{undo?.title ?? 'nothing to undo'}</p>}
      </Queried>
    </>
  );
}

test('what is read shows as pending, failed with the way to try again, and there', async () => {
  let answers = false;
  answering({
    nextSteps: () =>
      answers ? { undo: { id: 1, title: 'Rate 5: 1 photo' }, redo: null } : new Refused(403, 'notAllowed', 'Not you.'),
  });
  const { user } = show(<Next />);
  expect(screen.getByText('reading')).toBeTruthy();
  expect((await screen.findByRole('alert')).textContent).toContain('Not you.');
  answers = true;
  await user.click(screen.getByRole('button', { name: 'Try again' }));
  expect(await screen.findByText('Rate 5: 1 photo')).toBeTruthy();
  expect(screen.queryByRole('alert')).toBeNull();
});

test('a server that is away is said above the place, and read again from there', async () => {
  let away = true;
  answering({
    nextSteps: () => {
      if (away) throw new Error('connection refused');
      return { undo: null, redo: null };
    },
  });
  const { user } = show(<Next />);
  await waitFor(() => expect(screen.getAllByRole('alert')).toHaveLength(2));
  expect(screen.getAllByRole('alert')[0]?.textContent).toContain('what you typed is still there');
  away = false;
  await user.click(screen.getAllByRole('button', { name: 'Try again' })[0] as HTMLElement);
  expect(await screen.findByText('nothing to undo')).toBeTruthy();
  expect(screen.queryByRole('alert')).toBeNull();
});

test('a browser that believes there is no network asks the server all the same', async () => {
  answering({ nextSteps: { undo: null, redo: null } });
  onlineManager.setOnline(false);
  try {
    show(<Next />);
    expect(await screen.findByText('nothing to undo')).toBeTruthy();
  } finally {
    onlineManager.setOnline(true);
  }
});

test('a screen that breaks says so, and can be tried again', async () => {
  let breaks = true;
  const Screen = () => {
    if (breaks) throw new Error('the kite string snapped');
    return <p>flying</p>;
  };
  const silent = jest.spyOn(console, 'error').mockImplementation(() => undefined);
  const { user } = show(
    <ScreenBoundary>
      <Screen />
    </ScreenBoundary>,
  );
  expect(screen.getByRole('alert').textContent).toContain('the kite string snapped');
  breaks = false;
  await user.click(screen.getByRole('button', { name: 'Try again' }));
  expect(screen.getByText('flying')).toBeTruthy();
  silent.mockRestore();
});
