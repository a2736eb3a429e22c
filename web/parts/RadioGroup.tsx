// A choice of one among some that all stand there.

import { RadioGroup as Radix } from 'radix-ui';
import type { ReactNode } from 'react';

interface GroupProps<Value extends string> {
  label: string;
  value: Value | '';
  onChange: (value: Value) => void;
  className?: string;
  children: ReactNode;
}

export function RadioGroup<Value extends string>({ label, value, onChange, className, children }: GroupProps<Value>) {
  return (
    <Radix.Root
      aria-label={label}
      value={value}
      // Only the values of its radios come here.
      onValueChange={(chosen) => onChange(chosen as Value)}
      className={className}
    >
      {children}
    </Radix.Root>
  );
}

interface MarkProps {
  value: string;
  disabled?: boolean;
}

interface RowProps {
  className?: string;
  children?: ReactNode;
}

/** One of the choices; its whole row is clicked. */
export function Radio({ value, disabled = false, className = 'gap-2 py-0.5', children }: MarkProps & RowProps) {
  return (
    <label className={`flex items-center ${className}`}>
      <RadioMark value={value} disabled={disabled} />
      {children}
    </label>
  );
}

/** The mark of a choice alone, for what lays itself out around it. */
export function RadioMark({ value, disabled = false }: MarkProps) {
  return (
    <Radix.Item
      value={value}
      disabled={disabled}
      className="flex size-3.5 shrink-0 items-center justify-center rounded-full border border-ink-3 bg-card disabled:opacity-50 data-[state=checked]:border-spruce"
    >
      <Radix.Indicator className="size-2 rounded-full bg-spruce" />
    </Radix.Item>
  );
}
