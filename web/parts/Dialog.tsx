import { X } from 'lucide-react';
import { Dialog as Radix } from 'radix-ui';
import type { ReactNode } from 'react';

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  wide?: boolean;
  children: ReactNode;
}

export function Dialog({ open, onOpenChange, title, wide, children }: Props) {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-black/35" />
        <Radix.Content
          aria-describedby={undefined}
          // Its top stays where it is: what grows in it must not move a button from under the pointer.
          className={`fixed left-1/2 z-50 -translate-x-1/2 overflow-auto rounded-lg border border-line bg-card p-5 shadow-xl ${wide ? 'top-[6vh] max-h-[88vh] w-[min(1040px,94vw)]' : 'top-[18vh] max-h-[76vh] w-[min(440px,94vw)]'}`}
        >
          <Radix.Title className="mb-3 font-title text-[17px] font-semibold">{title}</Radix.Title>
          {children}
          <Radix.Close className="absolute top-4 right-4 text-ink-3 hover:text-ink" aria-label="Close">
            <X size={16} />
          </Radix.Close>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
