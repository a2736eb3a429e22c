/** @jest-environment ./web/testing/browser.cjs */
// Every screen while the server refuses what it asks: it says so, offers to try again, and is no empty place.

import { screen } from '@testing-library/react';
import type { ComponentType } from 'react';
import { Route, Routes } from 'react-router';
import { AccountScreen } from '../accounts/AccountScreen';
import { TeamScreen } from '../accounts/TeamScreen';
import { DeliverScreen } from '../delivering/DeliverScreen';
import { DeskScreen } from '../desk/DeskScreen';
import { DoublesScreen } from '../doubles/DoublesScreen';
import { HoldingsScreen } from '../holdings/HoldingsScreen';
import { IntakeScreen } from '../intake/IntakeScreen';
import { KeywordsScreen } from '../intake/KeywordsScreen';
import { LedgerScreen } from '../ledger/LedgerScreen';
import { NamesScreen } from '../people/NamesScreen';
import { LikeScreen } from '../people/LikeScreen';
import { PeopleScreen } from '../people/PeopleScreen';
import { PersonScreen } from '../people/PersonScreen';
import { SelectionProvider } from '../photos/selection';
import { answering, show } from '../testing/render';
import { VocabularyScreen } from '../vocabulary/VocabularyScreen';
import { WriteBackScreen } from '../writeback/WriteBackScreen';

const SCREENS: readonly [name: string, screen: ComponentType, at: string][] = [
  ['Deliver', DeliverScreen, '/deliver'],
  ['Desk', DeskScreen, '/desk'],
  ['Doubles', DoublesScreen, '/intake/doubles'],
  ['Holdings', HoldingsScreen, '/holdings'],
  ['Intake', IntakeScreen, '/intake'],
  ['Keywords', KeywordsScreen, '/intake/keywords'],
  ['Ledger', LedgerScreen, '/ledger'],
  ['Find by example', LikeScreen, '/people/like?face=1'],
  ['Names', NamesScreen, '/people/names'],
  ['People', PeopleScreen, '/people'],
  ['Person', PersonScreen, '/people/3'],
  ['Vocabulary', VocabularyScreen, '/vocabulary?term=3'],
  ['Vocabulary, a finding', VocabularyScreen, '/vocabulary?show=unused'],
  ['Vocabulary, proposals', VocabularyScreen, '/vocabulary?show=proposals'],
  ['Write-back', WriteBackScreen, '/write-back'],
  ['Team', TeamScreen, '/team'],
  ['Your account', AccountScreen, '/account'],
];

test.each(SCREENS)('%s says what could not be read', async (_, Place, at) => {
  answering({});
  show(
    <SelectionProvider>
      <Routes>
        <Route path="/people/:id" element={<Place />} />
        <Route path="*" element={<Place />} />
      </Routes>
    </SelectionProvider>,
    { at },
  );
  const [first] = await screen.findAllByRole('alert');
  expect(first?.textContent).toContain('The test does not answer');
  expect(screen.getAllByRole('button', { name: 'Try again' }).length).toBeGreaterThan(0);
});
