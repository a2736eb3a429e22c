// How far something has come, as a bar that fills.

import { Progress } from 'radix-ui';

const FILLS = { spruce: 'bg-spruce', amber: 'bg-amber', red: 'bg-red' };

interface Props {
  /** What it is of; without it the bar only repeats what stands beside it. */
  label?: string;
  /** Between 0 and 1. */
  share: number;
  fill?: keyof typeof FILLS;
  className?: string;
}

export function Meter({ label, share, fill = 'spruce', className = 'h-2' }: Props) {
  return (
    <Progress.Root
      {...(label === undefined ? { 'aria-hidden': true } : { 'aria-label': label })}
      value={Math.floor(share * 100)}
      className={`overflow-hidden rounded bg-ground ${className}`}
    >
      <Progress.Indicator className={`h-full transition-[width] ${FILLS[fill]}`} style={{ width: `${share * 100}%` }} />
    </Progress.Root>
  );
}
