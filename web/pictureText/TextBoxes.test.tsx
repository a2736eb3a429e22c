/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import { DONE, foundTermOf } from '../testing/fixtures';
import { answering, changesIn, Refused, show } from '../testing/render';
import { TextBoxes } from './TextBoxes';

const PLACE = { left: 10, top: 20, width: 400, height: 300 };
const LINE = { text: 'Kite Festival', box: { left: 0.1, top: 0.2, width: 0.5, height: 0.1 }, certainty: 0.9 };
const READ = { state: 'read', problem: '', lines: [LINE] };
const UNREAD = { state: 'unread', problem: '', lines: [] };
const found = { terms: [foundTermOf(7, 'Festival')] };

test('a line stands where it was seen, and is taken as caption or term', async () => {
  const asked = answering({ showPictureText: READ, findTerms: found, apply: DONE });
  const { user } = show(<TextBoxes photoId={4} place={PLACE} />, { role: 'cataloguer' });
  const box = await screen.findByRole('button', { name: 'Kite Festival' });
  expect([box.style.left, box.style.width]).toEqual(['10%', '50%']);
  await user.click(box);
  await user.click(await screen.findByRole('menuitem', { name: 'As caption' }));
  await waitFor(() =>
    expect(changesIn(asked)).toMatchObject([
      { kind: 'setFields', selection: { plus: [4] }, edits: [{ target: 'description', value: 'Kite Festival' }] },
    ]),
  );
  await user.click(box);
  await user.click(await screen.findByRole('menuitem', { name: /^As term “Festival”/ }));
  await waitFor(() => expect(changesIn(asked)[1]).toMatchObject({ kind: 'giveTerms', termIds: [7] }));
});

test('what nobody has read is read on request, and why it can’t be is said', async () => {
  let isFirst = true;
  answering({
    showPictureText: UNREAD,
    readPictureText: () => {
      if (!isFirst) return READ;
      isFirst = false;
      return new Refused(409, 'noPreview', 'There is no picture: the drive “Vault” is away.');
    },
    findTerms: { terms: [] },
  });
  const { user } = show(<TextBoxes photoId={4} place={PLACE} />, { role: 'cataloguer' });
  await user.click(await screen.findByRole('button', { name: 'Read the text' }));
  expect(await screen.findByText(/“Vault” is away/)).toBeTruthy();
  await user.click(await screen.findByRole('button', { name: 'Read the text' }));
  expect(await screen.findByRole('button', { name: 'Kite Festival' })).toBeTruthy();
});

test('who may only look reads what is there and changes nothing', async () => {
  answering({ showPictureText: READ, findTerms: found });
  const { user } = show(<TextBoxes photoId={4} place={PLACE} />, { role: 'viewer' });
  await user.click(await screen.findByRole('button', { name: 'Kite Festival' }));
  expect((await screen.findAllByRole('menuitem')).map(({ textContent }) => textContent)).toEqual(['Copy']);
});

test.each([
  [UNREAD, 'Nobody has read the text in this picture yet.'],
  [{ state: 'read', problem: '', lines: [] }, 'No text is seen in this picture.'],
  [
    { state: 'unreadable', problem: 'the picture breaks off', lines: [] },
    'Its text can’t be read: the picture breaks off.',
  ],
])('of a picture without lines it is said what is known', async (answer, text) => {
  answering({ showPictureText: answer });
  show(<TextBoxes photoId={4} place={PLACE} />, { role: 'viewer' });
  expect((await screen.findByRole('status')).textContent).toBe(text);
});
