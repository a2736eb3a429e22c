// A box to tick, with its label beside it.

import { Check } from 'lucide-react';
import { Checkbox as Radix } from 'radix-ui';
import { useId, type ReactNode } from 'react';

interface Props {
  checked: boolean;
  onChange: (checked: boolean) => void;
  disabled?: boolean;
  className?: string;
  children: ReactNode;
}

export function Checkbox({ checked, onChange, disabled, className = '', children }: Props) {
  const id = useId();
  return (
    <span className={`flex items-start gap-2 ${className}`}>
      <Radix.Root
        id={id}
        checked={checked}
        disabled={disabled ?? false}
        onCheckedChange={(state) => onChange(state === true)}
        className="mt-0.5 flex size-4 shrink-0 items-center justify-center rounded-xs border border-ink-3 bg-card disabled:opacity-50 data-[state=checked]:border-spruce data-[state=checked]:bg-spruce"
      >
        <Radix.Indicator className="text-on-spruce">
          <Check size={13} strokeWidth={3} />
        </Radix.Indicator>
      </Radix.Root>
      <label htmlFor={id}>{children}</label>
    </span>
  );
}
