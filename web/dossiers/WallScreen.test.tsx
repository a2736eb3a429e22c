/** @jest-environment ./web/testing/browser.cjs */
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { dossierOf, photoOf } from '../testing/fixtures';
import { answering, show } from '../testing/render';
import { WallScreen } from './WallScreen';

const DOSSIERS = [
  dossierOf(1, 'Exhibition', { cover: { photoId: 5, version: 2 }, note: 'For spring', photos: 9 }),
  dossierOf(2, 'Posters', { parentId: 1, photos: 3 }),
];

test('each level stands as pictures, with the way down and up', async () => {
  answering({ listDossiers: { dossiers: DOSSIERS } });
  const { user } = show(<WallScreen />);
  const card = await screen.findByRole('link', { name: 'Look at Exhibition' });
  expect(card.querySelector('img')?.getAttribute('src')).toContain('/5');
  expect(screen.getByText('For spring')).toBeTruthy();
  expect(screen.queryByText('Posters')).toBeNull();
  await user.click(screen.getByRole('link', { name: '1 dossier in it' }));
  expect(await screen.findByText('Posters')).toBeTruthy();
  await user.click(screen.getByRole('link', { name: 'All' }));
  expect(await screen.findByRole('link', { name: 'Look at Exhibition' })).toBeTruthy();
});

test('a dossier is skimmed with the arrow keys, and shows its cover again when one goes on', async () => {
  const asked = answering({
    listDossiers: { dossiers: DOSSIERS },
    photosOfSelection: { photos: [photoOf(11), photoOf(12)] },
  });
  const { user } = show(<WallScreen />);
  const card = await screen.findByRole('link', { name: 'Look at Exhibition' });
  expect(asked.some(({ name }) => name === 'photosOfSelection')).toBe(false);
  card.focus();
  await user.keyboard('{ArrowRight}');
  expect(await screen.findByText('1 of 2')).toBeTruthy();
  await user.keyboard('{ArrowRight}{ArrowRight}');
  expect(screen.getByText('2 of 2')).toBeTruthy();
  expect(card.querySelector('img')?.getAttribute('src')).toContain('/12');
  fireEvent.blur(card);
  await waitFor(() => expect(card.querySelector('img')?.getAttribute('src')).toContain('/5'));
});
