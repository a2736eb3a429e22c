// A tab that stands on the edge of what it opens.

import { Tabs } from 'radix-ui';
import type { ReactNode } from 'react';

export function Tab({ value, children }: { value: string; children: ReactNode }) {
  return (
    <Tabs.Trigger
      value={value}
      className="-mb-px rounded-t border border-transparent px-3 py-1 text-ink-2 data-[state=active]:border-line data-[state=active]:border-b-card data-[state=active]:bg-card data-[state=active]:font-semibold data-[state=active]:text-ink"
    >
      {children}
    </Tabs.Trigger>
  );
}
