// A mark as it shows under a photo: its letter on its colour. A mark that no team has defined shows its first letter.

import type { MarkColour } from '@stellin/core/describing/marks';
import type { Mark } from '@stellin/contract/marks';

/** Dark enough for white letters in both themes. */
const COLOURS: Record<MarkColour, string> = {
  green: '#1c7040',
  amber: '#8a5a00',
  red: '#b3321f',
  blue: '#2f568c',
  violet: '#70458f',
  teal: '#0f6a70',
  brown: '#775233',
  grey: '#566360',
};

export function MarkBadge({ name, mark }: { name: string; mark: Mark | undefined }) {
  return (
    <span
      title={`Mark: ${name}`}
      className="flex size-3.5 shrink-0 items-center justify-center rounded-full text-[9px] leading-none font-bold text-white"
      style={{ background: COLOURS[mark?.colour ?? 'grey'] }}
    >
      {(mark?.letter ?? name.slice(0, 1)).toUpperCase()}
    </span>
  );
}
