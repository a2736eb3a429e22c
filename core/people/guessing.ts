// Guesses: who each face that nobody has named most likely shows, brought up to date face by face as others change.

import type { Suggestion } from './suggesting';

export interface Guess extends Suggestion {
  faceId: number;
}

/** A guess that has changed; null where there is none any more. */
export interface ChangedGuess {
  faceId: number;
  guess: Suggestion | null;
}

/** So much of a certainty is not worth keeping anew. */
const SAME = 0.005;

export class Guesses {
  private readonly known = new Map<number, Suggestion>();
  private readonly stale = new Set<number>();

  /** `known` are the guesses as they are kept. */
  constructor(known: Iterable<Guess>) {
    for (const { faceId, personId, certainty } of known) this.known.set(faceId, { personId, certainty });
  }

  /** The faces for which there is a guess. */
  guessed(): Iterable<number> {
    return this.known.keys();
  }

  /** Faces whose guess may be another one now. */
  doubt(faceIds: Iterable<number>): void {
    for (const id of faceIds) this.stale.add(id);
  }

  get doubtful(): number {
    return this.stale.size;
  }

  /** Looks at some doubtful faces again, for as long as `goOn` says so; `suggest` says who a face shows. Gives what has changed. */
  settle(suggest: (faceId: number) => Suggestion | undefined, goOn: () => boolean): ChangedGuess[] {
    const changed: ChangedGuess[] = [];
    for (const faceId of this.stale) {
      if (!goOn()) break;
      this.stale.delete(faceId);
      const [before, now] = [this.known.get(faceId), suggest(faceId)];
      const same =
        before?.personId === now?.personId && Math.abs((before?.certainty ?? 0) - (now?.certainty ?? 0)) < SAME;
      if (same) continue;
      if (now) this.known.set(faceId, now);
      else this.known.delete(faceId);
      changed.push({ faceId, guess: now ?? null });
    }
    return changed;
  }
}
