// A menu behind a button of three dots.

import { Ellipsis } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';

/** A button of three dots that opens a menu. */
export function Menu({ label, children, className = '' }: { label: string; children: ReactNode; className?: string }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger aria-label={label} className={`text-ink-3 hover:text-ink ${className}`}>
        <Ellipsis size={14} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={4}
          // A dialog that an entry opened keeps the focus.
          onCloseAutoFocus={(event) => {
            if (document.activeElement?.closest('[role=dialog]')) event.preventDefault();
          }}
          className="z-40 min-w-40 rounded-md border border-line bg-card p-1 text-[13px] shadow-lg"
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

export function MenuItem({ label, onSelect, disabled }: { label: string; onSelect: () => void; disabled?: boolean }) {
  return (
    <DropdownMenu.Item
      disabled={disabled ?? false}
      className="cursor-pointer rounded px-2.5 py-1 outline-none data-[disabled]:cursor-default data-[disabled]:text-ink-3 data-[highlighted]:bg-spruce-pale"
      onSelect={onSelect}
    >
      {label}
    </DropdownMenu.Item>
  );
}
