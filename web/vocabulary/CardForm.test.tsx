/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import { cardOf, DONE } from '../testing/fixtures';
import { answering, changesIn, choose, Refused, show } from '../testing/render';
import { CardForm } from './CardForm';

const ROKKAKU = cardOf(5, 'Rokkaku', {
  otherLabels: [{ kind: 'alternative', language: '', label: 'six-sided kite' }],
  scopeNote: 'With six corners.',
});

function form(answer: unknown = DONE, card = ROKKAKU) {
  const asked = answering({ apply: answer });
  let closed = 0;
  const view = show(<CardForm card={card} onClose={() => closed++} />);
  return { ...view, changes: () => changesIn(asked), closed: () => closed };
}

test('what was changed is sent with what was seen of it, and nothing else', async () => {
  const { user, changes, closed } = form();
  await user.clear(screen.getByLabelText('Scope note'));
  await user.type(screen.getByLabelText('Scope note'), 'Six corners, two spars.');
  await user.click(screen.getByRole('button', { name: 'green' }));
  await user.click(screen.getByRole('button', { name: 'Save' }));
  await waitFor(() => expect(closed()).toBe(1));
  expect(changes()).toEqual([
    {
      kind: 'editTerm',
      termId: 5,
      facts: { scopeNote: 'Six corners, two spars.', colour: 'green' },
      seen: { scopeNote: 'With six corners.', colour: '' },
    },
  ]);
});

test('other labels are added, changed in language and kind, and removed; one left empty is none', async () => {
  const { user, changes } = form();
  await user.click(screen.getByRole('button', { name: 'Add a label' }));
  await user.type(screen.getByLabelText('Other label 2'), 'Rokkaku-Drachen');
  await user.type(screen.getByLabelText('Language of label 2'), ' de ');
  await choose(user, screen.getByLabelText('Kind of label 2'), 'preferred, other language');
  await user.click(screen.getByRole('button', { name: 'Add a label' }));
  await user.click(screen.getByRole('button', { name: 'Remove label 1' }));
  await user.click(screen.getByRole('button', { name: 'Save' }));
  await waitFor(() =>
    expect(changes()).toMatchObject([
      { facts: { otherLabels: [{ kind: 'preferred', language: 'de', label: 'Rokkaku-Drachen' }] } },
    ]),
  );
});

test('what the server would refuse is said at its field, and nothing is sent', async () => {
  const { user, changes, closed } = form();
  await user.clear(screen.getByLabelText('Label'));
  await user.clear(screen.getByLabelText('Identifier'));
  await user.type(screen.getByLabelText('Identifier'), 'no address');
  await user.type(screen.getByLabelText('Language written'), 'german!');
  await user.click(screen.getByRole('button', { name: 'Save' }));
  expect(await screen.findByText('This is needed.')).toBeTruthy();
  expect(screen.getByText(/no language tag/)).toBeTruthy();
  expect(screen.getByLabelText('Identifier').getAttribute('aria-invalid')).toBe('true');
  expect([changes(), closed()]).toEqual([[], 0]);
});

test('an address that is none does not keep one from changing something else', async () => {
  const { user, changes } = form(DONE, { ...ROKKAKU, uri: 'term 12' });
  await user.type(screen.getByLabelText('Notation'), 'K-6');
  await user.click(screen.getByRole('button', { name: 'Save' }));
  await waitFor(() => expect(changes()).toMatchObject([{ facts: { notation: 'K-6' }, seen: { notation: '' } }]));
});

test('a label that is too long for old files says how much of it they keep', async () => {
  const { user } = form();
  await user.clear(screen.getByLabelText('Label'));
  await user.paste('Flugdrachen mit sechs Ecken und sehr langem Schwanz aus Papier und Bambus');
  expect(await screen.findByText(/IIM keeps 64 of a keyword/)).toBeTruthy();
});

test('nothing changed sends nothing; Escape leaves; a refusal keeps what was typed', async () => {
  const { user, changes, closed } = form(new Refused(409, 'termChanged', 'Somebody else changed it meanwhile.'));
  await user.click(screen.getByRole('button', { name: 'Save' }));
  await waitFor(() => expect(closed()).toBe(1));
  expect(changes()).toEqual([]);
  await user.type(screen.getByLabelText('Notation'), 'K-6');
  await user.keyboard('{Control>}{Enter}{/Control}');
  await waitFor(() => expect(changes()).toHaveLength(1));
  expect(closed()).toBe(1);
  expect(screen.getByLabelText<HTMLInputElement>('Notation').value).toBe('K-6');
  await user.keyboard('{Escape}');
  expect(closed()).toBe(2);
});
