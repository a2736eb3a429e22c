// The pin that was chosen last on this machine: its key puts photos there from anywhere.

import { z } from 'zod';
import { useStored } from '../foundation/useStored';

const lastPin = z.object({ pinId: z.number(), name: z.string() }).nullable();

export function useLastPin() {
  const [pin, note] = useStored('pin', lastPin, null);
  return { pin, note };
}
