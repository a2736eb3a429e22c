// A text field with a list of what can be picked: the one way to find a term, a person, a value or a search by typing.
// Arrows move in the list, Enter picks, Esc closes it; the focus stays in the field.

import { useCombobox, type UseComboboxState, type UseComboboxStateChangeOptions } from 'downshift';
import { Popover } from 'radix-ui';
import { useEffect, useEffectEvent, useState, type ComponentProps, type KeyboardEvent, type ReactNode } from 'react';

export interface ComboboxOption {
  key: string;
  content: ReactNode;
  onPick: () => void;
}

interface ListState {
  isOpen: boolean;
  /** Whether Enter picks an option. */
  inFocus: boolean;
}

interface Props extends Omit<ComponentProps<'input'>, 'value' | 'onChange' | 'onSelect' | 'onKeyDown' | 'list'> {
  /** Tells it to assistive technology; a label of the page may do so instead, by `id`. */
  label?: string;
  text: string;
  onText: (text: string) => void;
  options: readonly ComboboxOption[];
  /** What the list is called. */
  listLabel: string;
  /** The first option has the focus as soon as something is typed, so that Enter picks it. */
  firstInFocus?: boolean;
  /** False while the options still belong to an earlier text: Enter then picks once they are there. */
  answered?: boolean;
  /** Said in the list when something was typed and there is nothing to pick. */
  nothing?: ReactNode;
  /** Whether there is anything to pick before something is typed. */
  opensEmpty?: boolean;
  /** The list opens above the field. */
  above?: boolean;
  /** What the list stands below and is as wide as; the field if not given. */
  anchor?: React.RefObject<HTMLElement | null>;
  /** Comes first; true says that it has dealt with the key. */
  onKeyDown?: (event: KeyboardEvent<HTMLInputElement>, list: ListState) => boolean;
  /** How the options are laid out. */
  optionClass?: string;
}

export function Combobox({
  label,
  text,
  onText,
  options,
  listLabel,
  firstInFocus = false,
  answered = true,
  nothing,
  opensEmpty = false,
  above = false,
  anchor,
  onKeyDown,
  optionClass = 'items-baseline gap-2 px-2.5 py-1',
  className = '',
  ...input
}: Props) {
  /** The text for which Enter was pressed before its options were there. */
  const [awaited, setAwaited] = useState<string | null>(null);
  const first = firstInFocus ? 0 : -1;
  const {
    isOpen,
    highlightedIndex,
    setHighlightedIndex,
    openMenu,
    closeMenu,
    getInputProps,
    getMenuProps,
    getItemProps,
  } = useCombobox<ComboboxOption>({
    items: [...options],
    inputValue: text,
    selectedItem: null,
    itemToString: () => '',
    itemToKey: (option) => option?.key,
    defaultHighlightedIndex: first,
    stateReducer,
    onStateChange: ({ type, selectedItem }) => {
      if (selectedItem && PICKING.has(type)) selectedItem.onPick();
    },
  });
  const pickAwaited = useEffectEvent(() => {
    setAwaited(null);
    options[Math.max(0, highlightedIndex)]?.onPick();
    closeMenu();
  });
  useEffect(() => {
    if (awaited !== null && awaited === text && answered) pickAwaited();
  }, [awaited, text, answered]);
  const mayOpen = text.trim() !== '' || opensEmpty;
  const isShown = isOpen && mayOpen && (options.length > 0 || (nothing !== undefined && answered));
  const keyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    const isHandled = onKeyDown?.(event, { isOpen: isShown, inFocus: isShown && highlightedIndex >= 0 });
    if (!isHandled) {
      if (event.key === 'Enter' && firstInFocus && !answered && text.trim() !== '') setAwaited(text);
      else if (event.key === 'Enter' && isShown && highlightedIndex >= 0) return event.stopPropagation();
      else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') return;
      else if (event.key === 'Escape' && isShown) closeMenu();
      else return leaveAlone(event);
    }
    event.preventDefault();
    event.stopPropagation();
    leaveAlone(event);
  };
  return (
    <Popover.Root open={isShown}>
      {anchor ? <Popover.Anchor virtualRef={anchor as React.RefObject<HTMLElement>} /> : null}
      <AnchorIf wanted={!anchor}>
        <input
          autoComplete="off"
          {...getInputProps({
            ...input,
            className,
            onChange: (event: React.ChangeEvent<HTMLInputElement>) => {
              onText(event.target.value);
              setHighlightedIndex(first);
              openMenu();
            },
            onKeyDown: keyDown,
          })}
          aria-labelledby={undefined}
          {...(label === undefined ? {} : { 'aria-label': label })}
          aria-expanded={isShown}
        />
      </AnchorIf>
      <Popover.Portal>
        <Popover.Content
          role="presentation"
          side={above ? 'top' : 'bottom'}
          align="start"
          sideOffset={4}
          collisionPadding={8}
          className="z-60 w-[max(var(--radix-popover-trigger-width),18rem)] rounded-md border border-line bg-card text-ink shadow-lg"
          // The focus stays in the field, whose keys move in the list.
          onOpenAutoFocus={(event) => event.preventDefault()}
          onCloseAutoFocus={(event) => event.preventDefault()}
          onInteractOutside={(event) => event.preventDefault()}
        >
          <ul
            {...getMenuProps({ 'aria-label': listLabel }, { suppressRefError: true })}
            aria-labelledby={undefined}
            className="max-h-80 overflow-y-auto py-1"
          >
            {options.map((option, index) => (
              <li
                key={option.key}
                {...getItemProps({ item: option, index })}
                className={`flex cursor-pointer ${optionClass} ${index === highlightedIndex ? 'bg-spruce-pale' : 'hover:bg-sheet'}`}
              >
                {option.content}
              </li>
            ))}
            {options.length === 0 && nothing !== undefined && (
              <li role="presentation" className="px-2.5 py-1 text-ink-2">
                {nothing}
              </li>
            )}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

const { InputKeyDownEnter, ItemClick, InputBlur, InputClick } = useCombobox.stateChangeTypes;
const PICKING: ReadonlySet<unknown> = new Set([InputKeyDownEnter, ItemClick]);

/** A click into the field does not close the list, and leaving the field picks nothing. */
function stateReducer(
  state: UseComboboxState<ComboboxOption>,
  { type, changes }: UseComboboxStateChangeOptions<ComboboxOption>,
): Partial<UseComboboxState<ComboboxOption>> {
  if (type === InputBlur) return { ...changes, selectedItem: state.selectedItem };
  if (type === InputClick) return { ...changes, isOpen: true };
  return changes;
}

/** Keeps the package from acting on a key. */
function leaveAlone(event: KeyboardEvent): void {
  (event.nativeEvent as Event & { preventDownshiftDefault?: boolean }).preventDownshiftDefault = true;
}

function AnchorIf({ wanted, children }: { wanted: boolean; children: ReactNode }) {
  return wanted ? <Popover.Anchor asChild>{children}</Popover.Anchor> : children;
}
