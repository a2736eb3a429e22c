/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor, within } from '@testing-library/react';
import type { TeamOverview } from '@stellin/contract/team';
import { PERMISSION_IDS, PRESET_ROLES } from '@stellin/core/accounts/permissions';
import { answering, choose, Refused, show, type Answers } from '../testing/render';
import { TeamScreen } from './TeamScreen';

const account = {
  disabled: false,
  joined: true,
  invitedUntil: null,
  lastUsedAt: null,
  secondFactor: false,
  teams: [] as number[],
};
const TEAM: TeamOverview = {
  accounts: [
    { ...account, id: 1, name: 'mara', displayName: 'Mara Olt' },
    { ...account, id: 2, name: 'elin', displayName: 'Elin Dorsey', teams: [7] },
    { ...account, id: 3, name: 'tove', displayName: 'Tove Lind', joined: false, invitedUntil: '2030-01-01T10:00:00Z' },
    { ...account, id: 4, name: 'old', displayName: 'Nils Ode', disabled: true },
  ],
  roles: [
    { id: 1, preset: 'keeper', name: 'Keeper', permissions: PERMISSION_IDS },
    { id: 2, preset: 'cataloguer', name: 'Cataloguer', permissions: [...PRESET_ROLES.cataloguer.permissions] },
    { id: 3, preset: 'viewer', name: 'Viewer', permissions: ['see'] },
    { id: 9, preset: null, name: 'Volunteer', permissions: ['see', 'describe'] },
  ],
  teams: [{ id: 7, name: 'Saturday', note: 'Comes on Saturdays' }],
  rights: [
    {
      id: 1,
      holder: { kind: 'account', id: 1 },
      roleId: 1,
      place: { kind: 'catalogue' },
      placeName: null,
      project: false,
    },
    {
      id: 2,
      holder: { kind: 'account', id: 2 },
      roleId: 3,
      place: { kind: 'dossier', dossierId: 4 },
      placeName: 'Loans',
      project: false,
    },
    {
      id: 3,
      holder: { kind: 'team', id: 7 },
      roleId: 9,
      place: { kind: 'folder', folderId: 5 },
      placeName: null,
      project: false,
    },
  ],
};
const LINK = { token: 'abc', until: '2030-01-08T10:00:00Z' };

const place = (answers: Answers = {}) => {
  const asked = answering({ showTeam: TEAM, ...answers });
  return { asked, ...show(<TeamScreen />) };
};
const sent = (asked: ReturnType<typeof place>['asked'], name: string) =>
  asked.filter((request) => request.name === name).map(({ params, body }) => ({ params, body }));
const rowOf = async (name: string) => within(await screen.findByRole('row', { name: new RegExp(`^${name}`) }));

test('what everybody may do is said in words, with the team it comes from, and of what is gone too', async () => {
  place();
  const elin = await rowOf('Elin Dorsey');
  expect(elin.getByText('Viewer in the dossier Loans')).toBeTruthy();
  expect(elin.getByText('Volunteer in something that is gone, as Saturday')).toBeTruthy();
  expect((await rowOf('Mara Olt')).getByText('Keeper everywhere')).toBeTruthy();
  const tove = await rowOf('Tove Lind');
  expect([tove.queryByText('nothing yet'), tove.queryByText('invited')]).not.toContain(null);
  expect((await rowOf('Nils Ode')).getByText('disabled')).toBeTruthy();
});

test('an invitation ends with its link, which is shown once; what was typed stays when it is refused', async () => {
  let taken = true;
  const { user, asked } = place({
    inviteAccount: () =>
      taken ? new Refused(409, 'accountExists', 'There is an account “tove” already.') : { id: 8, ...LINK },
  });
  await user.click(screen.getByRole('button', { name: 'Invite somebody …' }));
  await user.type(screen.getByLabelText('Their name, as others see it'), 'Tove Lind');
  await user.type(screen.getByLabelText('Sign-in name'), 'tove');
  await choose(user, screen.getByLabelText('Role in the whole catalogue'), 'None');
  await user.click(screen.getByRole('button', { name: 'Make the link' }));
  await waitFor(() => expect(sent(asked, 'inviteAccount')).toHaveLength(1));
  expect(screen.getByLabelText<HTMLInputElement>('Sign-in name').value).toBe('tove');
  taken = false;
  await user.click(screen.getByRole('button', { name: 'Make the link' }));
  expect((await screen.findByRole<HTMLInputElement>('textbox', { name: 'Link' })).value).toBe(
    `${window.location.origin}/welcome#abc`,
  );
  expect(sent(asked, 'inviteAccount')[1]?.body).toEqual({ name: 'tove', displayName: 'Tove Lind', role: null });
});

test('a role is given in a folder that is found by typing, and a right is taken away', async () => {
  const { user, asked } = place({
    giveRight: { id: 12 },
    takeRight: { done: true },
    listDrives: { drives: [], attached: 0 },
    listFolders: {
      folders: [
        {
          id: 5,
          driveId: '0b9f4c2e-5d3a-4f6b-8c1d-2e3f4a5b6c7d',
          parentId: null,
          name: 'Beach',
          path: '2019/Beach',
          photos: 1,
          photosWithin: 1,
          colour: '',
          note: '',
        },
        {
          id: 6,
          driveId: '0b9f4c2e-5d3a-4f6b-8c1d-2e3f4a5b6c7d',
          parentId: null,
          name: 'Hall',
          path: '2020/Hall',
          photos: 1,
          photosWithin: 1,
          colour: '',
          note: '',
        },
      ],
    },
    listDossiers: { dossiers: [] },
    listSearches: { searches: [] },
  });
  await user.click(await screen.findByRole('button', { name: 'What can be done with Elin Dorsey' }));
  await user.click(await screen.findByRole('menuitem', { name: 'Rights …' }));
  await choose(user, screen.getByLabelText('Role'), 'Volunteer');
  await choose(user, screen.getByLabelText('Where'), 'a folder and what is below it');
  const give = screen.getByRole<HTMLButtonElement>('button', { name: 'Give the role' });
  expect(give.disabled).toBe(true);
  await user.type(screen.getByLabelText('Which one'), 'hall');
  await user.click(await screen.findByRole('option', { name: /2020 › Hall/ }));
  await user.click(give);
  await waitFor(() =>
    expect(sent(asked, 'giveRight')[0]?.body).toEqual({
      holder: { kind: 'account', id: 2 },
      roleId: 9,
      place: { kind: 'folder', folderId: 6 },
    }),
  );
  await user.click(screen.getByRole('button', { name: 'Take away: Viewer in the dossier Loans' }));
  await waitFor(() => expect(sent(asked, 'takeRight')[0]?.params).toEqual({ id: 2 }));
});

test('a role of the team’s own is altered; those that every archive has are not', async () => {
  const { user, asked } = place({ saveRole: { id: 9 } });
  await screen.findByRole('columnheader', { name: /Volunteer/ });
  expect(screen.queryByRole('button', { name: 'What can be done with the role Keeper' })).toBeNull();
  await user.click(screen.getByRole('button', { name: 'What can be done with the role Volunteer' }));
  await user.click(await screen.findByRole('menuitem', { name: 'Change …' }));
  const dialog = within(screen.getByRole('dialog', { name: 'The role Volunteer' }));
  await user.click(dialog.getByRole('checkbox', { name: /^Describe/ }));
  await user.click(dialog.getByRole('checkbox', { name: /^Take in/ }));
  await user.click(dialog.getByRole('button', { name: 'Keep' }));
  await waitFor(() =>
    expect(sent(asked, 'saveRole')[0]?.body).toEqual({ id: 9, name: 'Volunteer', permissions: ['see', 'intake'] }),
  );
});

test('a team is removed only after it was said what goes with it; members come and go', async () => {
  const { user, asked } = place({ saveTeam: { id: 7 }, removeTeam: { done: true } });
  const open = async (item: string) => {
    await user.click(await screen.findByRole('button', { name: 'What can be done with the team Saturday' }));
    await user.click(await screen.findByRole('menuitem', { name: item }));
  };
  await open('Name and members …');
  const dialog = within(screen.getByRole('dialog', { name: 'The team Saturday' }));
  await user.click(dialog.getByRole('checkbox', { name: /^Elin Dorsey/ }));
  await user.click(dialog.getByRole('checkbox', { name: /^Mara Olt/ }));
  await user.click(dialog.getByRole('button', { name: 'Keep' }));
  await waitFor(() => expect(sent(asked, 'saveTeam')[0]?.body).toMatchObject({ id: 7, members: [1] }));
  await open('Remove …');
  expect(screen.getByText('1 person and 1 right', { exact: false })).toBeTruthy();
  expect(sent(asked, 'removeTeam')).toEqual([]);
  await user.click(screen.getByRole('button', { name: 'Remove the team' }));
  await waitFor(() => expect(sent(asked, 'removeTeam')[0]?.params).toEqual({ id: 7 }));
});
