/** @jest-environment ./web/testing/browser.cjs */
// The dialogs that describe many photos: what is said in them, before and after, and the change that is sent.

import { screen, waitFor, within } from '@testing-library/react';
import type { ReactElement } from 'react';
import { DONE } from '../testing/fixtures';
import { answering, changesIn, choose, Refused, show, type Answers } from '../testing/render';
import { QualityDialog } from './QualityDialog';
import { ReplaceDialog } from './ReplaceDialog';
import { TemplateDialog } from './TemplateDialog';
import { TidyDialog } from './TidyDialog';
import { TimeDialog } from './TimeDialog';

const selection = { query: 'kind:jpeg', minus: [], plus: [] };
const agreement = {
  photos: 2,
  fields: [
    { target: 'headline', photos: 2, distinct: 2, values: [{ value: 'Kites', photos: 1 }] },
    { target: 'description', photos: 1, distinct: 1, values: [{ value: 'Over the dunes', photos: 1 }] },
  ],
};
const field = { field: 'headline', label: 'Headline', before: 'Kites', after: 'Dragons', cut: false };
const preview = {
  problem: null,
  looked: 2,
  meant: 2,
  changing: 2,
  cuts: 0,
  photos: [
    { photoId: 1, name: 'SKM_1.jpg', previewVersion: 1, fields: [field] },
    { photoId: 2, name: 'SKM_2.jpg', previewVersion: 1, fields: [field] },
  ],
};
const prepared = {
  fieldSets: [],
  templates: [],
  rules: [
    {
      id: 4,
      name: 'For loan',
      query: 'dossier:Loans',
      requires: ['caption'],
      lacking: [{ part: 'caption', query: 'q' }],
    },
  ],
};

function open(dialog: (onClose: () => void) => ReactElement, answers: Answers = {}) {
  const asked = answering({
    agreement,
    previewDescription: preview,
    showPrepared: prepared,
    countPhotos: { count: 3, folded: 0, milliseconds: 1, errors: [] },
    showTemplateVersions: { versions: [] },
    apply: DONE,
    ...answers,
  });
  let closed = 0;
  const view = show(dialog(() => closed++));
  return { ...view, asked, closed: () => closed };
}

test('what replacing does is seen before it is done; a photo can be left out', async () => {
  const { user, asked, closed } = open((onClose) => <ReplaceDialog selection={selection} onClose={onClose} />);
  await user.type(screen.getByLabelText('Find'), 'Kites');
  await user.type(screen.getByLabelText(/^Replace by/), 'Dragons');
  await user.click(screen.getByRole('radio', { name: 'whole words' }));
  await user.click(await screen.findByRole('checkbox', { name: 'Change SKM_2.jpg' }));
  await user.click(screen.getByRole('button', { name: /^Replace in 1 photo/ }));
  await waitFor(() => expect(closed()).toBe(1));
  expect(changesIn(asked)).toMatchObject([
    { kind: 'replaceText', find: 'Kites', replace: 'Dragons', how: 'words', selection: { ...selection, minus: [2] } },
  ]);
});

test('a description that is refused is said and stays to be mended', async () => {
  const { user, closed } = open((onClose) => <ReplaceDialog selection={selection} onClose={onClose} />, {
    previewDescription: { ...preview, problem: 'The pattern is not closed.', changing: 0, photos: [] },
    apply: new Refused(409, 'describingRefused', 'no'),
  });
  await user.click(screen.getByRole('radio', { name: 'regular expression' }));
  await user.type(screen.getByLabelText('Find'), '(Kites');
  expect(await screen.findByText('The pattern is not closed.')).toBeTruthy();
  expect(screen.getByRole<HTMLButtonElement>('button', { name: /^Replace in/ }).disabled).toBe(true);
  expect(closed()).toBe(0);
});

test('rules of tidying are chosen one by one', async () => {
  const { user, asked } = open((onClose) => <TidyDialog selection={selection} onClose={onClose} />);
  const [first] = await screen.findAllByRole('checkbox');
  const button = () => screen.getByRole<HTMLButtonElement>('button', { name: /^Tidy/ });
  await waitFor(() => expect(button().disabled).toBe(false));
  await user.click(first as HTMLElement);
  expect(button().disabled).toBe(true);
  await user.click(first as HTMLElement);
  await waitFor(() => expect(button().disabled).toBe(false));
  await user.click(button());
  await waitFor(() => expect(changesIn(asked)).toMatchObject([{ kind: 'tidyText', rules: ['space'], selection }]));
});

test('a clock that was wrong is set right: hours, earlier, of all photos', async () => {
  const { user, asked } = open((onClose) => <TimeDialog selection={selection} photo={undefined} onClose={onClose} />);
  await user.clear(screen.getByLabelText('Hours'));
  await user.type(screen.getByLabelText('Hours'), '2');
  await choose(user, screen.getByLabelText('Direction'), 'earlier');
  const button = await screen.findByRole('button', { name: /^Change 2 photos/ });
  await user.click(button);
  await waitFor(() =>
    expect(changesIn(asked)).toMatchObject([{ kind: 'changeTime', change: { how: 'shift', seconds: -7200 } }]),
  );
});

test('an uncertain date is said in words and kept as EDTF, or nothing is sent', async () => {
  const { user, asked } = open((onClose) => <TimeDialog selection={selection} photo={undefined} onClose={onClose} />);
  await user.click(screen.getByRole('radio', { name: /uncertain|date/i }));
  const box = screen.getByPlaceholderText(/1932|19/);
  await user.type(box, 'around noon');
  const button = () => screen.getByRole<HTMLButtonElement>('button', { name: /^Change/ });
  await waitFor(() => expect(button().disabled).toBe(true));
  await user.clear(box);
  await user.type(box, 'about 1932');
  expect(await screen.findByText('about 1932 (1932~)')).toBeTruthy();
  await waitFor(() => expect(button().disabled).toBe(false));
  await user.click(button());
  await waitFor(() => expect(changesIn(asked)).toMatchObject([{ change: { how: 'date', date: '1932~' } }]));
});

test('a template takes fields with placeholders; what is wrong in a row is said there', async () => {
  const draft = { id: null, name: '', note: '', edits: [], terms: [], shared: true };
  const { user, asked } = open((onClose) => <TemplateDialog draft={draft} onClose={onClose} />);
  const keep = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Keep the template' });
  await user.type(screen.getByLabelText('Name'), 'Job numbers');
  expect(keep().disabled).toBe(true);
  await choose(user, screen.getByLabelText('Add a field'), 'Headline');
  await user.click(screen.getByLabelText('Headline'));
  await user.keyboard('Job ');
  const [placeholder] = within(screen.getByRole('group', { name: 'Placeholders' })).getAllByRole('button');
  await user.click(placeholder as HTMLElement);
  expect(screen.getByLabelText<HTMLInputElement>('Headline').value).toMatch(/^Job \{.+\}$/);
  await user.type(screen.getByLabelText('Headline'), ' {{nothing}');
  expect(screen.getByText(/nothing/)).toBeTruthy();
  expect(keep().disabled).toBe(true);
  await user.clear(screen.getByLabelText('Headline'));
  await user.type(screen.getByLabelText('Headline'), 'Job 12');
  await user.click(keep());
  await waitFor(() =>
    expect(changesIn(asked)).toMatchObject([
      {
        kind: 'saveTemplate',
        templateId: null,
        name: 'Job numbers',
        shared: true,
        edits: [{ target: 'headline', mode: 'replace', value: 'Job 12' }],
      },
    ]),
  );
});

test('an earlier version of a template is taken into the form', async () => {
  const edits = [{ target: 'headline' as const, mode: 'fill' as const, value: 'Kites' }];
  const { user } = open(
    (onClose) => (
      <TemplateDialog draft={{ id: 3, name: 'Now', note: '', edits: [], terms: [], shared: true }} onClose={onClose} />
    ),
    {
      showTemplateVersions: {
        versions: [
          { at: '2026-05-01T10:00:00Z', by: 'The keeper', template: { name: 'Then', note: 'n', edits, termIds: [] } },
        ],
      },
    },
  );
  await user.click(await screen.findByText('Earlier versions'));
  await user.click(screen.getByRole('button', { name: 'Take this into the form' }));
  expect(screen.getByLabelText<HTMLInputElement>('Name').value).toBe('Then');
  expect(screen.getByLabelText<HTMLInputElement>('Headline').value).toBe('Kites');
});

test('a rule of quality: its query has to be understood, and something asked for', async () => {
  const { user, asked } = open((onClose) => <QualityDialog onClose={onClose} />);
  expect(await screen.findByText('3 lack it')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'New rule …' }));
  await user.type(screen.getByLabelText('Name'), 'For print');
  await user.type(screen.getByLabelText(/^Photos it is about/), 'rating:four');
  await user.tab();
  expect(await screen.findByText(/takes a number/)).toBeTruthy();
  await user.clear(screen.getByLabelText(/^Photos it is about/));
  await user.type(screen.getByLabelText(/^Photos it is about/), 'rating:>=4');
  await choose(user, screen.getByLabelText('Add what they must have'), 'people');
  await user.click(screen.getByRole('button', { name: 'Without terms' }));
  await user.click(screen.getByRole('button', { name: /^Keep|^Save/ }));
  await waitFor(() =>
    expect(changesIn(asked)).toEqual([
      {
        kind: 'saveQualityRule',
        ruleId: null,
        name: 'For print',
        query: 'rating:>=4',
        requires: ['caption', 'people'],
      },
    ]),
  );
});
