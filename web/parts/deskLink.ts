/** The address of the Desk with what a query finds. */
export function deskLink(query: string): string {
  return `/desk?q=${encodeURIComponent(query)}`;
}
