/** @jest-environment ./web/testing/browser.cjs */
// A drive in Intake: what it is like, what is on it, taking it in, copying from it, its label and note.

import { screen, waitFor } from '@testing-library/react';
import type { PresetRole } from '@stellin/core/accounts/permissions';
import { driveOf, JOB, VAULT } from '../testing/fixtures';
import { answering, choose, Refused, show, type Answers } from '../testing/render';
import { DriveCard } from './DriveCard';

const CARD = driveOf({ key: 'card-1', id: null, label: 'Card 1', state: 'new', photos: 0, photoBytes: 0 });
const survey = {
  files: 30,
  bytes: 90_000_000,
  kinds: { jpeg: 20, dng: 10 },
  folders: [
    { path: '', photos: 2 },
    { path: 'DCIM', photos: 8 },
    { path: 'DCIM/101', photos: 20 },
  ],
  complete: true,
};

function card(drive = CARD, { role = 'keeper' as PresetRole, missing = 0, answers = {} as Answers } = {}) {
  const asked = answering({
    lookInto: survey,
    takeIn: JOB,
    copyIn: JOB,
    planCopy: {
      files: 30,
      bytes: 90_000_000,
      examples: [{ before: 'DCIM/a.jpg', after: '2019/a.jpg' }],
      problem: null,
    },
    listDrives: { drives: [driveOf(), drive] },
    listTracked: { folders: [] },
    listTrash: { drives: [], removed: 0 },
    scanState: { looked: 0, waiting: 0, faces: 0, vectors: 0, exceptions: [] },
    showPrepared: { fieldSets: [], templates: [], rules: [] },
    changeDrive: { done: true },
    separateDrive: { done: true },
    browseAway: { done: true },
    track: { done: true },
    ...answers,
  });
  const view = show(<DriveCard drive={drive} missing={missing} onTakeIn={() => undefined} />, { role });
  const bodies = (name: string) => asked.flatMap((each) => (each.name === name ? [each.body] : []));
  return { ...view, asked, bodies };
}

test('a new drive says what is on it, and is taken in but for what is left aside', async () => {
  const { user, bodies } = card();
  expect(await screen.findByText(/20 JPEG/)).toBeTruthy();
  await choose(user, screen.getByLabelText('Folder'), 'DCIM');
  expect(screen.getByRole('button', { name: 'Take in 28 photos' })).toBeTruthy();
  await user.click(screen.getByRole('checkbox', { name: 'with sub-folders' }));
  await user.click(screen.getByText('Leave aside …'));
  await user.click(screen.getByRole('checkbox', { name: /^all DNG/ }));
  await user.type(screen.getByLabelText('Files and folders like'), 'proofs, *_web.jpg');
  await user.click(screen.getByRole('button', { name: 'Take in 8 photos' }));
  await waitFor(() =>
    expect(bodies('takeIn')).toEqual([
      {
        driveKey: 'card-1',
        folder: 'DCIM',
        subFolders: false,
        leaveOut: ['dng'],
        ignore: ['proofs', '*_web.jpg'],
        missingOnly: false,
        templateId: null,
      },
    ]),
  );
});

test('a catalogued drive is looked through for what changed, and for what the catalogue misses', async () => {
  const { user, bodies } = card(driveOf({ missing: 3 }), { missing: 5 });
  expect(screen.getByRole('link', { name: '3 photos missing' })).toBeTruthy();
  await user.click(await screen.findByRole('button', { name: 'Look here for 5 missing photos' }));
  await waitFor(() => expect(bodies('takeIn')).toMatchObject([{ driveKey: VAULT, missingOnly: true }]));
  await user.click(screen.getByRole('button', { name: 'Look for new and changed photos' }));
  await waitFor(() => expect(bodies('takeIn')).toMatchObject([{ missingOnly: true }, { missingOnly: false }]));
});

test('what is copied in goes to a drive that can be written to; the plan says what it would do', async () => {
  const { user, bodies } = card();
  await user.click(await screen.findByRole('button', { name: 'Copy in …' }));
  expect(await screen.findByText(/30 photos, 90 MB/)).toBeTruthy();
  await user.clear(screen.getByLabelText('Into the folder'));
  await user.type(screen.getByLabelText('Into the folder'), 'loans/{{year}');
  await user.click(screen.getByRole('checkbox', { name: /pass over pictures/ }));
  await user.click(await screen.findByRole('button', { name: 'Copy in 30 photos' }));
  await waitFor(() =>
    expect(bodies('copyIn')).toMatchObject([
      { driveKey: 'card-1', toDriveId: VAULT, toFolder: 'loans/{year}', skipKnown: false, secondDriveId: null },
    ]),
  );
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
});

test('a plan that can’t be carried out says why and starts nothing', async () => {
  const problem = 'Vault 1 has room for 400 MB only.';
  const { user } = card(CARD, { answers: { planCopy: { files: 30, bytes: 9e9, examples: [], problem } } });
  await user.click(await screen.findByRole('button', { name: 'Copy in …' }));
  expect((await screen.findByRole('alert')).textContent).toBe(problem);
  expect(screen.getByRole<HTMLButtonElement>('button', { name: /^Copy in 30/ }).disabled).toBe(true);
});

test('its keeper gives it another label and a note; without a label nothing is kept', async () => {
  const { user, bodies } = card(driveOf({ note: 'In the safe' }));
  await user.click(screen.getByRole('button', { name: 'Change label or note' }));
  await user.clear(screen.getByLabelText('Label'));
  await user.click(screen.getByRole('button', { name: 'Keep' }));
  expect(await screen.findByText('This is needed.')).toBeTruthy();
  await user.type(screen.getByLabelText('Label'), 'Vault A');
  await user.type(screen.getByLabelText(/^Note/), ', shelf 2{Enter}');
  await waitFor(() => expect(bodies('changeDrive')).toEqual([{ label: 'Vault A', note: 'In the safe, shelf 2' }]));
});

test('a copy of a drive stays a copy until its keeper makes it a drive of its own', async () => {
  const copy = driveOf({
    id: null,
    state: 'copy',
    copyOf: 'Vault 1',
    label: 'Vault 1 copy',
    mountPoint: '/media/copy',
  });
  const { user, asked, unmount } = card(copy);
  await user.click(screen.getByRole('button', { name: /a drive of its own/ }));
  await waitFor(() =>
    expect(asked.find(({ name }) => name === 'separateDrive')?.body).toEqual({ mountPoint: '/media/copy' }),
  );
  unmount();
  card(copy, { role: 'cataloguer' });
  expect(screen.getByText(/carries the marker of “Vault 1”/)).toBeTruthy();
  expect(screen.queryByRole('button', { name: /a drive of its own/ })).toBeNull();
});

test('of a drive that is away nothing is asked; a viewer takes nothing in', async () => {
  const away = card(driveOf({ state: 'away', lastSeen: '2026-05-01T10:00:00Z' }));
  expect(screen.getByText(/writes wait until it is attached/)).toBeTruthy();
  expect(away.asked.some(({ name }) => name === 'lookInto')).toBe(false);
  away.unmount();
  const viewer = card(CARD, { role: 'viewer' });
  expect(screen.queryByRole('button', { name: /^Take in/ })).toBeNull();
  expect(viewer.asked.some(({ name }) => name === 'lookInto')).toBe(false);
});

test('a drive that can’t be read says so', async () => {
  card(CARD, { answers: { lookInto: new Refused(409, 'driveGone', 'Card 1 is not attached any more.') } });
  expect(await screen.findByText('Card 1 is not attached any more.')).toBeTruthy();
});
