import type { ComponentProps } from 'react';

const LOOKS = {
  primary: 'bg-spruce text-on-spruce border-spruce font-semibold hover:brightness-110',
  plain: 'bg-card border-line text-ink hover:border-ink-3',
  quiet: 'border-transparent text-ink-2 hover:text-ink hover:bg-ground',
};

export function Button({
  look = 'plain',
  className = '',
  ...props
}: ComponentProps<'button'> & { look?: keyof typeof LOOKS }) {
  return (
    <button
      type="button"
      {...props}
      className={`inline-flex h-8 items-center gap-1.5 rounded border px-3 whitespace-nowrap disabled:cursor-not-allowed disabled:opacity-50 ${LOOKS[look]} ${className}`}
    />
  );
}
