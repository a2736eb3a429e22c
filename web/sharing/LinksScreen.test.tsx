/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor, within } from '@testing-library/react';
import type { LinkAnswer, ViewLink } from '@stellin/contract/sharing';
import { answering, changesIn, choose, Refused, show } from '../testing/render';
import { LinkDialog } from './LinkDialog';
import { LinksScreen } from './LinksScreen';

const LINK: ViewLink = {
  id: 3,
  title: 'Kites for the town hall',
  forWhom: 'Ida Brandt',
  by: 'Mara Olt',
  madeAt: '2026-11-01T10:00:00Z',
  follows: null,
  photos: 12,
  hasPassword: true,
  endsAt: '2027-01-01T00:00:00Z',
  mostViews: 5,
  views: 2,
  viewedAt: '2026-11-03T10:00:00Z',
  state: 'open',
};
const NONE = { listAnswers: { answers: [] } };
const OTHERS: ViewLink[] = [
  { ...LINK, id: 2, title: 'Best of all', follows: 'rating:5', photos: null, hasPassword: false },
  { ...LINK, id: 1, title: 'Old', state: 'revoked', viewedAt: null },
];

test('links are listed with how often they were viewed; one is revoked, or all that are open', async () => {
  const asked = answering({ ...NONE, listLinks: { links: [LINK, ...OTHERS] }, revokeLinks: { done: true } });
  const { user } = show(<LinksScreen />);
  const row = within(await screen.findByRole('row', { name: /Kites for the town hall/ }));
  expect(row.getByText('2 of 5')).toBeTruthy();
  expect(row.getByText('open, with a password')).toBeTruthy();
  expect(screen.getByText('follows rating:5')).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Revoke Old' })).toBeNull();
  await user.click(row.getByRole('button', { name: 'Revoke Kites for the town hall' }));
  await user.click(screen.getByRole('button', { name: 'Revoke all' }));
  await waitFor(() =>
    expect(asked.flatMap(({ name, body }) => (name === 'revokeLinks' ? [body] : []))).toEqual([
      { ids: [3] },
      { ids: [3, 2] },
    ]),
  );
});

test('a new address is told once', async () => {
  answering({ ...NONE, listLinks: { links: [LINK] }, renewLink: { id: 3, address: '/v/abc' } });
  const { user } = show(<LinksScreen />);
  await user.click(await screen.findByRole('button', { name: 'New address for Kites for the town hall' }));
  expect((await screen.findByLabelText<HTMLInputElement>('Address')).value).toBe('http://localhost/v/abc');
});

const meant = { selection: { query: 'rating:5', minus: [], plus: [] }, sort: 'taken' as const };

test('a link is made of what is meant, fixed or following, and its address is told', async () => {
  const asked = answering({ makeLink: { id: 4, address: 'https://archive.example/v/xyz' }, listLinks: { links: [] } });
  const { user } = show(<LinkDialog meant={meant} onClose={() => undefined} />);
  const title = await screen.findByRole('textbox', { name: /^Title/ });
  await user.clear(title);
  await user.type(title, 'Five stars');
  await user.click(screen.getByRole('radio', { name: /whatever is found/ }));
  await user.type(screen.getByRole('textbox', { name: 'Password' }), 'tern');
  await user.type(screen.getByRole('textbox', { name: 'Viewings at most' }), '9');
  await user.click(screen.getByRole('checkbox', { name: 'Terms' }));
  await user.click(screen.getByRole('button', { name: 'Make the link' }));
  expect((await screen.findByLabelText<HTMLInputElement>('Address')).value).toBe('https://archive.example/v/xyz');
  expect(asked.find(({ name }) => name === 'makeLink')?.body).toMatchObject({
    source: { kind: 'following', query: 'rating:5', sort: 'taken' },
    settings: { title: 'Five stars', terms: true, people: false, downloads: false },
    ...{ password: 'tern', mostViews: 9, endsOn: null },
  });
});

test('a link in an order that is chosen, with a map, for viewers and pages of others, whose addresses are looked at', async () => {
  const asked = answering({ makeLink: { id: 4, address: '/v/xyz' }, listLinks: { links: [] } });
  const { user } = show(<LinkDialog meant={meant} onClose={() => undefined} />);
  await choose(user, await screen.findByLabelText('Order'), 'File name ↑');
  await user.click(screen.getByRole('checkbox', { name: /on a map/ }));
  await user.click(screen.getByRole('checkbox', { name: /IIIF/ }));
  const pages = screen.getByLabelText('Pages that may show it in a frame');
  await user.type(pages, 'https://museum.example/news');
  await user.click(screen.getByRole('button', { name: 'Make the link' }));
  expect(await screen.findByText(/nothing behind them/)).toBeTruthy();
  await user.clear(pages);
  await user.type(pages, 'https://museum.example{Enter}https://town.example:8080');
  await user.click(screen.getByRole('button', { name: 'Make the link' }));
  await screen.findByLabelText('Address');
  expect(asked.find(({ name }) => name === 'makeLink')?.body).toMatchObject({
    source: { kind: 'fixed', sort: 'name' },
    settings: {
      map: true,
      iiif: true,
      tellAfter: null,
      embedOn: ['https://museum.example', 'https://town.example:8080'],
    },
  });
});

test('who follows a link may be told of new pictures', async () => {
  const asked = answering({ makeLink: { id: 4, address: '/v/xyz' }, listLinks: { links: [] } });
  const { user } = show(<LinkDialog meant={meant} onClose={() => undefined} />);
  expect(screen.queryByLabelText('Tell when so many are new')).toBeNull();
  await user.click(await screen.findByRole('radio', { name: /whatever is found/ }));
  await user.type(screen.getByLabelText('Tell when so many are new'), '12');
  await user.click(screen.getByRole('button', { name: 'Make the link' }));
  await screen.findByLabelText('Address');
  expect(asked.find(({ name }) => name === 'makeLink')?.body).toMatchObject({ settings: { tellAfter: 12 } });
});

test('what is refused is said, and what was typed stays', async () => {
  answering({ makeLink: new Refused(400, 'badRequest', 'There are none.') });
  const chosen = { ...meant, selection: { query: null, minus: [], plus: [1] } };
  const { user } = show(<LinkDialog meant={chosen} onClose={() => undefined} />);
  const words = await screen.findByRole('textbox', { name: 'Words below the title' });
  await user.type(words, 'For you');
  expect(screen.queryByRole('radio')).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Make the link' }));
  expect((await screen.findByRole('alert')).textContent).toBe('There are none.');
  expect((words as HTMLTextAreaElement).value).toBe('For you');
});

const ANSWER: LinkAnswer = {
  ...{ id: 1, link: 'Kites', kind: 'remark', text: 'The tern at noon', sender: 'Ida', at: '2026-11-02T10:00:00Z' },
  ...{ photoId: 7, name: 'a.jpg', previewVersion: 1 },
};

test('answers wait: they are corrected and accepted by a change, or refused', async () => {
  const answers: LinkAnswer[] = [
    ANSWER,
    { ...ANSWER, id: 2, kind: 'favourite', text: '', photoId: 8 },
    { ...ANSWER, id: 3, kind: 'favourite', text: '', photoId: 9 },
    { ...ANSWER, id: 4, kind: 'name', text: 'Tomas Rehak' },
  ];
  const asked = answering({
    listLinks: { links: [] },
    listAnswers: { answers },
    settleAnswers: { done: true },
    apply: { entry: { id: 1, at: '', by: '', title: 'Set', photos: 1, state: 'done', objectId: null }, job: null },
  });
  const { user } = show(<LinksScreen />);
  const remark = within(await screen.findByRole('listitem', { name: 'A remark, from Ida' }));
  await user.type(remark.getByRole('textbox', { name: 'In words' }), ', 1962');
  await user.click(remark.getByRole('button', { name: 'Add to the caption' }));
  const favourites = within(screen.getByRole('listitem', { name: 'It is one of my favourites, from Ida' }));
  await user.click(favourites.getByRole('button', { name: 'Gather in a dossier' }));
  const name = within(screen.getByRole('listitem', { name: 'I know who is in it, from Ida' }));
  await user.click(name.getByRole('button', { name: 'Refuse' }));
  await waitFor(() =>
    expect(asked.flatMap(({ name: called, body }) => (called === 'settleAnswers' ? [body] : []))).toEqual(
      expect.arrayContaining([
        { ids: [1], accepted: true },
        { ids: [2, 3], accepted: true },
        { ids: [4], accepted: false },
      ]),
    ),
  );
  expect(changesIn(asked)).toMatchObject([
    {
      kind: 'setFields',
      selection: { plus: [7] },
      edits: [{ target: 'description', mode: 'add', value: 'The tern at noon, 1962' }],
    },
    { kind: 'makeDossier', name: 'Favourites of Ida: Kites', selection: { plus: [8, 9] } },
  ]);
});
