import { Tooltip as Radix } from 'radix-ui';
import type { ReactNode } from 'react';
import { Kbd } from './Kbd';

export const TooltipProvider = Radix.Provider;

/** Says what a control does, and its key. */
export function Tooltip({ text, keyName, children }: { text: string; keyName?: string; children: ReactNode }) {
  return (
    <Radix.Root delayDuration={400}>
      <Radix.Trigger asChild>{children}</Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          sideOffset={4}
          className="z-50 flex gap-2 rounded border border-line bg-card px-2 py-1 text-[12px] text-ink shadow"
        >
          {text}
          {keyName && <Kbd>{keyName}</Kbd>}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
