/** @jest-environment ./web/testing/browser.cjs */
// Field sets, fields with members, and templates applied to what is chosen.

import { screen, waitFor } from '@testing-library/react';
import { fieldOf } from '@stellin/core/metadata/fields';
import type { FieldValue } from '@stellin/core/metadata/fields';
import { DONE } from '../testing/fixtures';
import { answering, changesIn, choose, show, type Answers } from '../testing/render';
import { FieldSetsDialog } from './FieldSetsDialog';
import { StructDialog } from './StructDialog';
import { TemplatesDialog } from './TemplatesDialog';

const entry = (target: string, said: object = {}) => ({
  target,
  required: false,
  help: '',
  initial: '',
  kind: 'text',
  choices: [],
  branch: null,
  offered: [],
  ...said,
});
const prepared = {
  fieldSets: [{ id: 3, name: 'Events', entries: [entry('title'), entry('city', { choices: ['Saltmarsh'] })] }],
  templates: [],
  rules: [],
};

function sets(answers: Answers = {}) {
  const asked = answering({ showPrepared: prepared, findTerms: { terms: [] }, apply: DONE, ...answers });
  return { ...show(<FieldSetsDialog onClose={() => undefined} />), changes: () => changesIn(asked) };
}

test('a field set is changed: its fields move, go and come, with what each asks', async () => {
  const { user, changes } = sets();
  await user.click(await screen.findByRole('button', { name: 'Change …' }));
  await user.click(screen.getByRole('button', { name: 'City up' }));
  await user.click(screen.getAllByRole('checkbox', { name: 'required' })[0]!);
  await user.type(screen.getByLabelText('Help for City'), 'As it was called then');
  await user.type(screen.getByLabelText('Choices of City'), '; Norland ;');
  await user.click(screen.getByRole('button', { name: 'Without Title' }));
  await user.type(screen.getByLabelText('Name of a field of the project'), 'Loan number');
  await user.click(screen.getByRole('button', { name: 'Add it' }));
  await choose(user, screen.getByLabelText('Kind of Loan number'), 'Number');
  await choose(user, screen.getByLabelText('Add a field'), 'Headline');
  await user.click(screen.getByRole('button', { name: 'Keep the set of 3 fields' }));
  await waitFor(() => expect(changes()).toHaveLength(1));
  expect(changes()).toMatchObject([
    {
      kind: 'saveFieldSet',
      fieldSetId: 3,
      name: 'Events',
      entries: [
        { target: 'city', required: true, help: 'As it was called then', choices: ['Saltmarsh', 'Norland'] },
        { target: 'custom:Loan number', kind: 'number', required: false },
        { target: 'headline' },
      ],
    },
  ]);
});

test('a set needs a name and a field', async () => {
  const { user, changes } = sets();
  await user.click(await screen.findByRole('button', { name: 'New field set …' }));
  expect(screen.getByRole<HTMLButtonElement>('button', { name: /^Keep the set/ }).disabled).toBe(true);
  await choose(user, screen.getByLabelText('Add a field'), 'Headline');
  await user.click(screen.getByRole('button', { name: 'Keep the set of 1 field' }));
  expect(await screen.findByText('This is needed.')).toBeTruthy();
  expect(changes()).toEqual([]);
});

test('a field with members is filled in entry by entry; what is emptied is not there', async () => {
  const given: (FieldValue | null)[] = [];
  const { user } = show(
    <StructDialog
      shape={fieldOf('locationShown')}
      value={[{ City: 'Saltmarsh', CountryName: 'Norland' }]}
      onSet={(value) => given.push(value)}
      onClose={() => undefined}
    />,
  );
  await user.clear(screen.getByLabelText('Country'));
  await user.click(screen.getByRole('button', { name: 'Add' }));
  await user.type(screen.getByLabelText('City'), 'Ebbwick');
  await user.click(screen.getByRole('button', { name: '1 Saltmarsh' }));
  expect(screen.getByLabelText<HTMLInputElement>('City').value).toBe('Saltmarsh');
  await user.click(screen.getByRole('button', { name: 'Put this into the form' }));
  expect(given).toEqual([[{ City: 'Saltmarsh' }, { City: 'Ebbwick' }]]);
});

test('without a template one is made first', async () => {
  const { user } = (() => {
    answering({ showPrepared: prepared, showTemplateVersions: { versions: [] } });
    return show(
      <TemplatesDialog selection={{ query: 'all', minus: [], plus: [] }} photo={undefined} onClose={() => undefined} />,
    );
  })();
  expect(await screen.findByText(/There is no template yet/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'New …' }));
  expect(await screen.findByRole('dialog', { name: 'New template' })).toBeTruthy();
});
