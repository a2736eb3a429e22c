/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor, within } from '@testing-library/react';
import type { FindingKind } from '@stellin/core/vocabulary/lint';
import type { Finding } from '@stellin/contract/vocabulary';
import { DONE, impactOf } from '../testing/fixtures';
import { answering, changesIn, Refused, show } from '../testing/render';
import { Findings } from './Findings';

const term = (id: number, label: string, photos = 0) => ({ id, label, path: ['Kites'], photos, heading: false });
const finding = (kind: FindingKind, what: string, terms: Finding['terms']): Finding => ({ kind, what, terms });

function list(findings: Finding[], { kind = findings[0]?.kind ?? 'near', mayEdit = true } = {}) {
  const asked = answering({
    listFindings: { findings },
    impact: impactOf('Merge', { photos: 3 }),
    apply: DONE,
  });
  const shown: number[] = [];
  const view = show(<Findings kind={kind} mayEdit={mayEdit} onShow={(id) => shown.push(id)} />);
  return { ...view, changes: () => changesIn(asked), shown };
}

const NEAR = finding('near', '“Rokkaku” and “Rokaku” are almost the same', [
  term(3, 'Rokkaku', 8),
  term(4, 'Rokaku', 2),
]);

test('of two terms that look alike one is kept; what merging touches is seen first', async () => {
  const { user, changes } = list([NEAR]);
  const row = await screen.findByRole('listitem', { name: /almost the same/ });
  await user.click(within(row).getAllByRole('radio', { name: 'keep' })[1]!);
  await user.click(within(row).getByRole('button', { name: 'Merge …' }));
  await user.click(await screen.findByRole('button', { name: 'Merge: 3 photos' }));
  await waitFor(() => expect(changes()).toMatchObject([{ kind: 'mergeTerms', termIds: [3], intoId: 4 }]));
});

test('two that are not the same are said to be apart', async () => {
  const { user, changes } = list([NEAR]);
  await user.click(await screen.findByRole('button', { name: 'Not the same' }));
  await waitFor(() => expect(changes()).toMatchObject([{ relation: 'apart', fromId: 3, toId: 4 }]));
});

test('arrow keys go from one to the next, Enter mends it at once where nothing is lost', async () => {
  const { user, changes } = list([
    finding('unused', '“Foil” was never given', [term(5, 'Foil')]),
    finding('unused', '“Parafoil” was never given', [term(6, 'Parafoil')]),
  ]);
  const [first, second] = [
    await screen.findByRole('listitem', { name: /“Foil”/ }),
    screen.getByRole('listitem', { name: /“Parafoil”/ }),
  ];
  first.focus();
  await user.keyboard('{ArrowDown}');
  expect(document.activeElement).toBe(second);
  await user.keyboard('{Enter}');
  await waitFor(() => expect(changes()).toMatchObject([{ kind: 'removeTerm', termId: 6 }]));
  await user.keyboard('{ArrowUp}');
  expect(document.activeElement).toBe(first);
});

test.each<[FindingKind, string, Finding['terms'], object]>([
  ['single', 'Take this level out …', [term(5, 'Kites of silk')], { kind: 'removeTerm', termId: 5, narrower: 'up' }],
  ['circle', 'Unlink', [term(5, 'Kites'), term(6, 'Toys')], { relation: 'related', fromId: 5, toId: 6, on: false }],
  ['headingGiven', 'Make it a term …', [term(5, 'Events', 9)], { kind: 'setHeading', termId: 5, heading: false }],
])('%s is mended by “%s”', async (kind, button, terms, change) => {
  const { user, changes } = list([finding(kind, 'It is so', terms)]);
  await user.click(await screen.findByRole('button', { name: button }));
  if (button.endsWith('…')) {
    const panel = await screen.findByRole('region', { name: 'What it touches' });
    await user.click(await within(panel).findByRole('button', { name: new RegExp(`^${button.replace(' …', '')}`) }));
  }
  await waitFor(() => expect(changes()).toMatchObject([change]));
});

test('what takes a person to decide is opened; who may only look is offered nothing else', async () => {
  const many = list([finding('many', 'It has 212 narrower terms', [term(5, 'Kites')])]);
  await many.user.click(await screen.findByRole('button', { name: 'Open' }));
  expect(many.shown).toEqual([5]);
  many.unmount();
  list([NEAR], { mayEdit: false });
  await screen.findByText(/almost the same/);
  expect(screen.queryByRole('button', { name: /Merge/ })).toBeNull();
});

test('an empty list says so, and one that can’t be read says why', async () => {
  const empty = list([], { kind: 'long' });
  expect(await screen.findByText('Nothing of this kind is left.')).toBeTruthy();
  empty.unmount();
  answering({ listFindings: new Refused(500, 'internal', 'The catalogue can’t be reached.') });
  show(<Findings kind="long" mayEdit onShow={() => undefined} />);
  expect(await screen.findByText(/The catalogue can’t be reached/)).toBeTruthy();
});
