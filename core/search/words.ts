// How text becomes words to find: accents, case and punctuation set aside, in any script.

const LETTERS_WITHOUT_DECOMPOSITION: Readonly<Record<string, string>> = {
  ß: 'ss',
  æ: 'ae',
  œ: 'oe',
  ø: 'o',
  đ: 'd',
  ð: 'd',
  þ: 'th',
  ł: 'l',
  ı: 'i',
};

/** ASCII, which has no accents. */
// eslint-disable-next-line no-control-regex -- all of it, control characters too
const PLAIN = /^[\x00-\x7f]*$/;

/** The text in small letters without accents (Unicode NFKD less its marks). */
export function foldText(text: string): string {
  const small = text.toLowerCase();
  if (PLAIN.test(small)) return small;
  return small
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/[ßæœøđðþłı]/g, (letter) => LETTERS_WITHOUT_DECOMPOSITION[letter] ?? letter);
}

/** The words of a text in order, folded; letters and digits part (`SKM_2037b` gives skm, 2037, b). */
export function wordsOf(text: string): string[] {
  return foldText(text).match(/\p{L}+|\p{N}+/gu) ?? [];
}

/** Whether a folded word meets a pattern, where a final `*` stands for any ending. */
export function wordMatches(word: string, pattern: string): boolean {
  return pattern.endsWith('*') ? word.startsWith(pattern.slice(0, -1)) : word === pattern;
}

/** The patterns of words as typed: `delt*` stays a prefix. */
export function patternsOf(text: string): string[] {
  return text.split(/\s+/).flatMap((part) => {
    const words = wordsOf(part);
    const last = words.at(-1);
    return part.endsWith('*') && last ? [...words.slice(0, -1), `${last}*`] : words;
  });
}

/** Whether a text meets a pattern with `*` (any run) and `?` (one character), accents and case aside. Without either it must be equal. */
export function textMatches(text: string, pattern: string): boolean {
  const regex = foldText(pattern)
    .replace(/[.+^${}()|[\]\\]/g, '\\$&')
    .replace(/\*/g, '.*')
    .replace(/\?/g, '.');
  return new RegExp(`^${regex}$`, 'su').test(foldText(text));
}
