/** @jest-environment ./web/testing/browser.cjs */
import { act, screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import type { Project } from '@stellin/contract/projects';
import { saysOf } from '@stellin/contract/describing';
import { SelectionProvider } from '../photos/selection';
import { DONE } from '../testing/fixtures';
import { answering, changesIn, Refused, show, type Asked } from '../testing/render';
import { FieldsTab } from './FieldsTab';

const ONE = { query: null, minus: [], plus: [4] };
const field = (target: string, value: string) => ({ target, photos: 1, distinct: 1, values: [{ value, photos: 1 }] });
const entry = { required: false, help: '', initial: '', choices: [], branch: null, offered: [] };
const LOANS = {
  id: 3,
  name: 'Loans',
  entries: [
    { ...entry, target: 'custom:Insurance value', kind: 'number' },
    { ...entry, target: 'custom:Returned', kind: 'yesNo' },
    {
      ...entry,
      target: 'custom:Shown',
      kind: 'several',
      choices: ['Hanging', 'In a case'],
      offered: ['Hanging', 'In a case'],
    },
  ],
};
const PROJECT: Project = {
  ...{
    id: 1,
    dossierId: 5,
    name: 'Loan',
    note: '',
    colour: '',
    query: 'dossier:Loan',
    photos: 1,
    starts: '',
    ends: '',
  },
  ...{ fieldSetId: 3, templateId: null, ruleId: null, closed: false, lacking: [] },
};

function tab({ query = '', fields = [field('title', 'Wind')] as object[], apply = DONE as object } = {}) {
  const says = { photos: 1, fields };
  const asked = answering({
    agreement: () => says,
    showPrepared: { fieldSets: [LOANS], templates: [], rules: [] },
    listProjects: { projects: [PROJECT] },
    suggest: { suggestions: [] },
    apply,
  });
  const onDescribing = jest.fn();
  const shown = show(
    <SelectionProvider>
      <FieldsTab
        selection={ONE}
        result={{ query, sort: 'taken' }}
        wantsFocus={false}
        onFocused={() => undefined}
        onDescribing={onDescribing}
      />
    </SelectionProvider>,
  );
  /** Somebody else changes what the photo says, and the browser is told. */
  const others = async (after: object[]) => {
    says.fields = after;
    await act(() => shown.client.invalidateQueries({ queryKey: ['photos'] }));
  };
  return { ...shown, others, onDescribing, changes: () => changesIn(asked) };
}
const title = () => screen.findByLabelText<HTMLInputElement>('Title');
const open = async (user: ReturnType<typeof tab>['user'], set: string) =>
  user.click(await screen.findByRole('radio', { name: new RegExp(`^${set}`) }));

test('what is typed goes with what was seen, and others are told that it is being described', async () => {
  const { user, changes, onDescribing } = tab();
  await open(user, 'Content');
  await user.clear(await title());
  await user.type(await title(), 'Kites{Control>}{Enter}{/Control}');
  await waitFor(() => expect(changes()).toHaveLength(1));
  expect(changes()).toMatchObject([
    {
      kind: 'setFields',
      edits: [{ target: 'title', value: 'Kites' }],
      seen: [{ target: 'title', says: saysOf(field('title', 'Wind')) }],
    },
  ]);
  expect(onDescribing.mock.calls.map(([is]) => is as boolean)).toContain(true);
});

test('a field that somebody else changes meanwhile is shown, and not written over before one has decided', async () => {
  const { user, others, changes } = tab();
  await open(user, 'Content');
  await user.type(await title(), ' over dunes');
  await others([field('title', 'Storm')]);
  expect((await screen.findByRole('alert')).textContent).toContain('Changed meanwhile: now “Storm”.');
  expect((await title()).value).toBe('Wind over dunes');
  await user.type(await title(), '{Control>}{Enter}{/Control}');
  expect(changes()).toEqual([]);
  await user.click(screen.getByRole('button', { name: 'Put mine in' }));
  expect(screen.queryByRole('alert')).toBeNull();
  await user.type(await title(), '{Control>}{Enter}{/Control}');
  await waitFor(() => expect(changes()).toHaveLength(1));
  expect(changes()).toMatchObject([
    { edits: [{ value: 'Wind over dunes' }], seen: [{ says: saysOf(field('title', 'Storm')) }] },
  ]);
});

test('or what is there now is kept', async () => {
  const { user, others } = tab();
  await open(user, 'Content');
  await user.type(await title(), '!');
  await others([]);
  expect((await screen.findByRole('alert')).textContent).toContain('now it is empty');
  await user.click(screen.getByRole('button', { name: 'Keep that' }));
  expect((await title()).value).toBe('');
  expect(screen.queryByRole('alert')).toBeNull();
});

test('what the server refuses stays typed', async () => {
  const refused = new Refused(409, 'changedMeanwhile', '“Title” has been changed meanwhile by Runa Falk.');
  const { user, changes } = tab({ apply: refused });
  await open(user, 'Content');
  await user.type(await title(), '!{Control>}{Enter}{/Control}');
  await waitFor(() => expect(changes()).toHaveLength(1));
  expect((await title()).value).toBe('Wind!');
});

test('in a project its own fields come first; each takes what it is for', async () => {
  const { user, changes } = tab({ query: 'dossier:Loan rating:>2', fields: [] });
  const value = await screen.findByLabelText('Insurance value');
  await user.type(value, 'much');
  expect((await screen.findByRole('alert')).textContent).toContain('is no number');
  await user.clear(value);
  await user.type(value, '500');
  await user.click(screen.getByRole('button', { name: 'Hanging' }));
  await user.click(screen.getByRole('button', { name: 'In a case' }));
  await user.type(value, '{Control>}{Enter}{/Control}');
  await waitFor(() => expect(changes()).toHaveLength(1));
  expect(changes()).toMatchObject([
    {
      edits: [
        { target: 'custom:Insurance value', value: ['500'] },
        { target: 'custom:Shown', value: ['Hanging', 'In a case'] },
      ],
    },
  ]);
  await open(user, 'Content');
  expect(await title()).toBeTruthy();
});

test('one key says in a field what the photo before says', async () => {
  const says: Record<number, object[]> = { 4: [field('title', 'Wind'), field('city', 'Saltmarsh')], 5: [] };
  const asked = answering({
    agreement: ({ body }: Asked) => ({
      photos: 1,
      fields: says[(body as { selection: { plus: number[] } }).selection.plus[0] ?? 0],
    }),
    showPrepared: { fieldSets: [], templates: [], rules: [] },
    ...{ listProjects: { projects: [] }, suggest: { suggestions: [] }, apply: DONE },
  });
  function Two() {
    const [id, setId] = useState(4);
    return (
      <SelectionProvider>
        <button onClick={() => setId(5)}>On</button>
        <FieldsTab
          selection={{ query: null, minus: [], plus: [id] }}
          result={{ query: '', sort: 'taken' }}
          wantsFocus={false}
          onFocused={() => undefined}
          onDescribing={() => undefined}
        />
      </SelectionProvider>
    );
  }
  const { user } = show(<Two />);
  await open(user, 'Content');
  await waitFor(async () => expect((await title()).value).toBe('Wind'));
  await user.click(screen.getByRole('button', { name: 'On' }));
  await waitFor(async () => expect((await title()).value).toBe(''));
  (await title()).focus();
  await user.keyboard('{F8}');
  expect((await title()).value).toBe('Wind');
  await user.keyboard('{Control>}{Enter}{/Control}');
  await waitFor(() => expect(changesIn(asked)).toMatchObject([{ edits: [{ target: 'title', value: 'Wind' }] }]));
});
