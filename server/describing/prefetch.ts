/** Works on what a source gives, in order, one piece ahead: while a result is used, the next piece is being worked on. */
export async function* prefetch<Piece, Result>(
  source: AsyncIterable<Piece>,
  work: (piece: Piece) => Promise<Result>,
): AsyncGenerator<Result> {
  let pending: Promise<Result> | undefined;
  for await (const piece of source) {
    const next = work(piece);
    // Should the one before fail, this one's failure is of no interest.
    next.catch(() => undefined);
    if (pending) yield await pending;
    pending = next;
  }
  if (pending) yield await pending;
}
