// A mark as it shows under a photo: its letter on its colour. A mark that no team has defined shows its first letter.

import type { Mark } from '@stellin/contract/marks';
import { COLOURS } from '../parts/colours';

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
