import { DESCRIBED_FIELDS } from '@stellin/core/describing/targets';

/** What `has:` asks for, in words. */
export function partLabel(part: string): string {
  return DESCRIBED_FIELDS.find(({ id }) => id === part)?.label.toLowerCase() ?? part;
}
