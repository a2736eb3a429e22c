// How text becomes words to find: accents, case and punctuation set aside, in any script; and how a word is met.

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
// oxlint-disable-next-line no-control-regex -- all of it, control characters too
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

/** The patterns of words as typed, in which `*` stands for any letters and `?` for one: `delt*`, `*aku`. */
export function patternsOf(text: string): string[] {
  return (foldText(text).match(/[\p{L}*?]+|[\p{N}*?]+/gu) ?? []).filter((pattern) => /[^*?]/.test(pattern));
}

/** Whether a folded word meets a pattern of `patternsOf`: one with wildcards as a whole, a plain one in any of its forms. */
export function wordMatches(word: string, pattern: string): boolean {
  return hasWildcard(pattern) ? matcherOf(pattern)(word) : formsOf(pattern).includes(word);
}

export function hasWildcard(pattern: string): boolean {
  return /[*?]/.test(pattern);
}

/**
 * A folded word in its forms: as it is, and as singular and plural of the same word. The rules are those of the
 * S-stemmer (D. Harman, How effective is suffixing?, JASIS 42 (1), 1991, table 1), with -es after a hiss taken off whole.
 */
export function formsOf(word: string): string[] {
  const stem = stemOf(word);
  const hiss = /(?:[cs]h|ss|x|z)$/.test(stem) ? [`${stem}es`] : [];
  const candidates = [word, stem, `${stem}s`, ...hiss, ...(stem.endsWith('y') ? [`${stem.slice(0, -1)}ies`] : [])];
  return [...new Set(candidates)].filter((form) => stemOf(form) === stem);
}

const MIN_LENGTH = 4;

function stemOf(word: string): string {
  if (word.length < MIN_LENGTH || !word.endsWith('s')) return word;
  if (/[^ae]ies$/.test(word)) return `${word.slice(0, -3)}y`;
  if (/(?:[cs]h|ss|x|z)es$/.test(word)) return word.slice(0, -2);
  return /[us]s$/.test(word) ? word : word.slice(0, -1);
}

/** Whether a text meets a pattern with `*` (any run) and `?` (one character), accents and case aside. Without either it must be equal. */
export function textMatches(text: string, pattern: string): boolean {
  return matcherOf(foldText(pattern))(foldText(text));
}

/** The test of folded texts that a folded pattern stands for. Its time is bounded by the product of both lengths. */
export function matcherOf(pattern: string): (text: string) => boolean {
  if (!hasWildcard(pattern)) return (text) => text === pattern;
  const plain = pattern.replace(/^\*+|\*+$/g, '');
  if (!hasWildcard(plain)) {
    if (plain === '') return () => true;
    const [open, ends] = [pattern.startsWith('*'), pattern.endsWith('*')];
    if (open && ends) return (text) => text.includes(plain);
    return open ? (text) => text.endsWith(plain) : (text) => text.startsWith(plain);
  }
  const wanted = Array.from(pattern);
  return (text) => globMatches(Array.from(text), wanted);
}

/** Only the last star is ever tried again: what an earlier one could take, the later one can as well. */
function globMatches(text: readonly string[], pattern: readonly string[]): boolean {
  let [at, place, star, taken] = [0, 0, -1, 0];
  while (at < text.length) {
    if (pattern[place] === '*') {
      star = place++;
      taken = at;
    } else if (pattern[place] === '?' || (place < pattern.length && pattern[place] === text[at])) {
      place++;
      at++;
    } else if (star >= 0) {
      place = star + 1;
      at = ++taken;
    } else return false;
  }
  while (pattern[place] === '*') place++;
  return place === pattern.length;
}
