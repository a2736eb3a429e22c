// A choice of one among some, as a list that opens.

import { Check, ChevronDown } from 'lucide-react';
import { Select as Radix } from 'radix-ui';
import { useState, type ReactNode } from 'react';

interface SelectOption<Value extends string | number> {
  value: Value;
  label: ReactNode;
  disabled?: boolean;
  /** The heading it stands under; options of a group come together. */
  group?: string;
}

interface Props<Value extends string | number> {
  /** Tells it to assistive technology; a label of the page may do so instead, by `id`. */
  label?: string;
  id?: string;
  value: Value;
  options: readonly SelectOption<Value>[];
  onChange: (value: Value) => void;
  disabled?: boolean | undefined;
  autoFocus?: boolean;
  /** Its size and place; how it looks is the same everywhere. */
  className?: string;
  'aria-invalid'?: true;
  'aria-describedby'?: string;
}

// Radix keeps the empty text for "nothing is chosen".
const EMPTY = '\u2205';
const keyOf = (value: string | number) => (value === '' ? EMPTY : String(value));

export function Select<Value extends string | number>({
  label,
  value,
  options,
  onChange,
  disabled = false,
  className = '',
  ...trigger
}: Props<Value>) {
  const [open, setOpen] = useState(false);
  const chosen = options.find((option) => option.value === value);
  const height = /\bh-/.test(className) ? '' : 'h-8';
  return (
    <Radix.Root
      open={open}
      onOpenChange={setOpen}
      value={keyOf(value)}
      disabled={disabled}
      onValueChange={(key) => {
        const option = options.find((candidate) => keyOf(candidate.value) === key);
        if (option) onChange(option.value);
      }}
    >
      <Radix.Trigger
        {...trigger}
        {...(label === undefined ? {} : { 'aria-label': label })}
        className={`flex min-w-0 items-center justify-between gap-1.5 rounded border border-line bg-card px-2 text-left whitespace-nowrap text-ink hover:border-ink-3 disabled:opacity-50 aria-invalid:border-red ${height} ${className}`}
      >
        <span className="min-w-0 truncate">
          <Radix.Value>{chosen?.label}</Radix.Value>
        </span>
        <Radix.Icon className="shrink-0 text-ink-2">
          <ChevronDown size={13} />
        </Radix.Icon>
      </Radix.Trigger>
      {/* Lists are long and many: they are made when they are opened. */}
      {open && <OptionList options={options} />}
    </Radix.Root>
  );
}

function OptionList<Value extends string | number>({ options }: Pick<Props<Value>, 'options'>) {
  const groups = [...new Set(options.map(({ group = '' }) => group))];
  return (
    <Radix.Portal>
      <Radix.Content
        position="popper"
        sideOffset={2}
        collisionPadding={8}
        className="z-60 max-h-(--radix-select-content-available-height) min-w-(--radix-select-trigger-width) rounded-md border border-line bg-card text-ink shadow-lg"
      >
        <Radix.Viewport className="p-1">
          {groups.map((group) => (
            <Radix.Group key={group}>
              {group !== '' && (
                <Radix.Label className="px-2 pt-1.5 pb-0.5 text-[11px] font-semibold text-ink-2">{group}</Radix.Label>
              )}
              {options
                .filter((option) => (option.group ?? '') === group)
                .map((option) => (
                  <Radix.Item
                    key={keyOf(option.value)}
                    value={keyOf(option.value)}
                    disabled={option.disabled ?? false}
                    className="flex cursor-pointer items-center gap-3 rounded px-2 py-1 outline-none data-[disabled]:cursor-default data-[disabled]:text-ink-3 data-[highlighted]:bg-spruce-pale"
                  >
                    <Radix.ItemText>{option.label}</Radix.ItemText>
                    <Radix.ItemIndicator className="ml-auto text-spruce">
                      <Check size={13} />
                    </Radix.ItemIndicator>
                  </Radix.Item>
                ))}
            </Radix.Group>
          ))}
        </Radix.Viewport>
      </Radix.Content>
    </Radix.Portal>
  );
}
