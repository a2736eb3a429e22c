/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor, within } from '@testing-library/react';
import { subDays } from 'date-fns';
import { USUAL_FIXITY_PLAN, type DamagedFile, type DriveFixity } from '@stellin/contract/fixity';
import { JOB } from '../testing/fixtures';
import { answering, changesIn, Refused, show } from '../testing/render';
import { FixityCard } from './FixityCard';

const VAULT: DriveFixity = {
  id: '5b8a0c5e-8d3c-4c1c-9a39-6f4a2c9f6a11',
  label: 'Vault 1',
  away: false,
  photos: 1200,
  unread: 0,
  unchanged: 1200,
  ours: 0,
  others: 0,
  damaged: 0,
  missing: 0,
  oldest: subDays(new Date(), 3).toISOString(),
};
const FIELD: DriveFixity = {
  ...VAULT,
  id: '5b8a0c5e-8d3c-4c1c-9a39-6f4a2c9f6a12',
  label: 'Field disk',
  away: true,
  oldest: subDays(new Date(), 40).toISOString(),
};
const BROKEN: DamagedFile = {
  photoId: 7,
  previewVersion: 1,
  path: 'Vault 1/2019/SKM_7.jpg',
  problem: 'its picture is not the one it held',
  provenAt: subDays(new Date(), 1).toISOString(),
  comingBack: false,
  away: false,
  copies: [
    { photoId: 70, path: 'Vault 2/SKM_7.jpg', away: false },
    { photoId: 71, path: 'Field disk/SKM_7.jpg', away: true },
  ],
};

test.each<[string, DriveFixity[], string[]]>([
  ['nothing yet', [], ['No files yet']],
  ['all is well', [VAULT, FIELD], ['No file is known to be damaged', 'about 1 month ago or later']],
  [
    'nothing was read',
    [{ ...VAULT, unread: 1200, unchanged: 0, oldest: null }],
    ['No file was read for damage yet', '1,200 not read yet'],
  ],
  [
    'something is wrong',
    [{ ...VAULT, damaged: 2, others: 30, missing: 1 }],
    ['2 files damaged', 'Show the damaged ones on the Desk', '30 changed by other programs', '1 missing'],
  ],
])('it says how the files are: %s', async (_, drives, texts) => {
  answering({ showFixity: { plan: USUAL_FIXITY_PLAN, drives } });
  show(<FixityCard />, { role: 'viewer' });
  for (const text of texts) expect(await screen.findByText(text, { exact: false })).toBeTruthy();
});

test('a drive is read again, a copy put back, and a file taken as it is', async () => {
  const asked = answering({
    showFixity: { plan: USUAL_FIXITY_PLAN, drives: [{ ...VAULT, damaged: 1 }, FIELD] },
    listDamagedFiles: { files: [BROKEN] },
    readDriveAgain: JOB,
    acceptFile: { done: true },
    apply: { entry: null, job: JOB },
  });
  const { user } = show(<FixityCard />);
  await user.click(await screen.findByRole('button', { name: 'Files by drive …' }));
  const dialog = within(await screen.findByRole('dialog', { name: 'Files by drive' }));
  // A drive that is away can’t be read.
  await user.click(dialog.getByRole('button', { name: 'Read again' }));
  await waitFor(() =>
    expect(asked).toContainEqual(expect.objectContaining({ name: 'readDriveAgain', params: { id: VAULT.id } })),
  );
  expect(dialog.getByRole('link', { name: '1' }).getAttribute('href')).toBe(
    `/desk?q=${encodeURIComponent('drive:"Vault 1" fixity:damaged')}`,
  );
  const damaged = within(await dialog.findByRole('region', { name: 'Damaged files' }));
  await user.click(damaged.getByRole('button', { name: 'Put this copy in its place' }));
  await waitFor(() => expect(changesIn(asked)).toEqual([{ kind: 'putCopyBack', photoId: 7, copyId: 70 }]));
  await user.click(damaged.getByRole('button', { name: 'It is right as it is' }));
  await waitFor(() => expect(asked).toContainEqual(expect.objectContaining({ name: 'acceptFile', params: { id: 7 } })));
});

test('while a copy comes back nothing can be pressed; without one it says so', async () => {
  answering({
    showFixity: { plan: USUAL_FIXITY_PLAN, drives: [{ ...VAULT, damaged: 2 }] },
    listDamagedFiles: {
      files: [
        { ...BROKEN, comingBack: true },
        { ...BROKEN, photoId: 8, copies: [] },
      ],
    },
  });
  const { user } = show(<FixityCard />);
  await user.click(await screen.findByRole('button', { name: 'Files by drive …' }));
  expect(await screen.findByText('A good copy is being put in its place')).toBeTruthy();
  expect(screen.getByText('No other file holds this picture.')).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Put this copy in its place' })).toBeNull();
});

test('the plan is kept by keepers; one that is refused stays as it was typed', async () => {
  let refuses = true;
  const asked = answering({
    showFixity: { plan: USUAL_FIXITY_PLAN, drives: [VAULT] },
    planFixity: () => {
      if (refuses) return new Refused(503, 'databaseAway', 'The database is away');
      return { done: true as const };
    },
  });
  const { user } = show(<FixityCard />, { role: 'keeper' });
  await user.click(await screen.findByRole('button', { name: 'Files by drive …' }));
  const days = await screen.findByLabelText('Each file once in so many days');
  await user.clear(days);
  await user.type(days, '30');
  await user.click(screen.getByRole('button', { name: 'Keep the plan' }));
  await waitFor(() => expect(asked.filter(({ name }) => name === 'planFixity')).toHaveLength(1));
  expect((days as HTMLInputElement).value).toBe('30');
  refuses = false;
  await user.click(screen.getByRole('button', { name: 'Keep the plan' }));
  await waitFor(() =>
    expect(asked.filter(({ name }) => name === 'planFixity').at(-1)).toMatchObject({
      body: { ...USUAL_FIXITY_PLAN, days: 30 },
    }),
  );
  // Once it is kept there is nothing more to keep.
  await waitFor(() =>
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Keep the plan' }).disabled).toBe(true),
  );
});
