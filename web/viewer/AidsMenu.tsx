// The menu of what helps to see a picture.

import { Check } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { shownKey } from '../foundation/keys';
import { AIDS, type Aid, type Aids } from './aids';

interface Props {
  aids: Aids;
  onChange: (aid: Aid) => void;
  onTurn: ((way: 'left' | 'right') => void) | undefined;
  onLike: (() => void) | undefined;
}

const ITEM =
  'flex cursor-pointer items-center gap-2 rounded px-2.5 py-1 outline-none data-[highlighted]:bg-spruce-pale';

export function AidsMenu({ aids, onChange, onTurn, onLike }: Props) {
  const isOn = Object.values(aids).some(Boolean);
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        className={`h-7 rounded-md border px-2.5 text-[13px] hover:border-ink-3 ${isOn ? 'border-spruce bg-spruce-pale' : 'border-line bg-card'}`}
      >
        Look closer
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-40 min-w-60 rounded-md border border-line bg-card p-1 text-[13px] shadow-lg"
        >
          {(Object.keys(AIDS) as Aid[]).map((aid) => (
            <DropdownMenu.CheckboxItem
              key={aid}
              checked={aids[aid]}
              className={ITEM}
              onCheckedChange={() => onChange(aid)}
            >
              <span className="w-4">
                <DropdownMenu.ItemIndicator>
                  <Check size={14} />
                </DropdownMenu.ItemIndicator>
              </span>
              {AIDS[aid]}
              <span className="ml-auto pl-6 text-[12px] text-ink-2">{shownKey(aid)}</span>
            </DropdownMenu.CheckboxItem>
          ))}
          {onTurn &&
            (['left', 'right'] as const).map((way) => (
              <DropdownMenu.Item
                key={way}
                className={`${ITEM} ${way === 'left' ? 'mt-1 border-t border-line' : ''}`}
                onSelect={() => onTurn(way)}
              >
                <span className="w-4" />
                Turn to the {way}
                <span className="ml-auto pl-6 text-[12px] text-ink-2">
                  {shownKey(way === 'left' ? 'turnLeft' : 'turnRight')}
                </span>
              </DropdownMenu.Item>
            ))}
          {onLike && (
            <DropdownMenu.Item className={`${ITEM} mt-1 border-t border-line`} onSelect={onLike}>
              <span className="w-4" />
              Photos that look like it
              <span className="ml-auto pl-6 text-[12px] text-ink-2">{shownKey('lookalikes')}</span>
            </DropdownMenu.Item>
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
