// The end of a form in a dialog: cancel, and what it does.

import type { Ref } from 'react';
import { Button } from './Button';

interface Props {
  onCancel: () => void;
  /** What the form does, on its button. */
  action: string;
  disabled: boolean;
  ref?: Ref<HTMLButtonElement>;
  /** Where the button is not the form's own. */
  onAction?: () => void;
}

export function FormActions({ onCancel, action, disabled, ref, onAction }: Props) {
  return (
    <div className="mt-4 flex justify-end gap-2">
      <Button look="quiet" onClick={onCancel}>
        Cancel
      </Button>
      <Button
        ref={ref}
        type={onAction ? 'button' : 'submit'}
        look="primary"
        disabled={disabled}
        {...(onAction ? { onClick: onAction } : {})}
      >
        {action}
      </Button>
    </div>
  );
}
