import { z } from 'zod';

/** A term by name, where others refer to it. */
export const termName = z.object({
  id: z.number(),
  label: z.string(),
  path: z.array(z.string()).describe('Labels above it, from the top'),
});
export type TermName = z.infer<typeof termName>;
