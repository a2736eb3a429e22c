// One of some filters of a list, pressed while it is on.

interface Props {
  isOn: boolean;
  disabled?: boolean;
  onClick: () => void;
  children: React.ReactNode;
}

export function FilterButton({ isOn, disabled = false, onClick, children }: Props) {
  return (
    <button
      type="button"
      aria-pressed={isOn}
      disabled={disabled}
      className={isOn ? 'font-semibold' : 'text-slate enabled:hover:underline disabled:text-ink-3'}
      onClick={onClick}
    >
      {children}
    </button>
  );
}
