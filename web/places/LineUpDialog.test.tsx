/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import type { CameraRow } from '@stellin/contract/tracks';
import { DONE } from '../testing/fixtures';
import { answering, changesIn, choose, Refused, show } from '../testing/render';
import { LineUpDialog } from './LineUpDialog';

const SELECTION = { query: 'drive:Vault', minus: [], plus: [] };
const camera = (name: string, first: number, clocks: string[]): CameraRow => ({
  camera: name,
  photos: clocks.map((clock, i) => ({
    ...{ photoId: first + i, name: `${name}-${i + 1}.jpg`, previewVersion: 0 },
    ...{ clock: `2031-06-${clock}`, time: `2031-06-${clock}` },
  })),
});
const M3 = camera('M3', 1, ['01T12:00:00', '01T12:10:00', '01T12:20:00']);
const WREN = camera('Wren', 11, ['01T13:02:00', '02T09:00:00']);
const server = (cameras: CameraRow[], isWhole = true) =>
  answering({ camerasByTime: { cameras, looked: 5, isWhole }, apply: DONE });
const lowerRow = () => screen.findByRole('group', { name: /Photos of Wren/ });

test('two photos of the same moment are picked: the clock is noted and the photos are put right', async () => {
  const asked = server([M3, WREN]);
  const closed = jest.fn();
  const { user } = show(<LineUpDialog selection={SELECTION} onClose={closed} />);
  // They do not meet in time: at first they begin together.
  expect(await screen.findByText(/The clock of Wren was 1 h 2 min ahead/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'M3-2.jpg' }));
  await user.click(screen.getByRole('button', { name: 'Wren-1.jpg' }));
  expect(screen.getByText(/was 52 min ahead \(1 Jun 2031 – 2 Jun 2031\)/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Note it and put photos right' }));
  await waitFor(() => expect(closed).toHaveBeenCalled());
  expect(changesIn(asked)).toEqual([
    {
      ...{ kind: 'saveCameraClock', clockId: null, camera: 'Wren', from: '2031-06-01', until: '2031-06-02' },
      ...{ aheadSeconds: 3120, note: '' },
    },
    { kind: 'putClocksRight', selection: SELECTION },
  ]);
});

test('the lower row is moved by keys, by dragging and by typing; a press that does not move picks', async () => {
  const asked = server([M3, WREN]);
  const { user } = show(<LineUpDialog selection={SELECTION} onClose={() => undefined} />);
  const row = await lowerRow();
  row.focus();
  await user.keyboard('{ArrowRight}{Shift>}{ArrowRight}{/Shift}{PageDown}');
  expect(screen.getByText(/was 59 s ahead/)).toBeTruthy();
  await user.keyboard('{PageUp}{PageUp}');
  expect(screen.getByText(/was 2 h 59 s ahead/)).toBeTruthy();
  const drag = (clientX: number) => ({ target: row, coords: { clientX } });
  await user.pointer([{ keys: '[MouseLeft>]', ...drag(100) }, drag(102)]);
  expect(screen.getByText(/was 2 h 59 s ahead/)).toBeTruthy();
  await user.pointer([drag(400), { keys: '[/MouseLeft]', ...drag(400) }, drag(700)]);
  expect(screen.queryByText(/was 2 h 59 s ahead/)).toBeNull();
  const typed = screen.getByLabelText('It was behind by');
  await user.clear(typed);
  await user.type(typed, '0:05:30{Enter}');
  expect(screen.getByText(/was 5 min 30 s behind/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Only note it' }));
  await waitFor(() => expect(changesIn(asked)).toMatchObject([{ kind: 'saveCameraClock', aheadSeconds: -330 }]));
});

test('one camera alone, none, and twice the same are said; what is not all is told', async () => {
  server([M3], false);
  show(<LineUpDialog selection={SELECTION} onClose={() => undefined} />);
  expect(await screen.findByText(/taken with M3\. Choose photos of two cameras/)).toBeTruthy();
  expect(screen.getByText('The first 5 photos by time are shown.')).toBeTruthy();
});

test('the same camera twice has nothing to be lined up; a refusal leaves the dialog open', async () => {
  const asked = answering({
    camerasByTime: { cameras: [M3, WREN], looked: 5, isWhole: true },
    apply: new Refused(409, 'conflict', 'not now'),
  });
  const closed = jest.fn();
  const { user } = show(<LineUpDialog selection={SELECTION} onClose={closed} />);
  await lowerRow();
  const note = screen.getByRole<HTMLButtonElement>('button', { name: 'Note it and put photos right' });
  await user.click(note);
  await waitFor(() => expect(note.disabled).toBe(false));
  expect(changesIn(asked)).toMatchObject([{ kind: 'saveCameraClock' }]);
  expect(closed).not.toHaveBeenCalled();
  await choose(user, screen.getByLabelText('This one is lined up with it'), 'M3 · 3 photos');
  expect(screen.getByText('Choose two cameras.')).toBeTruthy();
});
