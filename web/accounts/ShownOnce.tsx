// A secret that is shown this once, to be copied: a link, or a token.

import { Copy } from 'lucide-react';
import type { ReactNode } from 'react';
import { toast } from 'sonner';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { TextField } from '../parts/Field';

interface Props {
  title: string;
  /** What it is called: “Link”. */
  label: string;
  secret: string;
  /** What is to be done with it. */
  children: ReactNode;
  onClose: () => void;
}

export function ShownOnce({ title, label, secret, children, onClose }: Props) {
  const copy = () =>
    navigator.clipboard.writeText(secret).then(
      () => void toast.success(`The ${label.toLowerCase()} is copied.`),
      () => void toast.error(`The ${label.toLowerCase()} could not be copied. Mark it and copy it by hand.`),
    );
  return (
    <Dialog open onOpenChange={onClose} title={title}>
      <p className="mb-3 text-ink-2">{children}</p>
      <div className="flex items-end gap-2">
        <TextField
          label={label}
          readOnly
          value={secret}
          className="min-w-0 flex-1"
          boxClass="h-8 font-mono"
          onFocus={(event) => event.target.select()}
        />
        <Button onClick={() => void copy()}>
          <Copy size={14} /> Copy
        </Button>
      </div>
      <div className="mt-4 flex justify-end">
        <Button look="primary" onClick={onClose}>
          Done
        </Button>
      </div>
    </Dialog>
  );
}
