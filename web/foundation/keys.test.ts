import { KEYS, shownKey } from './keys';

test('no two actions share a key, and each action has just one', () => {
  const combinations = KEYS.map(({ key, control, shift }) => `${control ? 'Ctrl ' : ''}${shift ? 'Shift ' : ''}${key}`);
  expect(new Set(combinations).size).toBe(combinations.length);
  const actions = KEYS.map(({ action }) => action);
  expect(new Set(actions).size).toBe(actions.length);
});

test('the overview says what every key does', () => {
  for (const { shown, help } of KEYS) expect(shown && help).toBeTruthy();
  expect(shownKey('undo')).toBe('Ctrl Z');
});
