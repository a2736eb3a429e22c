/** @jest-environment ./web/testing/browser.cjs */
// What can be done with terms: what is asked for first, what it touches, and the change that is sent.

import { screen, waitFor } from '@testing-library/react';
import type { UserEvent } from '@testing-library/user-event';
import type { TermCard } from '@stellin/contract/vocabulary';
import { cardOf, DONE, foundTermOf, impactOf } from '../testing/fixtures';
import { answering, changesIn, choose, Refused, show, type Answers, type Asked } from '../testing/render';
import { ActionPanel } from './ActionPanel';
import type { Action } from './ActionMenu';

const titleOf = ({ body }: Asked) => impactOf((body as { change: { kind: string } }).change.kind, { photos: 24 });

function panel(action: Action, card: TermCard = cardOf(5, 'Rokkaku'), answers: Answers = {}) {
  const asked = answering({
    findTerms: { terms: [foundTermOf(7, 'Sled kite')] },
    impact: titleOf,
    apply: DONE,
    ...answers,
  });
  const done: (number | null)[] = [];
  let closed = 0;
  const view = show(
    <ActionPanel
      action={action}
      card={card}
      termIds={[card.id]}
      onClose={() => closed++}
      onDone={(id) => done.push(id)}
    />,
  );
  return { ...view, changes: () => changesIn(asked), done, closed: () => closed };
}

async function pick(user: UserEvent, label: string): Promise<void> {
  await user.type(screen.getByRole('combobox', { name: label }), 'sled');
  await user.click(await screen.findByRole('option', { name: /Sled kite/ }));
}

test('a term is moved below another, or to the top of its vocabulary', async () => {
  const first = panel('move');
  await pick(first.user, 'New broader term');
  await first.user.click(await screen.findByRole('button', { name: 'Move: 24 photos' }));
  await waitFor(() => expect(first.done).toEqual([5]));
  expect(first.changes()).toMatchObject([{ kind: 'moveTerms', termIds: [5], parentId: 7 }]);
  first.unmount();
  const second = panel('move');
  await second.user.click(screen.getByRole('button', { name: 'To the top' }));
  await second.user.click(await screen.findByRole('button', { name: /^Move/ }));
  await waitFor(() => expect(second.changes()).toMatchObject([{ kind: 'moveTerms', parentId: null, vocabularyId: 1 }]));
});

test('merging asks for the term that stays, and what becomes of the old label', async () => {
  const { user, changes, done } = panel('merge');
  await pick(user, 'Merge into');
  await choose(user, screen.getByLabelText(/The old labels are kept/), 'only to be found by');
  await user.click(await screen.findByRole('button', { name: /^Merge/ }));
  await waitFor(() => expect(done).toEqual([7]));
  expect(changes()).toMatchObject([{ kind: 'mergeTerms', termIds: [5], intoId: 7, keepLabels: 'hidden' }]);
});

test('a term is split into parts, each with a search of its photos; parts left empty are none', async () => {
  const { user, changes } = panel('split');
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'See what it touches' }).disabled).toBe(true);
  await user.type(screen.getByLabelText('New narrower term 1'), 'Edo rokkaku');
  await user.type(screen.getByLabelText('Search for part 1'), 'taken:<1970');
  await user.click(screen.getByRole('button', { name: 'One more' }));
  await user.type(screen.getByLabelText('New narrower term 3'), 'Team rokkaku');
  await user.click(screen.getByRole('button', { name: 'See what it touches' }));
  await user.click(await screen.findByRole('button', { name: /^Split/ }));
  await waitFor(() =>
    expect(changes()).toMatchObject([
      {
        kind: 'splitTerm',
        into: [
          { label: 'Edo rokkaku', selection: { query: 'taken:<1970' } },
          { label: 'Team rokkaku', selection: { query: null } },
        ],
      },
    ]),
  );
});

test('a heading, or a term that goes, asks where its photos are to go', async () => {
  const heading = panel('heading');
  expect(screen.getByText(/24 photos have it directly/)).toBeTruthy();
  await pick(heading.user, 'Term for its photos');
  await heading.user.click(await screen.findByRole('button', { name: /^Make it a heading/ }));
  await waitFor(() => expect(heading.changes()).toMatchObject([{ kind: 'setHeading', heading: true, photosTo: 7 }]));
  heading.unmount();
  const removed = panel('remove', cardOf(5, 'Rokkaku', { narrower: 2 }));
  await removed.user.click(screen.getByRole('button', { name: 'Nothing' }));
  expect(await screen.findByText(/2 narrower terms move up/)).toBeTruthy();
  await removed.user.click(await screen.findByRole('button', { name: /^Remove/ }));
  await waitFor(() =>
    expect(removed.changes()).toMatchObject([{ kind: 'removeTerm', narrower: 'up', photosTo: null }]),
  );
});

test('a term without photos is asked nothing before it goes or becomes a heading', async () => {
  const unused = cardOf(5, 'Rokkaku', { photos: 0, photosWithin: 0 });
  const { user, changes, done } = panel('remove', unused, { impact: impactOf('Remove') });
  await user.click(await screen.findByRole('button', { name: 'Remove' }));
  await waitFor(() => expect(done).toEqual([2]));
  expect(changes()).toEqual([{ kind: 'removeTerm', termId: 5, narrower: 'refuse' }]);
});

test('deprecating names what is given instead, and may move the photos now; it is taken back as it was', async () => {
  const deprecated = panel('deprecate');
  await pick(deprecated.user, 'Replacement');
  await deprecated.user.click(await screen.findByRole('checkbox', { name: /get “Sled kite” now/ }));
  await deprecated.user.click(await screen.findByRole('button', { name: /^Deprecate/ }));
  await waitFor(() =>
    expect(deprecated.changes()).toMatchObject([{ kind: 'deprecateTerm', replacedBy: 7, movePhotos: false }]),
  );
  deprecated.unmount();
  const again = panel('deprecate', cardOf(5, 'Rokkaku', { deprecated: true }));
  await again.user.click(await screen.findByRole('button', { name: /^Take into use again/ }));
  await waitFor(() => expect(again.changes()).toMatchObject([{ kind: 'deprecateTerm', deprecated: false }]));
});

test('terms are related, or put below a further one', async () => {
  const related = panel('related');
  await pick(related.user, 'Related term');
  await related.user.click(await screen.findByRole('button', { name: /^Relate/ }));
  await waitFor(() => expect(related.changes()).toMatchObject([{ relation: 'related', fromId: 5, toId: 7 }]));
  related.unmount();
  const broader = panel('broader');
  await pick(broader.user, 'Further broader term');
  await broader.user.click(await screen.findByRole('button', { name: /^Put there, too/ }));
  await waitFor(() => expect(broader.changes()).toMatchObject([{ relation: 'broader', fromId: 5, toId: 7 }]));
});

test('what can’t be done says why, and offers only to leave it', async () => {
  const { user, closed, changes } = panel('move', undefined, {
    impact: new Refused(409, 'termRefused', '“Rokkaku” can’t be moved below itself.'),
  });
  await pick(user, 'New broader term');
  expect((await screen.findByRole('alert')).textContent).toBe('“Rokkaku” can’t be moved below itself.');
  expect(screen.queryByRole('button', { name: /^Move/ })).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Not now' }));
  expect([closed(), changes()]).toEqual([1, []]);
});
