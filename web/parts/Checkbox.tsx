// A box to tick, with its label beside it.

import { Check, Minus } from 'lucide-react';
import { Checkbox as Radix } from 'radix-ui';
import { useId, type ReactNode } from 'react';

interface Props {
  /** `some`: neither ticked nor not. */
  checked: boolean | 'some';
  onChange: (checked: boolean) => void;
  disabled?: boolean;
  autoFocus?: boolean;
  /** What it is called, where nothing stands beside it. */
  label?: string;
  /** Reached by the keys of what it stands in, not by Tab. */
  aside?: boolean;
  className?: string;
  children?: ReactNode;
}

export function Checkbox(props: Props) {
  const {
    checked,
    onChange,
    disabled = false,
    autoFocus = false,
    label,
    aside = false,
    className = '',
    children,
  } = props;
  const id = useId();
  return (
    <span className={`flex items-start gap-2 ${className}`}>
      <Radix.Root
        id={id}
        {...(label === undefined ? {} : { 'aria-label': label })}
        {...(aside ? { tabIndex: -1 } : {})}
        checked={checked === 'some' ? 'indeterminate' : checked}
        disabled={disabled}
        autoFocus={autoFocus}
        onClick={(event) => event.stopPropagation()}
        onCheckedChange={(state) => onChange(state === true)}
        className="mt-[2px] flex size-3.5 shrink-0 items-center justify-center rounded-xs border border-ink-3 bg-card disabled:opacity-50 data-[state=checked]:border-spruce data-[state=checked]:bg-spruce data-[state=indeterminate]:border-spruce data-[state=indeterminate]:bg-spruce"
      >
        <Radix.Indicator className="text-on-spruce">
          {checked === 'some' ? <Minus size={11} strokeWidth={3} /> : <Check size={11} strokeWidth={3} />}
        </Radix.Indicator>
      </Radix.Root>
      {children !== undefined && (
        <label htmlFor={id} className="min-w-0">
          {children}
        </label>
      )}
    </span>
  );
}
