/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import type { PresetRole } from '@stellin/core/accounts/permissions';
import type { IncomingKeyword } from '@stellin/contract/keywords';
import { foundTermOf } from '../testing/fixtures';
import { answering, show } from '../testing/render';
import type { Draft } from './drafts';
import { KeywordRow } from './KeywordRow';

const DRACHEN: IncomingKeyword = {
  keyword: 'Drachen',
  photos: 41,
  samples: [],
  person: null,
  proposal: { term: { id: 2, label: 'Kites', path: ['Objects'] }, why: 'label' },
};

interface Given {
  row?: Partial<IncomingKeyword>;
  draft?: Draft;
  source?: 'keywords' | 'folders';
  role?: PresetRole;
  mayDecide?: boolean;
}

function row({ row: said = {}, draft, source = 'keywords', role = 'keeper', mayDecide = true }: Given = {}) {
  answering({ findTerms: { terms: [foundTermOf(7, 'Sled kite')] }, listPersons: { persons: [] } });
  const decided: (Draft | undefined)[] = [];
  const view = show(
    <table>
      <tbody>
        <KeywordRow
          row={{ ...DRACHEN, ...said }}
          source={source}
          draft={draft}
          onDecide={mayDecide ? (next) => decided.push(next) : undefined}
        />
      </tbody>
    </table>,
    { role },
  );
  return { ...view, decided };
}

test('what is proposed is taken, and taken back by the same button', async () => {
  const first = row();
  await first.user.click(screen.getByRole('button', { name: 'Use it' }));
  expect(first.decided).toEqual([{ kind: 'term', termId: 2, label: 'Kites' }]);
  first.unmount();
  const second = row({ draft: { kind: 'term', termId: 2, label: 'Kites' } });
  await second.user.click(screen.getByRole('button', { name: 'Use it', pressed: true }));
  expect(second.decided).toEqual([undefined]);
});

test('another term is found, or a new one made below one that is chosen', async () => {
  const { user, decided } = row();
  await user.click(screen.getByRole('button', { name: 'Term …' }));
  await user.type(screen.getByRole('combobox', { name: 'One that is there' }), 'sled');
  await user.click(await screen.findByRole('option', { name: /Sled kite/ }));
  expect(decided.at(-1)).toEqual({ kind: 'term', termId: 7, label: 'Sled kite' });
  await user.click(screen.getByRole('button', { name: 'Term …' }));
  await user.clear(screen.getByLabelText('A new one'));
  await user.click(screen.getByRole('button', { name: 'Make it' }));
  expect(await screen.findByText('This is needed.')).toBeTruthy();
  await user.type(screen.getByLabelText('A new one'), 'Kites from afar');
  await user.type(screen.getByRole('combobox', { name: 'Below which term' }), 'sled');
  await user.click(await screen.findByRole('option', { name: /Sled kite/ }));
  await user.click(screen.getByRole('button', { name: 'Make it' }));
  await waitFor(() => expect(decided.at(-1)).toEqual({ kind: 'new', label: 'Kites from afar', parentId: 7 }));
});

test('what a cataloguer makes is a proposal', async () => {
  const { user } = row({ role: 'cataloguer' });
  await user.click(screen.getByRole('button', { name: 'Term …' }));
  expect(await screen.findByLabelText('A new one, as a proposal')).toBeTruthy();
});

test('a keyword may name a person: the one called so, or somebody new', async () => {
  const { user, decided } = row({ row: { keyword: 'Ida Brand', person: { id: 4, name: 'Ida Brandt', same: false } } });
  expect(screen.getByText('a person called almost so')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Person …' }));
  await user.click(await screen.findByRole('button', { name: 'Ida Brandt' }));
  expect(decided.at(-1)).toEqual({ kind: 'person', who: { personId: 4 }, name: 'Ida Brandt' });
  await user.click(screen.getByRole('button', { name: 'Person …' }));
  await user.click(await screen.findByRole('button', { name: 'New person Ida Brand' }));
  expect(decided.at(-1)).toEqual({ kind: 'person', who: { name: 'Ida Brand' }, name: 'Ida Brand' });
});

test('a keyword stays free or is dropped; the name of a folder is only left out', async () => {
  const { user, decided, unmount } = row();
  await user.click(screen.getByRole('button', { name: 'Keep free' }));
  await user.click(screen.getByRole('button', { name: 'Drop' }));
  expect(decided).toEqual([{ kind: 'keep' }, { kind: 'drop' }]);
  expect(screen.getByRole('link', { name: '41' }).getAttribute('href')).toContain(
    encodeURIComponent('keyword:"Drachen"'),
  );
  unmount();
  row({ source: 'folders' });
  expect(screen.getByRole('button', { name: 'Leave out' })).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Keep free' })).toBeNull();
  expect(screen.queryByRole('button', { name: 'Person …' })).toBeNull();
});

test('who may only look decides nothing', () => {
  row({ mayDecide: false });
  for (const button of screen.getAllByRole<HTMLButtonElement>('button')) expect(button.disabled).toBe(true);
});
