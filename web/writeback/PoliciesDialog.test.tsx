/** @jest-environment ./web/testing/browser.cjs */
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { answering, Refused, show, type Answers } from '../testing/render';
import { PoliciesDialog } from './PoliciesDialog';

const POLICIES = {
  iim: 'always',
  sidecarKinds: [],
  keepTimes: true,
  withheld: ['custom:Loan number'],
  automaticMinutes: null,
  onReturn: 'ask',
};

async function dialog(answers: Answers = {}) {
  const asked = answering({
    showPolicies: POLICIES,
    savePolicies: POLICIES,
    showPrepared: { fieldSets: [], templates: [], rules: [] },
    ...answers,
  });
  const view = show(<PoliciesDialog />);
  await view.user.click(await screen.findByRole('button', { name: 'How files are written …' }));
  const saved = () => asked.filter(({ name }) => name === 'savePolicies').map(({ body }) => body);
  return { ...view, saved };
}
const box = (name: RegExp | string) => screen.getByRole('checkbox', { name });

test('what is chosen is what is saved; what stands there already stays', async () => {
  const { user, saved } = await dialog();
  await user.click(screen.getByRole('radio', { name: /only in files that hold IIM/ }));
  await user.click(box('TIFF'));
  await user.click(box('the GPS position'));
  await user.click(box(/stay as they were/));
  await user.click(screen.getByRole('button', { name: 'Write files so' }));
  await waitFor(() => expect(saved()).toHaveLength(1));
  expect(saved()[0]).toMatchObject({
    iim: 'where present',
    sidecarKinds: ['tiff'],
    keepTimes: false,
    withheld: ['custom:Loan number', 'position'],
    automaticMinutes: null,
  });
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
});

test('without names there are no face regions, since these bear names', async () => {
  const { user } = await dialog();
  expect(box('face regions').getAttribute('aria-checked')).toBe('true');
  await user.click(box(/^names of people/));
  expect(box('face regions').getAttribute('aria-checked')).toBe('false');
});

test('writing by itself asks for minutes, one at least', async () => {
  const { user, saved } = await dialog();
  const minutes = screen.getByLabelText<HTMLInputElement>('Minutes');
  expect(minutes.disabled).toBe(true);
  await user.click(box(/^when nobody has changed anything/));
  fireEvent.change(minutes, { target: { value: '0' } });
  expect(minutes.value).toBe('1');
  await user.click(box(/^when a drive returns/));
  await user.click(screen.getByRole('button', { name: 'Write files so' }));
  await waitFor(() => expect(saved()[0]).toMatchObject({ automaticMinutes: 1, onReturn: 'write' }));
});

test('a server that refuses leaves the dialog as it was filled in', async () => {
  const { user } = await dialog({ savePolicies: new Refused(409, 'busy', 'Files are being written.') });
  await user.click(box('JPEG'));
  await user.click(screen.getByRole('button', { name: 'Write files so' }));
  await waitFor(() => expect(screen.getByRole('dialog')).toBeTruthy());
  expect(box('JPEG').getAttribute('aria-checked')).toBe('true');
});

test('others than keepers are not offered it', async () => {
  answering({ showPolicies: POLICIES });
  show(<PoliciesDialog />, { role: 'cataloguer' });
  expect(screen.queryByRole('button', { name: 'How files are written …' })).toBeNull();
});
