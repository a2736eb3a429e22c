// What key presses do. A screen names the actions it handles; the table of keys says which key each has. Where two mounted
// parts handle the same action, the one mounted last does it, and only that one.

import { createContext, useContext, useEffect, useId, useLayoutEffect, useState, type ReactNode } from 'react';
import { HotkeysProvider, useHotkeys, useHotkeysContext } from 'react-hotkeys-hook';
import { keyPressed, type KeyAction } from './keys';

/** Where keys act: the frame around the places, the screen of a place, or what covers that screen and silences its keys. */
type KeyScope = 'frame' | 'screen' | 'cover';

const ALWAYS: KeyScope[] = ['frame', 'screen'];

/** Who handles an action, the latest last. */
type Handling = Map<KeyAction, string[]>;
const HandlingContext = createContext<Handling>(new Map());

/** Makes keys act in what it holds. */
export function KeysProvider({ children }: { children: ReactNode }) {
  const [handling] = useState<Handling>(() => new Map());
  return (
    <HotkeysProvider initiallyActiveScopes={ALWAYS}>
      <HandlingContext value={handling}>{children}</HandlingContext>
    </HotkeysProvider>
  );
}

/** Does something when keys are pressed. Keys without Ctrl act only while no text field, menu or dialog has the focus. */
export function useKeys(
  handlers: Partial<Record<KeyAction, (extend: boolean) => void>>,
  scope: KeyScope = 'screen',
): void {
  const handling = useContext(HandlingContext);
  const me = useId();
  const actions = Object.keys(handlers).sort().join(' ');
  useLayoutEffect(() => {
    const mine = actions.split(' ') as KeyAction[];
    for (const action of mine) handling.set(action, [...(handling.get(action) ?? []), me]);
    return () => {
      for (const action of mine)
        handling.set(
          action,
          (handling.get(action) ?? []).filter((each) => each !== me),
        );
    };
  }, [handling, actions, me]);
  useHotkeys(
    ANY_KEY,
    (event) => {
      const entry = keyPressed(event);
      const handler = entry && handlers[entry.action];
      if (!entry || !handler || handling.get(entry.action)?.at(-1) !== me || meansItsOwn(event)) return;
      event.preventDefault();
      handler(event.shiftKey);
    },
    { ...LISTENING, scopes: scope },
  );
}

/** While mounted, the screen below is covered: only keys of the scope `cover` and those of the frame act. */
export function useKeyCover(): void {
  const { enableScope, disableScope } = useHotkeysContext();
  useEffect(() => {
    disableScope('screen');
    enableScope('cover');
    return () => {
      disableScope('cover');
      enableScope('screen');
    };
  }, [enableScope, disableScope]);
}

/**
 * Does something when one of some plain keys is pressed that people choose themselves.
 * `first`: before anything else that these keys mean.
 */
export function usePlainKeys(keys: readonly string[], handler: (key: string) => void, first = false): void {
  useHotkeys(
    ANY_KEY,
    (event) => {
      const key = event.key.toLowerCase();
      if (event.ctrlKey || event.metaKey || event.altKey || event.shiftKey) return;
      if (!keys.includes(key) || meansItsOwn(event)) return;
      event.preventDefault();
      handler(key);
    },
    { ...LISTENING, scopes: 'screen' satisfies KeyScope, eventListenerOptions: { capture: first } },
  );
}

const ANY_KEY = '*';
const LISTENING = { enableOnFormTags: true, enableOnContentEditable: true, ignoreEventWhen: isHandled } as const;

function isHandled(event: KeyboardEvent): boolean {
  return event.defaultPrevented;
}

/** Whether the focus is where this key means something of its own. */
function meansItsOwn({ target, key, ctrlKey, metaKey }: KeyboardEvent): boolean {
  if (!(target instanceof HTMLElement)) return false;
  // Text that is marked is what is copied.
  if ((ctrlKey || metaKey) && key === 'c' && window.getSelection()?.toString()) return true;
  if (target.closest('[role="dialog"], [role="menu"], [role="listbox"]:has([data-radix-collection-item])')) return true;
  if ((key === ' ' || key === 'Enter') && target.closest('button, a, [role="tab"], input, summary')) return true;
  return (
    target.isContentEditable ||
    (target instanceof HTMLInputElement && target.type !== 'checkbox') ||
    target instanceof HTMLTextAreaElement ||
    target instanceof HTMLSelectElement
  );
}
