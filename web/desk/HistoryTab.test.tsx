/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import type { Photo } from '@stellin/contract/photos';
import { answering, Refused, show } from '../testing/render';
import { HistoryTab } from './HistoryTab';
import { detailsOf, JOB } from '../testing/fixtures';

// What of a photo the tab looks at.
const PHOTO = { id: 4, name: 'k4.jpg' } as Photo;
const entry = {
  id: 9,
  at: '2026-06-01T10:00:00.000Z',
  by: 'Ida Brandt',
  title: 'Rate 5: 3 photos',
  photos: 3,
  state: 'done',
  objectId: null,
};
const VERSIONS = [
  { writtenAt: '2026-06-02T10:00:00.000Z', targets: ['file', 'sidecar'], keptBytes: 1200 },
  { writtenAt: '2026-06-01T10:00:00.000Z', targets: ['file'], keptBytes: 900 },
];

test('it says of which photo it speaks, and an entry opens what it did to that one', async () => {
  const asked = answering({
    listEntries: { entries: [entry] },
    listVersions: { versions: [] },
    showEntry: {
      photos: [{ photoId: 4, name: 'k4.jpg', previewVersion: 0, what: 'Rating', before: '1', after: '5' }],
      objects: [],
      standing: { step: null, later: [], laterCount: 0 },
    },
  });
  const { user } = show(<HistoryTab photo={PHOTO} count={3} />);
  expect((await screen.findByText(/^What was done to/)).textContent).toBe(
    'What was done to k4.jpg, the one in focus of 3 photos that are chosen',
  );
  await user.click(await screen.findByRole('button', { name: 'Rate 5: 3 photos' }));
  expect(await screen.findByText(/one of 3 photos:/)).toBeTruthy();
  expect(asked.find(({ name }) => name === 'showEntry')).toMatchObject({ params: { id: 9 }, query: { photoId: 4 } });
});

test('the last write is taken back by keepers only', async () => {
  const asked = answering({
    listEntries: { entries: [] },
    listVersions: { versions: VERSIONS },
    takeBack: { ...JOB, kind: 'takeBack', title: 'Take back' },
  });
  const { user, unmount } = show(<HistoryTab photo={PHOTO} count={1} />);
  await screen.findByText('file and sidecar, 1.2 KB kept');
  await user.click(screen.getByRole('button', { name: 'Take back' }));
  await waitFor(() =>
    expect(asked.find(({ name }) => name === 'takeBack')?.body).toEqual({
      selection: { query: null, plus: [4], minus: [] },
    }),
  );
  unmount();
  show(<HistoryTab photo={PHOTO} count={1} />, { role: 'cataloguer' });
  await screen.findByText('file and sidecar, 1.2 KB kept');
  expect(screen.queryByRole('button', { name: 'Take back' })).toBeNull();
});

test('a history that can’t be read is not an empty one', async () => {
  answering({ listEntries: new Refused(503, 'notFinding', 'The database is away.'), listVersions: { versions: [] } });
  show(<HistoryTab photo={PHOTO} count={1} />);
  expect((await screen.findByRole('alert')).textContent).toContain('The database is away.');
  expect(screen.queryByText(/Nothing was changed/)).toBeNull();
});

test('the history begins with how the photo came, and who administers reads who looked at it', async () => {
  const look = {
    id: 1,
    at: '2026-06-03T10:00:00.000Z',
    kind: 'looked',
    by: 'Nils Ode',
    about: '',
    address: '',
    photo: null,
  };
  answering({
    listEntries: { entries: [entry] },
    listVersions: { versions: [] },
    showPhoto: detailsOf(4, { takenIn: { accession: 12, at: '2026-05-01T10:00:00.000Z', by: 'The keeper' } }),
    listAccess: { entries: [look] },
  });
  const { unmount } = show(<HistoryTab photo={PHOTO} count={1} />, { role: 'keeper' });
  const link = await screen.findByRole('link', { name: 'Taken in with accession 12' });
  expect(link.getAttribute('href')).toBe('/desk?q=accession%3A12');
  expect((await screen.findByRole('region', { name: 'Looked at large' })).textContent).toContain('Nils Ode');
  unmount();
  show(<HistoryTab photo={PHOTO} count={1} />, { role: 'cataloguer' });
  await screen.findByRole('link', { name: 'Taken in with accession 12' });
  expect(screen.queryByRole('region', { name: 'Looked at large' })).toBeNull();
});
