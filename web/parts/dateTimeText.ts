/** A moment as people read it, to the minute. */
export function dateTimeText(iso: string): string {
  return new Date(iso).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
}
