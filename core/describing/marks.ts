// Marks: the states that a team defines for its photos (`xmp:Label`), each with a name, a letter and a colour.

/** Colours by name; how they look is the interface's matter. */
export const MARK_COLOURS = ['green', 'amber', 'red', 'blue', 'violet', 'teal', 'brown', 'grey'] as const;
export type MarkColour = (typeof MARK_COLOURS)[number];

/** Letters that mean nothing else on the Desk, so that a mark's letter is its key. */
export const MARK_LETTERS: readonly string[] = [...'abefhijlmnoqruvwy'];

/** The first letter that is free for a mark of this name: one of its own if possible. Undefined when all are taken. */
export function freeLetter(name: string, taken: ReadonlySet<string>): string | undefined {
  const free = MARK_LETTERS.filter((letter) => !taken.has(letter));
  return [...name.toLowerCase()].find((letter) => free.includes(letter)) ?? free[0];
}
