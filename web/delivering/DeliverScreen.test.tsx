/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor, within } from '@testing-library/react';
import { copySettings, type Delivery, type DeliveryPlan, type Preset } from '@stellin/contract/delivering';
import type { Drive } from '@stellin/contract/drives';
import { answering, changesIn, choose, show, type Answers, type Asked } from '../testing/render';
import { DeliverScreen } from './DeliverScreen';

const PLAN: DeliveryPlan = {
  photos: 2,
  bytes: 3_000_000,
  private: 1,
  away: 0,
  problems: 0,
  renamed: 1,
  problem: null,
  copies: [
    {
      photoId: 1,
      original: 'Vault/a.jpg',
      path: 'a.jpg',
      width: 2400,
      height: 1600,
      bytes: 1_500_000,
      away: false,
      problem: null,
      lacks: ['copyrightNotice'],
      previewVersion: 0,
    },
    {
      photoId: 2,
      original: 'Vault/b/a.jpg',
      path: 'a-2.jpg',
      width: 2400,
      height: 1600,
      bytes: 1_500_000,
      away: false,
      problem: null,
      lacks: [],
      previewVersion: 0,
    },
  ],
};
const PRESET: Preset = {
  id: 4,
  version: 2,
  name: 'Web page',
  note: '',
  shared: true,
  mine: true,
  settings: copySettings.parse({ format: 'webp', quality: 70 }),
};
const DELIVERY: Delivery = {
  id: '0b9c8f4e-7d57-4f5e-9a51-3d7c2e6c1a10',
  title: '2 photos for Ida',
  kind: 'copies',
  at: '2026-03-01T10:00:00Z',
  by: 'The keeper',
  recipient: 'Ida',
  reason: 'A talk',
  preset: 'Web page',
  presetVersion: 2,
  target: 'Vault › Deliveries',
  download: false,
  photos: 2,
  written: 1,
  skipped: 0,
  failed: 1,
  bytes: 1_200_000,
  handover: null,
  job: null,
};
const drive: Drive = {
  key: '5d0ab0de-5f0f-4a06-8d1e-2f3fb7bd2f0a',
  id: '5d0ab0de-5f0f-4a06-8d1e-2f3fb7bd2f0a',
  label: 'Out',
  state: 'attached',
  mountPoint: '/out',
  readOnly: false,
  freeBytes: 5_000_000_000,
  copyOf: null,
  photos: 0,
  photoBytes: 0,
  missing: 0,
  capacityBytes: 9_000_000_000,
  note: '',
  readText: false,
  browseAway: false,
  lastSeen: null,
  lastChecked: null,
};
const ANSWERS: Answers = {
  listPresets: { presets: [PRESET] },
  listDeliveries: { deliveries: [DELIVERY], total: 1 },
  listDrives: { drives: [drive] },
  planDelivery: PLAN,
  showDelivery: DELIVERY,
  listDeliveryFiles: {
    files: [
      {
        position: 1,
        photoId: 2,
        original: 'Vault/b/a.jpg',
        path: 'a-2.jpg',
        bytes: null,
        state: 'failed',
        problem: 'its file is not where it was',
        previewVersion: 0,
      },
    ],
    total: 1,
  },
  deliver: DELIVERY,
  retryDelivery: DELIVERY,
};
const AT = '/deliver?q=drive:Vault&sort=name';
beforeEach(() => localStorage.clear());

test('names, sizes and what photos lack are shown before anything leaves', async () => {
  const asked = answering(ANSWERS);
  show(<DeliverScreen />, { at: AT });
  const table = await screen.findByRole('table', { name: 'Photos that leave' });
  expect(within(table).getByText('a-2.jpg')).toBeTruthy();
  expect(within(table).getByText('copyright notice')).toBeTruthy();
  expect(screen.getByText(/1 photo marked private stays · 1 get a number/)).toBeTruthy();
  expect(asked.find(({ name }) => name === 'planDelivery')?.body).toMatchObject({
    selection: { query: 'drive:Vault' },
    sort: 'name',
    settings: { format: 'jpeg' },
  });
});

test('settings are those of a preset, are changed and kept, and copies go to a folder for somebody', async () => {
  const asked = answering({
    ...ANSWERS,
    apply: { entry: { id: 1, at: '', by: '', title: 'Done', photos: 0, state: 'done', objectId: 4 }, job: null },
  });
  const { user } = show(<DeliverScreen />, { at: AT });
  await user.click(await screen.findByRole('button', { name: 'Web page' }));
  await choose(user, screen.getByLabelText('Made as'), 'PNG');
  expect(await screen.findByText('· changed')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'More for Web page' }));
  await user.click(await screen.findByRole('menuitem', { name: 'Keep the present settings in it' }));
  await waitFor(() =>
    expect(changesIn(asked)).toMatchObject([{ kind: 'savePreset', presetId: 4, settings: { format: 'png' } }]),
  );
  await choose(user, screen.getByLabelText('Goes to'), 'Out (5.0 GB free)');
  await user.clear(screen.getByLabelText('Into the folder'));
  await user.type(screen.getByLabelText('Into the folder'), '/to Ida/');
  await user.type(screen.getByLabelText('For whom'), 'Ida');
  await user.type(screen.getByLabelText('Why'), 'A talk');
  await user.click(screen.getByRole('button', { name: 'Deliver 2 photos' }));
  await waitFor(() =>
    expect(asked.find(({ name }) => name === 'deliver')?.body).toMatchObject({
      settings: { kind: 'copies', format: 'png', quality: 70 },
      presetId: 4,
      recipient: 'Ida',
      reason: 'A talk',
      target: { kind: 'drive', driveId: drive.id, folder: 'to Ida' },
    }),
  );
});

test('photos are handed over to a program, and what came back is looked up', async () => {
  const handover = { folder: '/exchange/a', program: 'Retouch', outcome: null, closed: false, back: 1, waiting: 1 };
  const asked = answering({
    ...ANSWERS,
    listPrograms: { folder: '/programs', programs: ['Retouch'] },
    deliver: { ...DELIVERY, handover },
    showDelivery: { ...DELIVERY, handover },
    listReturned: { files: [], total: 0 },
  });
  const { user } = show(<DeliverScreen />, { at: AT });
  await screen.findByRole('table', { name: 'Photos that leave' });
  await choose(user, screen.getByLabelText('Goes to'), 'Retouch');
  await user.click(screen.getByRole('button', { name: 'Hand over 2 photos' }));
  expect(await screen.findByText(/Nothing has come back yet/)).toBeTruthy();
  expect(asked.find(({ name }) => name === 'deliver')?.body).toMatchObject({
    target: { kind: 'handover', program: 'Retouch' },
  });
  await user.click(screen.getByRole('button', { name: 'Went out' }));
  expect(await screen.findByText('its file is not where it was')).toBeTruthy();
});

test('a table has the columns that are chosen, in their order', async () => {
  const asked = answering({ ...ANSWERS, deliver: { ...DELIVERY, kind: 'table' } });
  const { user } = show(<DeliverScreen />, { at: AT });
  await user.click(await screen.findByRole('tab', { name: 'Table' }));
  await choose(user, screen.getByLabelText('Columns'), 'Rating');
  await user.click(screen.getByRole('button', { name: 'Rating: earlier' }));
  await user.click(screen.getByRole('button', { name: 'Without Taken' }));
  await choose(user, screen.getByLabelText('Made as'), 'JSON Lines');
  await user.click(await screen.findByRole('button', { name: 'Download 2 photos' }));
  await waitFor(() => {
    const sent = asked.find(({ name }) => name === 'deliver');
    expect(sent).toBeDefined();
    const { settings, target } = (sent as Asked).body as { settings: { columns: string[] }; target: unknown };
    expect(settings).toMatchObject({ kind: 'table', format: 'jsonl' });
    expect(settings.columns.slice(-2)).toEqual(['rating', 'field:city']);
    expect(settings.columns).not.toContain('taken');
    expect(target).toEqual({ kind: 'download' });
  });
});

test('what became of a delivery is looked up, and what failed is tried again', async () => {
  const asked = answering(ANSWERS);
  const { user } = show(<DeliverScreen />);
  await user.click(await screen.findByRole('button', { name: /^2 photos for Ida/ }));
  expect(await screen.findByText(/with the preset “Web page” \(version 2\)/)).toBeTruthy();
  expect(await screen.findByText('its file is not where it was')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: '1 failed' }));
  await waitFor(() =>
    expect(asked.filter(({ name }) => name === 'listDeliveryFiles').at(-1)?.query).toMatchObject({ state: 'failed' }),
  );
  await user.click(screen.getByRole('button', { name: 'Try again' }));
  await waitFor(() => expect(asked.some(({ name }) => name === 'retryDelivery')).toBe(true));
});
