// Fields of forms: a label that is tied to its box, help or what is wrong with what was typed, and the sign that something has
// to be there. They take what react-hook-form registers.

import { useId, type ComponentProps, type ReactNode } from 'react';

interface Said {
  label: ReactNode;
  help?: ReactNode;
  /** What is wrong with what was typed. */
  error?: string | undefined;
  className?: string;
}

const BOX = 'mt-1 block w-full rounded border border-line bg-card px-2.5 text-ink aria-invalid:border-red';

interface FrameProps extends Said {
  id: string;
  required?: boolean | undefined;
  children: ReactNode;
}

function Frame({ id, label, help, error, required, className = '', children }: FrameProps) {
  return (
    <div className={className}>
      <label htmlFor={id}>
        {label}
        {required && (
          <span aria-hidden className="text-ink-3">
            {' '}
            *
          </span>
        )}
      </label>
      {children}
      {(error ?? help) !== undefined && (
        <p id={`${id}-says`} className={`mt-1 text-[12px] ${error ? 'text-red' : 'text-ink-2'}`}>
          {error ?? help}
        </p>
      )}
    </div>
  );
}

/** What ties a box to what is said of it. */
function tied(id: string, { help, error }: Pick<Said, 'help' | 'error'>) {
  return {
    id,
    ...(error === undefined ? {} : { 'aria-invalid': true }),
    ...((error ?? help) === undefined ? {} : { 'aria-describedby': `${id}-says` }),
  };
}

/** A line of text. */
export function TextField({ label, help, error, className, ...input }: Said & ComponentProps<'input'>) {
  const id = useId();
  return (
    <Frame {...{ id, label, help, error, required: input.required, ...(className ? { className } : {}) }}>
      <input {...tied(id, { help, error })} {...input} className={`${BOX} h-8`} />
    </Frame>
  );
}

/** Several lines of text. */
export function TextArea({ label, help, error, className, ...area }: Said & ComponentProps<'textarea'>) {
  const id = useId();
  return (
    <Frame {...{ id, label, help, error, required: area.required, ...(className ? { className } : {}) }}>
      <textarea {...tied(id, { help, error })} {...area} className={`${BOX} py-1`} />
    </Frame>
  );
}
