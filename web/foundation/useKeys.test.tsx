/** @jest-environment ./web/testing/browser.cjs */
import { fireEvent, render, screen } from '@testing-library/react';
import type { KeyAction } from './keys';
import { KeysProvider, useKeyCover, useKeys, usePlainKeys } from './useKeys';

const done: string[] = [];
beforeEach(() => done.splice(0));

function Handles({ name, actions, scope }: { name: string; actions: KeyAction[]; scope?: 'frame' | 'cover' }) {
  useKeys(Object.fromEntries(actions.map((action) => [action, () => done.push(`${name} ${action}`)])), scope);
  return null;
}

function Covers() {
  useKeyCover();
  return <Handles name="pass" actions={['keep', 'chooseNone']} scope="cover" />;
}

function Letters({ first }: { first: boolean }) {
  usePlainKeys(['d', 'ö'], (key) => done.push(`letter ${key}`), first);
  return null;
}

const press = (key: string, more: KeyboardEventInit = {}, target: Element = document.body) =>
  fireEvent.keyDown(target, { key, code: key, ...more });

test('of two that handle an action the one mounted last does it, alone; when it goes the other does it again', () => {
  const both = (withViewer: boolean) => (
    <KeysProvider>
      <Handles name="sheet" actions={['left', 'chooseNone']} />
      {withViewer && <Handles name="viewer" actions={['left']} />}
    </KeysProvider>
  );
  const shown = render(both(true));
  press('ArrowLeft');
  press('Escape');
  expect(done).toEqual(['viewer left', 'sheet chooseNone']);
  shown.rerender(both(false));
  press('ArrowLeft');
  expect(done.at(-1)).toBe('sheet left');
});

test('a cover silences the screen below it, not the frame', () => {
  const page = (covered: boolean) => (
    <KeysProvider>
      <Handles name="frame" actions={['undo']} scope="frame" />
      <Handles name="sheet" actions={['chooseNone', 'rate3']} />
      {covered && <Covers />}
    </KeysProvider>
  );
  const shown = render(page(true));
  for (const key of ['3', 'k', 'Escape']) press(key);
  press('z', { ctrlKey: true });
  expect(done).toEqual(['pass keep', 'pass chooseNone', 'frame undo']);
  shown.rerender(page(false));
  press('3');
  expect(done.at(-1)).toBe('sheet rate3');
});

test('keys mean nothing of ours in a text field, a menu or a dialog; a button keeps Enter and Space', () => {
  render(
    <KeysProvider>
      <Handles name="sheet" actions={['rate3', 'open', 'toggle']} />
      <input aria-label="Title" />
      <input type="checkbox" aria-label="Headings" />
      <button type="button">Apply</button>
      <div role="dialog">
        <button type="button">Close</button>
      </div>
    </KeysProvider>,
  );
  press('3', {}, screen.getByLabelText('Title'));
  press('3', {}, screen.getByText('Close'));
  press('Enter', {}, screen.getByText('Apply'));
  press(' ', {}, screen.getByText('Apply'));
  expect(done).toEqual([]);
  press('3', {}, screen.getByText('Apply'));
  press('3', {}, screen.getByLabelText('Headings'));
  press('Enter');
  expect(done).toEqual(['sheet rate3', 'sheet rate3', 'sheet open']);
});

test('keys people choose themselves act after those of the table, or before them where a pad is open', () => {
  const page = (first: boolean) => (
    <KeysProvider>
      <Handles name="drawer" actions={['drawer']} />
      <Letters first={first} />
    </KeysProvider>
  );
  const shown = render(page(false));
  for (const key of ['d', 'ö']) press(key);
  expect(done).toEqual(['drawer drawer', 'letter ö']);
  shown.unmount();
  done.splice(0);
  render(page(true));
  press('d');
  press('d', { shiftKey: true });
  expect(done).toEqual(['letter d']);
});
