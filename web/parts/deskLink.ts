/** The address of the Desk with what a query finds. */
export function deskLink(query: string): string {
  return `/desk?q=${encodeURIComponent(query)}`;
}

/** The address of the map with what a query finds. */
export function placesLink(query: string): string {
  return query === '' ? '/places' : `/places?q=${encodeURIComponent(query)}`;
}
