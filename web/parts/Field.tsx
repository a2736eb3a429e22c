// Fields of forms: a label that is tied to its box, help or what is wrong with what was typed, and the sign that something has
// to be there. They take what react-hook-form registers.

import { useId, type ComponentProps, type ReactNode } from 'react';

interface Said {
  label: ReactNode;
  help?: ReactNode;
  /** What is wrong with what was typed. */
  error?: string | undefined;
  className?: string | undefined;
}

/** What a box needs to be tied to its label and to what is said of it. */
interface Tied {
  id: string;
  'aria-invalid'?: true;
  'aria-describedby'?: string;
}

/** How boxes of forms look, but for their height. */
export const BOX = 'mt-1 block w-full rounded border border-line bg-card px-2.5 text-ink aria-invalid:border-red';

/** A field whose box is drawn by `children`. */
export function Field({
  label,
  help,
  error,
  required,
  className = '',
  children,
}: Said & { required?: boolean | undefined; children: (tied: Tied) => ReactNode }) {
  const id = useId();
  const says = error ?? help;
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
      {children({
        id,
        ...(error === undefined ? {} : { 'aria-invalid': true }),
        ...(says === undefined ? {} : { 'aria-describedby': `${id}-says` }),
      })}
      {says !== undefined && (
        <p id={`${id}-says`} className={`mt-1 text-[12px] ${error ? 'text-red' : 'text-ink-2'}`}>
          {says}
        </p>
      )}
    </div>
  );
}

/** A line of text. */
export function TextField({ label, help, error, className, ...input }: Said & ComponentProps<'input'>) {
  return (
    <Field {...{ label, help, error, className }} required={input.required}>
      {(tied) => <input {...tied} {...input} className={`${BOX} h-8`} />}
    </Field>
  );
}

/** Several lines of text. */
export function TextArea({ label, help, error, className, ...area }: Said & ComponentProps<'textarea'>) {
  return (
    <Field {...{ label, help, error, className }} required={area.required}>
      {(tied) => <textarea {...tied} {...area} className={`${BOX} py-1`} />}
    </Field>
  );
}
