/** @jest-environment ./web/testing/browser.cjs */
import { screen } from '@testing-library/react';
import { useState } from 'react';
import { show } from '../testing/render';
import { Combobox } from './Combobox';

const KITES = ['Delta', 'Delta stack', 'Rokkaku', 'Sled'];
const picked: string[] = [];
beforeEach(() => picked.splice(0));

type Options = Partial<Omit<React.ComponentProps<typeof Combobox>, 'text' | 'onText' | 'options' | 'listLabel'>>;

function Kites(options: Options) {
  const [text, setText] = useState('');
  const [submitted, setSubmitted] = useState(0);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        setSubmitted(submitted + 1);
      }}
    >
      <Combobox
        label="Kite"
        listLabel="Kites found"
        text={text}
        onText={setText}
        options={KITES.filter((kite) => kite.toLowerCase().includes(text.toLowerCase())).map((kite) => ({
          key: kite,
          content: kite,
          onPick: () => {
            picked.push(kite);
            setText('');
          },
        }))}
        {...options}
      />
      <button type="button">Elsewhere</button>
      <output>submitted {submitted}</output>
    </form>
  );
}

const field = () => screen.getByRole<HTMLInputElement>('combobox', { name: 'Kite' });
const inFocus = () => screen.queryByRole('option', { selected: true })?.textContent;

test('the first option is in focus as one types, arrows move it, Enter picks it', async () => {
  const { user } = show(<Kites firstInFocus />);
  await user.type(field(), 'delt');
  expect(inFocus()).toBe('Delta');
  expect(field().getAttribute('aria-activedescendant')).toBe(screen.getByRole('option', { name: 'Delta' }).id);
  await user.keyboard('{ArrowDown}{Enter}');
  expect(picked).toEqual(['Delta stack']);
  expect(screen.queryByRole('listbox', { name: 'Kites found' })).toBeNull();
  expect(document.activeElement).toBe(field());
});

test('a click picks and leaves the focus in the field; leaving the field picks nothing', async () => {
  const { user } = show(<Kites firstInFocus />);
  await user.type(field(), 'e');
  await user.click(screen.getByRole('option', { name: 'Sled' }));
  expect(picked).toEqual(['Sled']);
  expect(document.activeElement).toBe(field());
  await user.type(field(), 'rok');
  await user.click(screen.getByRole('button', { name: 'Elsewhere' }));
  expect(picked).toEqual(['Sled']);
  expect(field().value).toBe('rok');
});

test('without a first option in focus Enter is the form’s; Esc closes the list and keeps the text', async () => {
  const { user } = show(<Kites />);
  await user.type(field(), 'sl{Enter}');
  expect(picked).toEqual([]);
  expect(screen.getByText('submitted 1')).toBeTruthy();
  await user.type(field(), 'e');
  expect(screen.getByRole('listbox')).toBeTruthy();
  await user.keyboard('{Escape}');
  expect(screen.queryByRole('listbox')).toBeNull();
  expect(field().value).toBe('sle');
});

test('Enter before the answer is there picks the first of the answer', async () => {
  const Late = () => {
    const [answered, setAnswered] = useState(false);
    return (
      <>
        <Kites firstInFocus answered={answered} />
        <button type="button" onMouseDown={(event) => event.preventDefault()} onClick={() => setAnswered(true)}>
          Answer
        </button>
      </>
    );
  };
  const { user } = show(<Late />);
  await user.type(field(), 'rok{Enter}');
  expect(picked).toEqual([]);
  await user.click(screen.getByText('Answer'));
  expect(picked).toEqual(['Rokkaku']);
});

test('what cannot be found is said, and nothing is offered before something is typed', async () => {
  const { user } = show(<Kites nothing="No kite is called so." />);
  await user.click(field());
  expect(screen.queryByRole('listbox')).toBeNull();
  await user.type(field(), 'barge');
  expect(screen.getByText('No kite is called so.')).toBeTruthy();
});

test('where asked for, all is offered before something is typed', async () => {
  const { user } = show(<Kites opensEmpty />);
  await user.click(field());
  expect(screen.getAllByRole('option')).toHaveLength(KITES.length);
});
