/** @jest-environment ./web/testing/browser.cjs */
import { screen } from '@testing-library/react';
import { useState } from 'react';
import type { Draft } from '@stellin/core/describing/drafts';
import { type Target, DESCRIBED_FIELDS } from '@stellin/core/describing/targets';
import type { FieldValue } from '@stellin/core/metadata/fields';
import { answering, choose, show } from '../testing/render';
import { FieldRow } from './FieldRow';

beforeEach(() => void answering({ suggest: { suggestions: [] } }));

function Row({ target, values = [], photos = 1 }: { target: Target; values?: FieldValue[]; photos?: number }) {
  const [draft, setDraft] = useState<Draft>();
  return (
    <>
      <FieldRow
        target={target}
        entry={undefined}
        agreement={{
          target,
          photos: values.length,
          distinct: values.length,
          values: values.map((value) => ({ value, photos: 1 })),
        }}
        photos={photos}
        draft={draft}
        onDraft={setDraft}
        readOnly={false}
      />
      <output data-testid="draft">{JSON.stringify(draft ?? null)}</output>
    </>
  );
}
const draft = () => JSON.parse(screen.getByTestId('draft').textContent ?? 'null') as unknown;

test('every field’s box is called by its whole label', () => {
  for (const { id, label } of DESCRIBED_FIELDS) {
    const { unmount } = show(<Row target={id} />);
    expect([label, screen.getAllByLabelText(label).length > 0]).toEqual([label, true]);
    unmount();
  }
});

test('what is typed becomes a draft; typing what is there takes it back', async () => {
  const { user } = show(<Row target="headline" values={['Kites']} />);
  const box = screen.getByLabelText('Headline');
  await user.type(box, '!');
  expect(draft()).toEqual({ mode: 'replace', typed: 'Kites!' });
  await user.keyboard('{Backspace}');
  expect(draft()).toBeNull();
});

test('a text in one language offers others; one in several lets choose by name', async () => {
  const first = show(<Row target="title" values={['Kites']} />);
  await first.user.click(screen.getByRole('button', { name: 'Add a language to Title' }));
  await first.user.type(screen.getByLabelText('Language of Title'), 'de{Enter}');
  await first.user.type(screen.getByLabelText('Title'), 'Drachen');
  expect(draft()).toEqual({ mode: 'replace', typed: 'Drachen', language: 'de' });
  first.unmount();
  const { user } = show(<Row target="title" values={[{ 'x-default': 'Kites', de: 'Drachen' }]} />);
  const choice = screen.getByLabelText('Language of Title');
  await user.click(choice);
  const languages = screen.getAllByRole('option').map(({ textContent }) => textContent);
  expect(languages).toEqual(['All languages', 'German', 'another …']);
  await user.keyboard('{Escape}');
  await choose(user, choice, 'German');
  expect(screen.getByLabelText<HTMLInputElement>('Title').value).toBe('Drachen');
});

test('a text opens in the language one likes to read, where it is said in it', async () => {
  const said = show(<Row target="title" values={[{ 'x-default': 'Kites', 'de-AT': 'Drachen' }]} />, { language: 'de' });
  const box = screen.getByLabelText<HTMLInputElement>('Title');
  expect(box.value).toBe('Drachen');
  await said.user.type(box, '!');
  expect(draft()).toEqual({ mode: 'replace', typed: 'Drachen!', language: 'de-AT' });
  said.unmount();
  show(<Row target="title" values={[{ 'x-default': 'Kites', fr: 'Cerfs-volants' }]} />, { language: 'de' });
  expect(screen.getByLabelText<HTMLInputElement>('Title').value).toBe('Kites');
});

test('of several photos each value can be put in, and how', async () => {
  const { user } = show(<Row target="city" values={['Saltmarsh', 'Saltmarsh Ness']} photos={3} />);
  await user.click(screen.getByText('2 values'));
  await user.click(screen.getByRole('button', { name: /Saltmarsh Ness/ }));
  expect(draft()).toMatchObject({ mode: 'replace', typed: { value: 'Saltmarsh Ness' } });
  await choose(user, screen.getByLabelText('How City is put in'), 'fill only empty');
  expect(draft()).toMatchObject({ mode: 'fill' });
  await user.click(screen.getByRole('button', { name: 'Reset' }));
  expect(draft()).toBeNull();
});
