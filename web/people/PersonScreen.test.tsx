/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor, within } from '@testing-library/react';
import type { UserEvent } from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import type { PresetRole } from '@stellin/core/accounts/permissions';
import { DONE, faceOf, personOf } from '../testing/fixtures';
import { answering, changesIn, Refused, show, type Answers } from '../testing/render';
import { PersonScreen } from './PersonScreen';

const IDA = personOf(5, 'Ida Brandt', { note: 'Made kites of silk.', born: '1932~', photos: 9, faces: 2 });
const VOSS = personOf(6, 'Henrik Voss', { photos: 3, faces: 1 });
const named = { state: 'named', person: { id: 5, name: 'Ida Brandt' } } as const;
const page = {
  person: IDA,
  confirmed: [faceOf(1, named), faceOf(2, named)],
  suggested: [
    { ...faceOf(3), certainty: 0.97 },
    { ...faceOf(4), certainty: 0.6 },
  ],
  refused: [faceOf(9)],
  years: [],
  along: [{ personId: 6, name: 'Henrik Voss', photos: 4 }],
};

function place({ role = 'keeper' as PresetRole, answers = {} as Answers } = {}) {
  const asked = answering({
    showPerson: page,
    listPersons: { persons: [IDA, VOSS] },
    listNames: { names: [] },
    scanState: { looked: 10, waiting: 0, faces: 6, vectors: 6, exceptions: [] },
    apply: DONE,
    ...answers,
  });
  const view = show(
    <Routes>
      <Route path="/people/:id" element={<PersonScreen />} />
      <Route path="/people" element={<p>All people</p>} />
    </Routes>,
    { at: '/people/5', role },
  );
  return { ...view, changes: () => changesIn(asked) };
}
const region = (name: RegExp) => screen.findByRole('region', { name });
const faceIn = async (name: RegExp, index: number) =>
  within(await region(name)).getAllByRole('button', { name: /^Face in/ })[index]!;

/** By keys: without a layout the pointer is always on the edge between two columns, which takes it. */
async function open(user: UserEvent, item: string): Promise<void> {
  (await screen.findByRole('button', { name: 'More to do with Ida Brandt' })).focus();
  await user.keyboard('{Enter}');
  (await screen.findByRole('menuitem', { name: item })).focus();
  await user.keyboard('{Enter}');
}

test('what is known of a person is there, and each number leads to the photos', async () => {
  place();
  expect(await screen.findByText(/born 1932~/)).toBeTruthy();
  expect(screen.getByText('Made kites of silk.')).toBeTruthy();
  expect(screen.getByRole('link', { name: '9 photos on the Desk' }).getAttribute('href')).toContain('/desk?q=');
  const along = screen.getByRole('link', { name: 'Photos with Henrik Voss' });
  expect(decodeURIComponent(along.getAttribute('href') ?? '').replaceAll('+', ' ')).toContain(
    'person:"Ida Brandt" person:"Henrik Voss"',
  );
});

test('all faces that are almost certain are taken at once; chosen ones are taken or refused', async () => {
  const { user, changes } = place();
  await user.click(await screen.findByRole('button', { name: /Yes, all 1 that are 95 in 100 sure/ }));
  await user.click(await faceIn(/^Perhaps/, 1));
  await user.click(screen.getByRole('button', { name: 'Yes, this one' }));
  await user.click(await faceIn(/^Perhaps/, 1));
  await user.click(screen.getByRole('button', { name: 'No, never' }));
  await waitFor(() =>
    expect(changes()).toMatchObject([
      { kind: 'nameFaces', faceIds: [3], who: { personId: 5 } },
      { kind: 'nameFaces', faceIds: [4], who: { personId: 5 } },
      { kind: 'refuseFaces', faceIds: [4], personId: 5 },
    ]),
  );
});

test('faces that are somebody else are taken off, or split off under another name', async () => {
  const { user, changes } = place();
  await user.click(await faceIn(/^Confirmed/, 0));
  await user.click(screen.getByRole('button', { name: 'Not Ida Brandt' }));
  await user.click(await faceIn(/^Confirmed/, 0));
  await user.click(await faceIn(/^Confirmed/, 1));
  await user.click(screen.getByRole('button', { name: 'Split 2 faces off …' }));
  await user.keyboard('{Enter}');
  expect(await screen.findByText('This is needed.')).toBeTruthy();
  await user.keyboard('Ida Brandt the younger{Enter}');
  await waitFor(() =>
    expect(changes()).toMatchObject([
      { kind: 'refuseFaces', faceIds: [1] },
      { kind: 'splitPerson', personId: 5, faceIds: [1, 2], name: 'Ida Brandt the younger' },
    ]),
  );
  await waitFor(() => expect(screen.queryByLabelText('Name of the other person')).toBeNull());
});

test('a person is merged into another, or removed, once what that means has been read', async () => {
  const { user, changes, unmount } = place();
  await open(user, 'Merge into another person …');
  await screen.findByRole('dialog');
  await user.keyboard('vo');
  await user.click(await screen.findByRole('option', { name: /Henrik Voss/ }));
  expect(screen.getByText(/“Ida Brandt” stays as another name/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Merge into Henrik Voss' }));
  await waitFor(() => expect(changes()).toMatchObject([{ kind: 'mergePersons', personIds: [5], intoId: 6 }]));
  unmount();
  const second = place();
  await open(second.user, 'Remove this person …');
  await second.user.click(await screen.findByRole('button', { name: 'Remove Ida Brandt' }));
  await waitFor(() => expect(second.changes()).toEqual([{ kind: 'removePerson', personId: 5 }]));
  expect(await screen.findByText('All people')).toBeTruthy();
});

test('a cataloguer names faces; persons are merged, divided and removed by who tends the vocabulary', async () => {
  const { user } = place({ role: 'cataloguer' });
  await user.click(await faceIn(/^Confirmed/, 0));
  expect(screen.getByRole('button', { name: 'Not Ida Brandt' })).toBeTruthy();
  expect(screen.queryByRole('button', { name: /^Split|^More/ })).toBeNull();
});

test('a viewer looks and is offered nothing; a person who is gone is said to be', async () => {
  const viewer = place({ role: 'viewer' });
  await region(/^Confirmed/);
  expect(screen.queryByRole('button', { name: /^Yes|^Edit|^More/ })).toBeNull();
  viewer.unmount();
  place({ answers: { showPerson: new Refused(404, 'notFound', 'There is no such person.') } });
  expect(await screen.findByText('There is no such person.')).toBeTruthy();
});
