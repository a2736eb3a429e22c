import type { ReactNode } from 'react';

export function Kbd({ children }: { children: ReactNode }) {
  return (
    <kbd className="rounded border border-b-2 border-line bg-sheet px-1.5 font-mono text-[11px] whitespace-nowrap text-ink-2">
      {children}
    </kbd>
  );
}
