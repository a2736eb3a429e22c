/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor, within } from '@testing-library/react';
import type { Project } from '@stellin/contract/projects';
import { DONE } from '../testing/fixtures';
import { answering, changesIn, choose, show, type Answers } from '../testing/render';
import { ProjectsScreen } from './ProjectsScreen';

const LOAN: Project = {
  id: 1,
  dossierId: 5,
  name: 'Loan to Northmere',
  note: 'Twelve kites',
  colour: 'violet',
  query: 'dossier:"Loan to Northmere"',
  photos: 12,
  starts: '2024-05',
  ends: '2024-11-30',
  fieldSetId: 3,
  templateId: 2,
  ruleId: 4,
  closed: false,
  lacking: [{ part: 'caption', query: 'dossier:"Loan to Northmere" missing:caption', photos: 7 }],
};
const PAST: Project = {
  ...LOAN,
  id: 2,
  dossierId: 6,
  name: 'Kites over Kessel',
  closed: true,
  starts: '',
  lacking: [],
};
const entry = { required: true, help: '', initial: '', choices: [], branch: null, offered: [] };
const prepared = {
  fieldSets: [
    {
      id: 3,
      name: 'Loans',
      entries: [
        { ...entry, target: 'custom:Insurance value', kind: 'number' },
        { ...entry, target: 'custom:Condition', kind: 'choice', offered: ['Good', 'Worn'] },
      ],
    },
  ],
  templates: [
    { id: 2, name: 'Loan', note: '', edits: [], termIds: [], terms: [], shared: true, mine: false, mayChange: true },
  ],
  rules: [{ id: 4, name: 'Ready to lend', query: '', requires: ['caption'], lacking: [] }],
};
const dossier = (id: number, name: string, parentId: number | null, photos: number) => ({
  ...{ id, name, parentId, photos, path: name, query: `dossier:"${name}"`, note: '', colour: '', cover: null },
  pinned: false,
});
const team = {
  accounts: [
    {
      id: 1,
      name: 'keeper',
      displayName: 'The keeper',
      disabled: false,
      joined: true,
      invitedUntil: null,
      lastUsedAt: null,
      secondFactor: false,
      teams: [],
    },
    {
      id: 2,
      name: 'runa',
      displayName: 'Runa Falk',
      disabled: false,
      joined: true,
      invitedUntil: null,
      lastUsedAt: null,
      secondFactor: false,
      teams: [],
    },
  ],
  roles: [{ id: 2, preset: 'cataloguer', name: 'Cataloguer', permissions: ['see', 'describe'] }],
  teams: [{ id: 7, name: 'Volunteers', note: '' }],
  rights: [
    {
      id: 9,
      holder: { kind: 'team', id: 7 },
      roleId: 2,
      place: { kind: 'dossier', dossierId: 5 },
      placeName: 'Loan to Northmere',
      project: true,
    },
  ],
};

const place = (answers: Answers = {}, role: 'keeper' | 'cataloguer' = 'keeper') => {
  const asked = answering({
    listProjects: { projects: [LOAN, PAST] },
    showPrepared: prepared,
    listDossiers: { dossiers: [dossier(5, LOAN.name, null, 12), dossier(8, 'For the catalogue', 5, 4)] },
    listSearches: { searches: [] },
    showTeam: team,
    giveRight: { id: 10 },
    takeRight: {},
    apply: DONE,
    ...answers,
  });
  return { asked, changes: () => changesIn(asked), ...show(<ProjectsScreen />, { role }) };
};

test('a project says what it asks for, what is lacking, what lies in it and who works on it', async () => {
  place();
  expect(await screen.findByRole('heading', { name: 'Loan to Northmere' })).toBeTruthy();
  expect(screen.getByText('2024-05 – 2024-11-30 · Twelve kites')).toBeTruthy();
  const fields = await screen.findByRole('table', { name: 'Fields of the project' });
  expect(within(fields).getByRole('row', { name: 'Insurance value Number yes' })).toBeTruthy();
  expect(within(fields).getByRole('row', { name: 'Condition One of its choices Good, Worn yes' })).toBeTruthy();
  expect(screen.getByRole('link', { name: /^Without caption\s*7/ }).getAttribute('href')).toBe(
    `/desk?q=${encodeURIComponent('dossier:"Loan to Northmere" missing:caption')}`,
  );
  expect(await screen.findByRole('link', { name: /For the catalogue\s*dossier\s*4/ })).toBeTruthy();
  expect(await screen.findByText('Volunteers · Cataloguer')).toBeTruthy();
  expect(screen.getByText('The template “Loan” fills what photos that come in do not say yet.')).toBeTruthy();
});

test('a new one is made, with a field set of its own', async () => {
  const { user, changes } = place();
  await user.click(await screen.findByRole('button', { name: 'New …' }));
  await user.type(screen.getByLabelText('Name'), 'Spring show');
  await user.type(screen.getByLabelText('Starts'), 'spring');
  await choose(user, screen.getByLabelText('Rule'), 'Ready to lend');
  await user.click(screen.getByRole('button', { name: 'Make the project' }));
  expect(await screen.findByText(/^Write a year, a month or a day/)).toBeTruthy();
  expect(changes()).toEqual([]);
  await user.clear(screen.getByLabelText('Starts'));
  await user.type(screen.getByLabelText('Starts'), '2025-03');
  await user.click(screen.getByRole('button', { name: 'Make the project' }));
  await waitFor(() => expect(changes()).toHaveLength(1));
  expect(changes()).toMatchObject([
    {
      kind: 'makeProject',
      name: 'Spring show',
      starts: '2025-03',
      fieldSetId: 'new',
      templateId: null,
      ruleId: 4,
      like: null,
    },
  ]);
});

test('one is made like a former one, and closed', async () => {
  const { user, changes } = place();
  await user.click(await screen.findByRole('button', { name: 'What can be done with the project Loan to Northmere' }));
  await user.click(screen.getByRole('menuitem', { name: 'New project like this …' }));
  expect(screen.getByRole('dialog', { name: 'New project like “Loan to Northmere”' })).toBeTruthy();
  await user.type(screen.getByLabelText('Name'), 'Loan to Kiteham');
  await user.click(screen.getByRole('button', { name: 'Make the project' }));
  await waitFor(() => expect(changes()).toHaveLength(1));
  await user.click(screen.getByRole('button', { name: 'What can be done with the project Loan to Northmere' }));
  await user.click(screen.getByRole('menuitem', { name: /^Close it/ }));
  await waitFor(() => expect(changes()).toHaveLength(2));
  expect(changes()).toMatchObject([
    { kind: 'makeProject', name: 'Loan to Kiteham', fieldSetId: 3, templateId: 2, like: 1 },
    { kind: 'closeProject', projectId: 1, closed: true },
  ]);
});

test('members come and go', async () => {
  const { user, asked } = place();
  await choose(user, await screen.findByLabelText('New member'), 'Runa Falk');
  await user.click(screen.getByRole('button', { name: 'Add' }));
  await user.click(screen.getByRole('button', { name: 'No member any more: Volunteers · Cataloguer' }));
  await waitFor(() => expect(asked.some(({ name }) => name === 'takeRight')).toBe(true));
  expect(asked.find(({ name }) => name === 'giveRight')?.body).toEqual({
    holder: { kind: 'account', id: 2 },
    roleId: 2,
    place: { kind: 'dossier', dossierId: 5 },
  });
});

test('who does not settle projects looks at them', async () => {
  place({}, 'cataloguer');
  expect(await screen.findByRole('heading', { name: 'Loan to Northmere' })).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'New …' })).toBeNull();
  expect(screen.queryByRole('button', { name: 'Change …' })).toBeNull();
  expect(screen.queryByText('Members')).toBeNull();
});
