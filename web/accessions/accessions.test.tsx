/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import { NO_PROVENANCE } from '@stellin/contract/accessions';
import { DONE } from '../testing/fixtures';
import { answering, changesIn, show } from '../testing/render';
import { ProvenanceDialog } from './ProvenanceDialog';

const PAPER = { id: 5, name: 'Letter.pdf', bytes: 12_000, addedAt: '2026-05-03T10:00:00Z', addedBy: 'Mara' };
const ANSWERS = {
  showProvenance: { provenance: { ...NO_PROVENANCE, donor: 'Edda Kessel' }, papers: [PAPER] },
  apply: DONE,
  addPaper: { done: true },
  removePaper: { done: true },
};

test('what is said of an accession is kept as a whole', async () => {
  const asked = answering(ANSWERS);
  const { user } = show(<ProvenanceDialog accessionId={3} onClose={() => undefined} />);
  await user.type(await screen.findByLabelText('Number'), '2026-014');
  await user.type(screen.getByLabelText('Holds until'), '2031-12-31');
  await user.click(screen.getByRole('button', { name: 'Keep' }));
  await waitFor(() =>
    expect(changesIn(asked)).toEqual([
      {
        ...{ kind: 'describeAccession', accessionId: 3, ...NO_PROVENANCE },
        ...{ number: '2026-014', donor: 'Edda Kessel', ends: '2031-12-31' },
      },
    ]),
  );
});

test('a paper is attached, and removed only when that was said twice', async () => {
  const asked = answering(ANSWERS);
  const { user } = show(<ProvenanceDialog accessionId={3} onClose={() => undefined} />);
  const link = await screen.findByRole('link', { name: 'Letter.pdf' });
  expect(link.getAttribute('href')).toBe('/api/papers/5');
  await user.upload(screen.getByLabelText('Paper to attach'), new File(['a list'], 'List.txt'));
  await waitFor(() =>
    expect(asked.find(({ name }) => name === 'addPaper')?.body).toEqual({ name: 'List.txt', content: btoa('a list') }),
  );
  const remove = screen.getByRole('button', { name: 'Remove Letter.pdf for good' });
  await user.click(remove);
  expect(asked.some(({ name }) => name === 'removePaper')).toBe(false);
  await user.click(remove);
  await waitFor(() => expect(asked.find(({ name }) => name === 'removePaper')?.params).toEqual({ id: 5 }));
});
