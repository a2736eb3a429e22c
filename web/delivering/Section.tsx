// A part of the settings that folds, with what it says in a line while it is folded.

import { ChevronRight } from 'lucide-react';
import { Collapsible } from 'radix-ui';
import { useState, type ReactNode } from 'react';

interface Props {
  title: string;
  /** What is set, in a few words. */
  summary: string;
  open?: boolean;
  children: ReactNode;
}

export function Section({ title, summary, open = false, children }: Props) {
  const [isOpen, setOpen] = useState(open);
  return (
    <Collapsible.Root open={isOpen} onOpenChange={setOpen} className="border-b border-line">
      <Collapsible.Trigger className="flex w-full items-baseline gap-2 px-4 py-2.5 text-left hover:bg-sheet">
        <ChevronRight size={13} aria-hidden className={`shrink-0 self-center ${isOpen ? 'rotate-90' : ''}`} />
        <span className="font-semibold">{title}</span>
        {!isOpen && <span className="min-w-0 truncate text-[12px] text-ink-2">{summary}</span>}
      </Collapsible.Trigger>
      <Collapsible.Content className="space-y-3 px-4 pb-4">{children}</Collapsible.Content>
    </Collapsible.Root>
  );
}
