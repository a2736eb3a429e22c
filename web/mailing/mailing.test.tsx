/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor, within } from '@testing-library/react';
import type { Contact, KeptMessage, Letter } from '@stellin/contract/mailing';
import { answering, Refused, show } from '../testing/render';
import { LetterDialog } from './LetterDialog';
import { OutgoingScreen } from './OutgoingScreen';

const EDDA: Contact = { id: 1, name: 'Edda Quill', address: 'edda@island.example' };
const ROWAN: Contact = { id: 2, name: '', address: 'rowan@island.example' };
const about = { kind: 'link' as const, linkId: 3, address: 'https://archive.example/v/abc' };
const QUIET = { tries: 1, nextAt: null, sentAt: null, problem: null };

beforeEach(() => localStorage.clear());

function write() {
  const asked = answering({ listContacts: { contacts: [EDDA, ROWAN] }, sendLetter: { id: 1 } });
  const shown = show(<LetterDialog about={about} title="Kites" onClose={() => undefined} />);
  const sent = () => asked.flatMap(({ name, body }) => (name === 'sendLetter' ? [body] : []));
  return { ...shown, sent };
}

test('a letter goes to who is picked from the address book and who is typed; how it will look is seen before', async () => {
  const { user, sent } = write();
  const to = await screen.findByRole('combobox', { name: /^To/ });
  await user.type(to, 'edd');
  await user.click(await screen.findByRole('option', { name: /Edda Quill/ }));
  await user.type(to, 'Ida Brandt <ida@town.example>, olt@town.example;');
  const recipients = within(screen.getByRole('list', { name: 'Recipients' }));
  expect(recipients.getAllByRole('listitem').map(({ textContent }) => textContent)).toEqual([
    'Edda Quill',
    'Ida Brandt',
    'olt@town.example',
  ]);
  await user.click(recipients.getByRole('button', { name: 'Not to olt@town.example' }));
  const look = within(screen.getByRole('region', { name: 'How it will look' }));
  expect(look.getByText(/Dear Edda Quill/).textContent).toContain('https://archive.example/v/abc');
  await user.click(screen.getByRole('button', { name: 'Send' }));
  await waitFor(() =>
    expect(sent()).toMatchObject([
      {
        about,
        subject: '{title}',
        recipients: [
          { name: 'Edda Quill', address: 'edda@island.example' },
          { name: 'Ida Brandt', address: 'ida@town.example' },
        ],
      },
    ]),
  );
});

test('what is no address stays to be mended, a placeholder that is none is said, and nobody gets nothing', async () => {
  const { user, sent } = write();
  const to = await screen.findByRole('combobox', { name: /^To/ });
  await user.click(screen.getByRole('button', { name: 'Send' }));
  expect(await screen.findByText('Somebody has to get it.')).toBeTruthy();
  await user.type(to, 'ida@@town{Enter}');
  expect(await screen.findByText('ida@@town is no mail address.')).toBeTruthy();
  expect((to as HTMLInputElement).value).toBe('ida@@town');
  await user.clear(to);
  await user.type(to, 'ida@town.example{Enter}');
  await user.type(screen.getByRole('textbox', { name: 'Text' }), '{{nmae}');
  await user.click(screen.getByRole('button', { name: 'Send' }));
  expect(await screen.findByText('Something in braces is no placeholder.')).toBeTruthy();
  expect(sent()).toEqual([]);
});

test('what was written is there again after the dialog was closed, and when the server refuses it', async () => {
  answering({
    listContacts: { contacts: [] },
    sendLetter: new Refused(404, 'notFound', 'There is no such view link.'),
  });
  const { user } = show(<LetterDialog about={about} title="Kites" onClose={() => undefined} />);
  await user.type(await screen.findByRole('combobox', { name: /^To/ }), 'ida@town.example{Enter}');
  const text = screen.getByRole<HTMLTextAreaElement>('textbox', { name: 'Text' });
  await user.clear(text);
  await user.type(text, 'By hand');
  await user.click(screen.getByRole('button', { name: 'Send' }));
  expect(await screen.findByText('There is no such view link.')).toBeTruthy();
  expect(text.value).toBe('By hand');
  await user.click(screen.getByRole('button', { name: 'Cancel' }));
  show(<LetterDialog about={about} title="Kites" onClose={() => undefined} />);
  expect(screen.getAllByRole<HTMLTextAreaElement>('textbox', { name: 'Text' }).at(-1)?.value).toBe('By hand');
});

const LETTER: Letter = {
  ...{ id: 7, at: '2026-11-01T10:00:00Z', by: 'Mara Olt', subject: '{title}', text: '{link}' },
  ...{ title: 'Kites', kind: 'link', mayRetry: true },
  recipients: [
    { ...EDDA, ...QUIET, id: 11, state: 'sent', sentAt: '2026-11-01T10:00:05Z' },
    { ...QUIET, id: 12, name: '', address: 'gone@nobody.example', state: 'refused', problem: '550 no such mailbox' },
    { ...QUIET, id: 13, name: '', address: 'full@busy.example', state: 'waiting', nextAt: '2026-11-01T10:05:00Z' },
  ],
};
const MESSAGE: KeptMessage = {
  ...{ id: 'a', at: '2026-11-01T10:00:05Z', from: 'archive@stellin.example', to: 'edda@island.example' },
  ...{ subject: 'Kites', text: 'Dear Edda', attachments: [{ name: 'copies.zip', bytes: 2_000_000 }] },
};

test('each letter says what became of it; what did not get through is tried again or stopped; the stand-in shows what it got', async () => {
  const asked = answering({
    listLetters: { letters: [LETTER], way: { server: null, from: 'archive@stellin.example' } },
    mailBox: { messages: [MESSAGE] },
    listContacts: { contacts: [EDDA] },
    retryLetters: { done: true },
    stopLetters: { done: true },
    removeContacts: { done: true },
    keepContact: { done: true },
  });
  const { user } = show(<OutgoingScreen />);
  expect(await screen.findByText('3 letters, 2 not there yet')).toBeTruthy();
  expect(screen.getByText('The server said: 550 no such mailbox')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Try again to send to gone@nobody.example' }));
  await user.click(screen.getByRole('button', { name: 'Do not send to full@busy.example' }));
  expect(screen.queryByRole('button', { name: /Edda|edda@island/ })?.textContent).toBe('Remove');
  expect(await screen.findByText('Attached: copies.zip, 2.0 MB')).toBeTruthy();
  await user.type(screen.getByRole('textbox', { name: 'Name' }), 'Ida');
  await user.type(screen.getByRole('textbox', { name: 'Mail address' }), 'ida@town.example{Enter}');
  await user.click(screen.getByRole('button', { name: 'Take Edda Quill out of the address book' }));
  await waitFor(() =>
    expect(asked.flatMap(({ name, body }) => (body === undefined ? [] : [[name, body]]))).toEqual([
      ['retryLetters', { ids: [12] }],
      ['stopLetters', { ids: [13] }],
      ['keepContact', { name: 'Ida', address: 'ida@town.example' }],
      ['removeContacts', { ids: [1] }],
    ]),
  );
});

test('where a mail server is settled it is named, and there is no box', async () => {
  answering({
    listLetters: { letters: [], way: { server: 'mail.example:587', from: 'archive@town.example' } },
    listContacts: { contacts: [] },
  });
  show(<OutgoingScreen />);
  expect(await screen.findByText(/leave over mail.example:587, from archive@town.example/)).toBeTruthy();
  expect(screen.queryByText('Stand-in mail box')).toBeNull();
});
