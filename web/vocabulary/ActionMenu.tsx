// What can be done with a term besides filling in its card.

import { DropdownMenu } from 'radix-ui';
import type { TermCard } from '@stellin/contract/vocabulary';
import { shownKey, type KeyAction } from '../foundation/keys';
import { Kbd } from '../parts/Kbd';

export type Action =
  | 'rename'
  | 'addBelow'
  | 'addBeside'
  | 'move'
  | 'merge'
  | 'split'
  | 'heading'
  | 'deprecate'
  | 'remove'
  | 'broader'
  | 'related';

interface Item {
  action: Action;
  label: (card: TermCard) => string;
  keyName?: KeyAction;
}

const GROUPS: readonly (readonly Item[])[] = [
  [
    { action: 'addBelow', label: () => 'Add below', keyName: 'addBelow' },
    { action: 'addBeside', label: () => 'Add beside', keyName: 'addBeside' },
    { action: 'rename', label: () => 'Rename', keyName: 'rename' },
  ],
  [
    { action: 'move', label: () => 'Move …', keyName: 'move' },
    { action: 'merge', label: () => 'Merge into another …', keyName: 'merge' },
    { action: 'split', label: () => 'Split into narrower …' },
  ],
  [
    { action: 'broader', label: () => 'Put below another, too …' },
    { action: 'related', label: () => 'Relate to another …' },
  ],
  [
    {
      action: 'heading',
      label: ({ heading }) => (heading ? 'Make it a term that can be given' : 'Make it a heading …'),
    },
    { action: 'deprecate', label: ({ deprecated }) => (deprecated ? 'Take into use again' : 'Deprecate …') },
    { action: 'remove', label: () => 'Remove …', keyName: 'trash' },
  ],
];

export function ActionMenu({ card, onAction }: { card: TermCard; onAction: (action: Action) => void }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="inline-flex h-8 items-center rounded border border-line bg-card px-3 hover:border-ink-3">
        Change …
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={4}
          className="z-40 min-w-60 rounded-md border border-line bg-card p-1 text-[13px] shadow-lg"
        >
          {GROUPS.map((group, i) => (
            <DropdownMenu.Group key={i} className={i > 0 ? 'mt-1 border-t border-line pt-1' : ''}>
              {group.map(({ action, label, keyName }) => (
                <DropdownMenu.Item
                  key={action}
                  className="flex cursor-pointer items-center justify-between gap-4 rounded px-2.5 py-1 outline-none data-highlighted:bg-spruce-pale"
                  // What comes next takes the focus; the menu does not take it back.
                  onSelect={() => setTimeout(() => onAction(action))}
                >
                  {label(card)}
                  {keyName && <Kbd>{shownKey(keyName)}</Kbd>}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Group>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
