// A value between two ends that is dragged, or moved by the arrow keys.

import { Slider as Radix } from 'radix-ui';

interface Props {
  label: string;
  value: number;
  lowest: number;
  highest: number;
  step: number;
  onChange: (value: number) => void;
  className?: string;
}

export function Slider({ label, value, lowest, highest, step, onChange, className = 'w-60' }: Props) {
  return (
    <Radix.Root
      value={[value]}
      min={lowest}
      max={highest}
      step={step}
      onValueChange={([next]) => next !== undefined && onChange(next)}
      className={`relative flex h-5 touch-none items-center select-none ${className}`}
    >
      <Radix.Track className="relative h-1 grow rounded-full bg-line">
        <Radix.Range className="absolute h-full rounded-full bg-spruce" />
      </Radix.Track>
      <Radix.Thumb
        aria-label={label}
        className="block size-4 rounded-full border border-spruce bg-card shadow hover:bg-spruce-pale"
      />
    </Radix.Root>
  );
}
