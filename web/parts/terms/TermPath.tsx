// A term with the labels above it.

import type { TermName } from '@stellin/contract/termName';

export function TermPath({ term }: { term: TermName }) {
  return (
    <span>
      {term.path.map((label, i) => (
        <span key={i} className="text-[12px] text-ink-2">
          {label} ›{' '}
        </span>
      ))}
      <b>{term.label}</b>
    </span>
  );
}
