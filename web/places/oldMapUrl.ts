/** The address of the picture of an old map. */
export function oldMapUrl(id: number): string {
  return `/api/old-maps/${id}/picture`;
}
