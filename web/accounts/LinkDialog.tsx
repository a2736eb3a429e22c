// A link with which somebody chooses a password: it is shown this once, and given to them by who made it.

import { Copy } from 'lucide-react';
import { toast } from 'sonner';
import { Button } from '../parts/Button';
import { dateTimeText } from '../parts/dateTimeText';
import { Dialog } from '../parts/Dialog';
import { TextField } from '../parts/Field';

interface Props {
  /** Whose link it is. */
  name: string;
  link: { token: string; until: string };
  onClose: () => void;
}

export function LinkDialog({ name, link, onClose }: Props) {
  // What stands behind # is never sent to the server with an address, nor written into its log.
  const address = `${window.location.origin}/welcome#${link.token}`;
  const copy = () =>
    navigator.clipboard.writeText(address).then(
      () => void toast.success('The link is copied.'),
      () => void toast.error('The link could not be copied. Mark it and copy it by hand.'),
    );
  return (
    <Dialog open onOpenChange={onClose} title={`A link for ${name}`}>
      <p className="mb-3 text-ink-2">
        Give this link to {name}, and to nobody else: who opens it chooses the password of the account. It is good once,
        until {dateTimeText(link.until)}, and is not shown again.
      </p>
      <div className="flex items-end gap-2">
        <TextField
          label="Link"
          readOnly
          value={address}
          className="min-w-0 flex-1"
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
