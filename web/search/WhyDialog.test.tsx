/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import type { UserEvent } from '@testing-library/user-event';
import { answering, show, type Asked } from '../testing/render';
import { WhyDialog } from './WhyDialog';

const leaf = (text: string, met: boolean, own: string) => ({ kind: 'criterion', text, met, own, of: [] });
const why = {
  photoId: 7,
  path: 'Vault 1/2019/SKM_7.jpg',
  shown: false,
  remark: '',
  explanation: {
    kind: 'all',
    text: '',
    met: false,
    own: '',
    of: [leaf('kind:jpeg', true, 'jpeg'), leaf('rating:>=3', false, '1')],
  },
};

function dialog(query: string, answer: unknown = { candidates: [], why }, photo: { id?: number } = { id: 7 }) {
  const asked = answering({ why: answer });
  const shown: unknown[] = [];
  const view = show(
    <WhyDialog query={query} photoId={photo.id} show={(next) => shown.push(next)} onClose={() => undefined} />,
  );
  return { ...view, asked, shown };
}

const press = async (user: UserEvent, name: string) => user.click(await screen.findByRole('button', { name }));

test('each condition says whether it is met and what the photo says; one click changes it', async () => {
  const { user, shown } = dialog('kind:jpeg rating:>=3');
  expect(await screen.findByText('The result does not show it.')).toBeTruthy();
  expect(screen.getByText('says 1')).toBeTruthy();
  await press(user, 'Take off rating:>=3');
  await press(user, 'Turn round rating:>=3');
  expect(shown).toEqual([{ query: 'kind:jpeg' }, { query: 'kind:jpeg not rating:>=3' }]);
});

test('another photo is asked for by its name; of several called so one is chosen', async () => {
  const { user, asked } = dialog('kind:jpeg', ({ body }: Asked) =>
    (body as { photo: unknown }).photo === 'SKM_9.jpg'
      ? {
          candidates: [
            { photoId: 9, path: 'Vault 1/SKM_9.jpg' },
            { photoId: 10, path: 'Vault 2/SKM_9.jpg' },
          ],
          why: null,
        }
      : { candidates: [], why },
  );
  await user.click(screen.getByLabelText('Another photo, by name or path'));
  await user.paste('SKM_9.jpg');
  await press(user, 'Vault 2/SKM_9.jpg');
  await waitFor(() => expect(asked.at(-1)?.body).toMatchObject({ photo: 10 }));
  expect(screen.getByLabelText<HTMLInputElement>('Another photo, by name or path').value).toBe('');
});

test('without a photo it asks for one; without a query all photos are shown', async () => {
  const first = dialog('kind:jpeg', undefined, {});
  expect(screen.getByText(/Choose a photo on the sheet/)).toBeTruthy();
  expect(first.asked).toEqual([]);
  first.unmount();
  dialog('', { candidates: [], why: { ...why, shown: true, explanation: leaf('', true, '') } });
  expect(await screen.findByText('Nothing is asked: all photos are shown.')).toBeTruthy();
});
