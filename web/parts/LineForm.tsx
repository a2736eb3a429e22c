// A form of one line where it stands: what is asked for, the button that does it, and Escape that leaves.

import type { ReactNode } from 'react';
import { z } from 'zod';
import { Button } from './Button';
import { TextField } from './Field';
import { useFormOf } from './useFormOf';

interface Props {
  /** What is asked for; heard, and shown in the empty box. */
  label: string;
  placeholder?: string;
  /** What the server takes. */
  schema: z.ZodType<string, string>;
  /** What the form does, on its button. */
  action: string;
  busy?: boolean;
  onSubmit: (line: string) => void;
  onCancel: () => void;
  className?: string;
  /** What else can be chosen, behind the line. */
  children?: ReactNode;
}

export function LineForm({
  label,
  placeholder = label,
  schema,
  action,
  busy = false,
  onSubmit,
  onCancel,
  className = '',
  children,
}: Props) {
  const { register, handleSubmit, formState } = useFormOf(z.object({ line: schema }), { line: '' });
  return (
    <form
      className={`flex items-start gap-2 ${className}`}
      onSubmit={handleSubmit(({ line }) => onSubmit(line))}
      onKeyDown={(event) => event.key === 'Escape' && onCancel()}
    >
      <TextField
        label={label}
        hideLabel
        autoFocus
        placeholder={placeholder}
        className="min-w-0 flex-1"
        error={formState.errors.line?.message}
        {...register('line')}
      />
      {children}
      <Button type="submit" look="primary" disabled={busy}>
        {action}
      </Button>
      <Button look="quiet" onClick={onCancel}>
        Cancel
      </Button>
    </form>
  );
}
