// This process among those that work on one catalogue: known by a lock that a connection of its own holds, taken anew when that was
// lost.

import { openOwnership, type Ownership } from './ownership';

export interface Presence {
  /** The lock as it is now; taken anew where it was lost. */
  current(): Promise<Ownership>;
  /** The lock that was taken last. */
  last(): Ownership | undefined;
  close(): Promise<void>;
}

export function presenceAt(url: string): Presence {
  let ownership: Ownership | undefined;
  let opening: Promise<Ownership> | undefined;
  let closed = false;
  return {
    async current() {
      if (ownership && !ownership.isLost) return ownership;
      if (closed) throw new Error('this process works no more');
      opening ??= openOwnership(url).finally(() => (opening = undefined));
      return (ownership = await opening);
    },
    last: () => ownership,
    async close() {
      closed = true;
      await opening?.catch(() => undefined);
      await ownership?.close();
    },
  };
}
