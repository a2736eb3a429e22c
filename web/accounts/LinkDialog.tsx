// A link with which somebody chooses a password: it is shown this once, and given to them by who made it.

import { dateTimeText } from '../parts/dateTimeText';
import { ShownOnce } from './ShownOnce';

interface Props {
  /** Whose link it is. */
  name: string;
  link: { token: string; until: string };
  onClose: () => void;
}

export function LinkDialog({ name, link, onClose }: Props) {
  // What stands behind # is never sent to the server with an address, nor written into its log.
  const address = `${window.location.origin}/welcome#${link.token}`;
  return (
    <ShownOnce title={`A link for ${name}`} label="Link" secret={address} onClose={onClose}>
      Give this link to {name}, and to nobody else: who opens it chooses the password of the account. It is good once,
      until {dateTimeText(link.until)}, and is not shown again.
    </ShownOnce>
  );
}
