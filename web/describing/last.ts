// The last description and the fields copied last, kept for as long as the window is open, so that they can be repeated
// on other photos.

import { z } from 'zod';
import { description, fieldEdit } from '@stellin/contract/describing';
import type { DescriptionInput } from './queries';

const LAST = 'stellin.lastDescription';
const COPIED = 'stellin.copiedFields';

const copiedFields = z.object({ from: z.string(), edits: z.array(fieldEdit) });
export type CopiedFields = z.output<typeof copiedFields>;

function kept<Schema extends z.ZodType>(name: string, schema: Schema): z.output<Schema> | undefined {
  const parsed = schema.safeParse(JSON.parse(sessionStorage.getItem(name) ?? 'null'));
  return parsed.success ? parsed.data : undefined;
}

export function rememberDescription(last: DescriptionInput): void {
  sessionStorage.setItem(LAST, JSON.stringify(last));
}

export function lastDescription(): DescriptionInput | undefined {
  return kept(LAST, description);
}

export function copyFields(copied: CopiedFields): void {
  sessionStorage.setItem(COPIED, JSON.stringify(copied));
}

export function fieldsCopied(): CopiedFields | undefined {
  return kept(COPIED, copiedFields);
}
