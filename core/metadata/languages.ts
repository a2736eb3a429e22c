// Which of the languages something is said in suits a person: lookup after RFC 4647, section 3.4.

/**
 * The first of some language tags (BCP 47) that suits a wanted one: it itself, else a regional form of it, else the same for
 * what is left of the wanted one without its last subtag (`de-CH-1996`, `de-CH`, `de`). Case does not matter. Undefined when
 * none suits or nothing is wanted.
 */
export function suitingLanguage(wanted: string, tags: readonly string[]): string | undefined {
  const subtags = wanted.toLowerCase().split('-').filter(Boolean);
  for (; subtags.length > 0; subtags.pop()) {
    const range = subtags.join('-');
    const found =
      tags.find((tag) => tag.toLowerCase() === range) ?? tags.find((tag) => tag.toLowerCase().startsWith(`${range}-`));
    if (found !== undefined) return found;
    // What a single letter introduces goes with it (x- private use, u- extensions).
    while (subtags.at(-2)?.length === 1) subtags.pop();
  }
  return undefined;
}
