/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor, within } from '@testing-library/react';
import type { LikeFace, LikenessGroup } from '@stellin/contract/people';
import { DONE, faceOf, personOf } from '../testing/fixtures';
import { answering, changesIn, show, type Answers } from '../testing/render';
import { LikeScreen } from './LikeScreen';
import { PeopleScreen } from './PeopleScreen';

const groupOf = (ids: number[], guess: LikenessGroup['guess'] = null): LikenessGroup => ({
  faces: ids.map((id) => ({ ...faceOf(id), likeness: 0.9 })),
  faceIds: ids,
  photos: ids.length,
  guess,
});
const IDA = personOf(5, 'Ida Brandt', { photos: 9, faces: 4 });
const scan = { looked: 10, waiting: 0, faces: 6, vectors: 6, exceptions: [] };
const GROUPS = [groupOf([1, 2, 3], { personId: 5, name: 'Ida Brandt', certainty: 0.93 }), groupOf([7, 8])];

function place(answers: Answers = {}, role: 'cataloguer' | 'viewer' = 'cataloguer') {
  const asked = answering({
    listPersons: { persons: [IDA] },
    listNames: { names: [] },
    listLikenessGroups: { groups: GROUPS, total: 2, faces: 5 },
    apply: DONE,
    scanState: scan,
    ...answers,
  });
  return { ...show(<PeopleScreen />, { role }), asked };
}
const group = async (index: number) =>
  (await within(await screen.findByRole('list', { name: 'Likeness groups' })).findAllByRole('listitem'))[
    index
  ] as HTMLElement;

test('Y says that it is who is asked, for all faces but those left out', async () => {
  const { user, asked } = place();
  await group(0);
  await user.keyboard('{ArrowRight}x');
  expect(within(await group(0)).getByText('left out')).toBeTruthy();
  await user.keyboard('y');
  await waitFor(() =>
    expect(changesIn(asked)).toMatchObject([{ kind: 'nameFaces', faceIds: [1, 3], who: { personId: 5 } }]),
  );
});

test('N refuses the guess; arrows go to the next group, where a name is typed', async () => {
  const { user, asked } = place();
  await group(0);
  await user.keyboard('n');
  await waitFor(() =>
    expect(changesIn(asked)).toMatchObject([{ kind: 'refuseFaces', personId: 5, faceIds: [1, 2, 3] }]),
  );
  await user.keyboard('{ArrowDown}w');
  const name = within(await group(1)).getByRole('combobox', { name: 'Who is this?' });
  expect(document.activeElement).toBe(name);
  await user.keyboard('Rosa{Enter}');
  await waitFor(() =>
    expect(changesIn(asked)[1]).toMatchObject({ kind: 'nameFaces', faceIds: [7, 8], who: { name: 'Rosa' } }),
  );
});

test('what is no face, or not to be named, goes with a key; a viewer changes nothing', async () => {
  const { user, asked, unmount } = place();
  await group(0);
  await user.keyboard('o');
  await waitFor(() =>
    expect(changesIn(asked)).toMatchObject([{ kind: 'setFaces', faceIds: [1, 2, 3], state: 'none' }]),
  );
  unmount();
  const viewer = place({}, 'viewer');
  expect(await screen.findByRole('link', { name: /Ida Brandt/ })).toBeTruthy();
  await viewer.user.keyboard('yno');
  expect(changesIn(viewer.asked)).toEqual([]);
  // Which faces are alike is not told to who names nobody.
  expect(viewer.asked.some(({ name }) => name === 'listLikenessGroups')).toBe(false);
  expect(screen.queryByRole('link', { name: 'Likeness groups' })).toBeNull();
});

test('find by example: what is asked is what stands there; the chosen faces are named', async () => {
  const like = (id: number): LikeFace => ({ ...faceOf(id), likeness: 0.8 });
  const asked = answering({
    listPersons: { persons: [IDA] },
    listNames: { names: [] },
    scanState: scan,
    findLike: { faces: [like(1), like(2), like(3)] },
    apply: DONE,
  });
  const { user } = show(<LikeScreen />, { role: 'cataloguer', at: '/people/like?face=9' });
  expect(await screen.findByText('3 faces')).toBeTruthy();
  await user.click(screen.getByRole('checkbox', { name: 'Smiling' }));
  (await screen.findByRole('slider', { name: 'Strictness' })).focus();
  await user.keyboard('{End}');
  const last = () => asked.filter(({ name }) => name === 'findLike').at(-1)?.body;
  await waitFor(() =>
    expect(last()).toMatchObject({ faceId: 9, smiling: true, eyesOpen: false, named: 'all', strictness: 1 }),
  );
  const tiles = within(
    await screen.findByText('3 faces').then((said) => said.closest('div')?.parentElement as HTMLElement),
  );
  await user.click(tiles.getByRole('button', { name: 'Face in SKM_102.jpg' }));
  await user.type(screen.getByRole('combobox', { name: 'Name them' }), 'Ida{Enter}');
  await waitFor(() =>
    expect(changesIn(asked)).toMatchObject([{ kind: 'nameFaces', faceIds: [2], who: { personId: 5 } }]),
  );
  await user.click(screen.getByRole('button', { name: 'Whole pictures' }));
  expect(screen.getAllByRole('link', { name: /^SKM_10/ })).toHaveLength(3);
});
