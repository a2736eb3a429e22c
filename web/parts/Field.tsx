// Fields of forms: a label that is tied to its box, help or what is wrong with what was typed, and the sign that something has
// to be there. They take what react-hook-form registers.

import { useId, type ComponentProps, type ReactNode } from 'react';

interface Said {
  label: ReactNode;
  help?: ReactNode;
  /** What is wrong with what was typed. */
  error?: string | undefined;
  className?: string | undefined;
  /** The label is heard, not seen: the place says what is asked for. */
  hideLabel?: boolean;
  /** How the box itself looks beyond what all share. */
  boxClass?: string;
}

/** What a box needs to be tied to its label and to what is said of it. */
interface Tied {
  id: string;
  'aria-label'?: string;
  'aria-invalid'?: true;
  'aria-describedby'?: string;
}

/** How boxes of forms look, but for their height. */
export const BOX =
  'block w-full rounded border border-line bg-card px-2.5 text-ink placeholder:text-ink-3 aria-invalid:border-red';

/** A field whose box is drawn by `children`. */
export function Field({
  label,
  help,
  error,
  required,
  className = '',
  hideLabel = false,
  children,
}: Omit<Said, 'boxClass'> & { required?: boolean | undefined; children: (tied: Tied) => ReactNode }) {
  const id = useId();
  const says = error ?? help;
  return (
    <div className={className}>
      {!hideLabel && (
        <label htmlFor={id} className="mb-1 block text-[12px] text-ink-2">
          {label}
          {required && (
            <span aria-hidden className="text-ink-3">
              {' '}
              *
            </span>
          )}
        </label>
      )}
      {children({
        id,
        // A box may stand in the words of another label, which an element of its own would become part of.
        ...(hideLabel && typeof label === 'string' ? { 'aria-label': label } : {}),
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
export function TextField({
  label,
  help,
  error,
  className,
  hideLabel,
  boxClass = 'h-8',
  ...input
}: Said & ComponentProps<'input'>) {
  return (
    <Field {...{ label, help, error, className }} {...(hideLabel ? { hideLabel } : {})} required={input.required}>
      {(tied) => <input {...tied} {...input} className={`${BOX} ${boxClass}`} />}
    </Field>
  );
}

/** Several lines of text. */
export function TextArea({
  label,
  help,
  error,
  className,
  hideLabel,
  boxClass = '',
  ...area
}: Said & ComponentProps<'textarea'>) {
  return (
    <Field {...{ label, help, error, className }} {...(hideLabel ? { hideLabel } : {})} required={area.required}>
      {(tied) => <textarea {...tied} {...area} className={`${BOX} py-1 ${boxClass}`} />}
    </Field>
  );
}
