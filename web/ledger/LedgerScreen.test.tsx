/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor, within } from '@testing-library/react';
import { answering, choose, Refused, show, type Asked } from '../testing/render';
import { LedgerScreen } from './LedgerScreen';

const entry = (id: number) => ({
  id,
  at: '2026-06-01T10:00:00.000Z',
  by: 'Ida Brandt',
  title: `Rate ${id}: 1 photo`,
  photos: 1,
  state: id === 149 ? 'undone' : 'done',
  objectId: null,
});

test('entries come page by page, the newest first; each opens what it changed', async () => {
  answering({
    listEntries: ({ query }: Asked) => {
      const { before = 151, limit } = query as { before?: number; limit: number };
      return { entries: Array.from({ length: Math.min(limit, before - 1) }, (_, i) => entry(before - 1 - i)) };
    },
    showEntry: { photos: [], objects: [], standing: { step: null, later: [], laterCount: 0 } },
  });
  const { user } = show(<LedgerScreen />);
  await screen.findByText('Rate 150: 1 photo');
  expect([screen.getAllByRole('row').length, screen.getByText('taken back').closest('tr')?.textContent]).toEqual([
    101,
    expect.stringContaining('Rate 149'),
  ]);
  await user.click(screen.getByRole('button', { name: 'Show earlier' }));
  await screen.findByText('Rate 1: 1 photo');
  expect(screen.queryByRole('button', { name: 'Show earlier' })).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Rate 7: 1 photo' }));
  expect(await screen.findByRole('dialog', { name: 'Rate 7: 1 photo' })).toBeTruthy();
});

test('a ledger that can’t be read is not an empty one', async () => {
  answering({ listEntries: new Refused(503, 'notFinding', 'The database is away.') });
  show(<LedgerScreen />);
  expect((await screen.findByRole('alert')).textContent).toContain('The database is away.');
  expect(screen.queryByText('Nothing was changed yet.')).toBeNull();
});

describe('for who administers', () => {
  const looked = {
    id: 7,
    at: '2026-06-01T10:00:00.000Z',
    kind: 'looked',
    by: 'Ida Brandt',
    about: '',
    address: '10.0.0.7',
    photo: { photoId: 4, name: 'k4.jpg' },
  };
  const IDA = {
    ...{ id: 2, name: 'ida', displayName: 'Ida Brandt', disabled: false, joined: true },
    ...{ invitedUntil: null, lastUsedAt: null, secondFactor: false, teams: [] },
  };
  const refused = { ...looked, id: 6, kind: 'signInRefused', by: '', about: '', photo: null };
  const open = () => {
    const asked = answering({
      listEntries: { entries: [entry(3)] },
      listAccess: { entries: [looked, refused] },
      showTeam: { accounts: [IDA], roles: [], teams: [], rights: [] },
      listProjects: { projects: [] },
      listDrives: { drives: [] },
      showAccessPolicy: { leftOut: ['refused'], keepDays: null },
      setAccessPolicy: { done: true },
    });
    return { asked, ...show(<LedgerScreen />, { role: 'keeper' }) };
  };
  const lastQuery = (asked: ReturnType<typeof open>['asked'], name: string) =>
    asked.findLast((request) => request.name === name)?.query;

  test('entries are those of a person, a kind of work, words and days', async () => {
    const { user, asked } = open();
    await screen.findByText('Rate 3: 1 photo');
    await choose(user, await screen.findByLabelText('By whom'), 'Ida Brandt');
    await choose(user, screen.getByLabelText('What kind of work'), 'Describe');
    await user.type(screen.getByLabelText('From'), '2026-06-01');
    await user.type(screen.getByLabelText('Words of the entry'), 'kite');
    await waitFor(() =>
      expect(lastQuery(asked, 'listEntries')).toMatchObject({
        accountId: 2,
        work: 'describe',
        from: '2026-06-01',
        containing: 'kite',
      }),
    );
    await user.click(screen.getByRole('button', { name: 'Show all' }));
    expect(screen.getByLabelText('By whom').textContent).toBe('by anybody');
    expect(screen.queryByRole('button', { name: 'Show all' })).toBeNull();
  });

  test('the record of access stands beside the changes, and what is recorded is settled', async () => {
    const { user, asked } = open();
    await user.click(await screen.findByRole('tab', { name: 'Access' }));
    const row = await screen.findByRole('row', { name: /Ida Brandt Looked at large k4\.jpg 10\.0\.0\.7/ });
    expect(within(row).getByRole('link', { name: 'k4.jpg' }).getAttribute('href')).toBe('/desk?q=name%3Ak4.jpg');
    await choose(user, screen.getByLabelText('What was recorded'), 'Sign-in refused');
    await waitFor(() => expect(lastQuery(asked, 'listAccess')).toMatchObject({ kind: 'signInRefused' }));
    await user.click(screen.getByRole('button', { name: 'What can be done with the ledger' }));
    await user.click(screen.getByRole('menuitem', { name: 'What of access is recorded …' }));
    expect((await screen.findByRole<HTMLInputElement>('checkbox', { name: 'Was refused' })).ariaChecked).not.toBe(
      'true',
    );
    await user.click(screen.getByRole('checkbox', { name: 'Looked at large' }));
    await choose(user, screen.getByLabelText('It is kept'), 'two years');
    await user.click(screen.getByRole('button', { name: 'Keep this' }));
    await waitFor(() =>
      expect(asked.find(({ name }) => name === 'setAccessPolicy')?.body).toEqual({
        leftOut: ['refused', 'looked'],
        keepDays: 730,
      }),
    );
  });
});

test('who does not administer reads what was changed, and nothing of who looked', async () => {
  answering({ listEntries: { entries: [entry(3)] }, listProjects: { projects: [] }, listDrives: { drives: [] } });
  show(<LedgerScreen />, { role: 'cataloguer' });
  await screen.findByText('Rate 3: 1 photo');
  expect(screen.queryByRole('tab', { name: 'Access' })).toBeNull();
  expect(screen.queryByLabelText('By whom')).toBeNull();
});
