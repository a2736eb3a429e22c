// Letters: what they say, filled in for each who gets one, and when one that did not get through is tried again.

/** What a letter may be filled with. */
export interface LetterFacts {
  /** Of who gets it; their address where nobody knows it. */
  name: string;
  /** Who sends it. */
  sender: string;
  /** What is sent. */
  title: string;
  /** The address of a view link; empty where none goes along. */
  link: string;
}

export const LETTER_PLACEHOLDERS: Record<keyof LetterFacts, string> = {
  name: 'who gets it',
  sender: 'your name',
  title: 'the title of what is sent',
  link: 'the address of the view link',
};

const PLACEHOLDER = /\{([^{}]*)\}/g;
const isKnown = (name: string): name is keyof LetterFacts => Object.hasOwn(LETTER_PLACEHOLDERS, name);

/** A text with its placeholders filled in. What is none stays as it is typed. */
export function fillLetter(text: string, facts: LetterFacts): string {
  return text.replace(PLACEHOLDER, (whole, name: string) => (isKnown(name) ? facts[name] : whole));
}

/** What stands in braces and is no placeholder. */
export function unknownPlaceholders(text: string): string[] {
  return [...text.matchAll(PLACEHOLDER)].map(([, name = '']) => name).filter((name) => !isKnown(name));
}

export const LETTER_STATES = {
  waiting: 'waits to be sent',
  sending: 'is being sent',
  sent: 'sent',
  refused: 'came back',
  failed: 'given up',
  stopped: 'was not sent',
} as const;
export type LetterState = keyof typeof LETTER_STATES;

/** How long is waited after the first try that failed, after the second, and so on: a bit more than a day in all. */
const WAITS_MINUTES = [1, 5, 15, 60, 180, 360, 720];

/** When a letter is tried again after so many tries; undefined: it is given up. */
export function nextTry(tries: number, now: Date): Date | undefined {
  const minutes = WAITS_MINUTES[tries - 1];
  return minutes === undefined ? undefined : new Date(now.getTime() + minutes * 60_000);
}
