// The words of the texts of each photo, in their order.

import { ListColumn, type Part, type SavedLists } from './columns';
import type { PhotoSet } from './photoSet';
import { StringTable } from './strings';

/** Stands where one text ends and another begins. */
const GAP = 0;

interface SavedWords {
  column: SavedLists;
  letters: string[];
  digits: string[];
}

/** A word has letters only or digits only. File names bring very many of digits, which those of letters need not be looked for among. */
export class WordLists implements Part<SavedWords> {
  private readonly column = new ListColumn();
  private readonly letters = new StringTable();
  private readonly digits = new StringTable();

  /** Sets the folded words of a photo, '' where one text ends and another begins. */
  set(ordinal: number, words: readonly string[]): void {
    const numbers: number[] = [];
    for (const word of words)
      numbers.push(
        word === '' ? GAP : isDigits(word) ? ofDigits(this.digits.add(word)) : ofLetters(this.letters.add(word)),
      );
    this.column.set(ordinal, numbers);
  }

  /** Finds the photos that have a word that meets one of some patterns, into an empty set. */
  having(patterns: readonly string[], found: PhotoSet): PhotoSet {
    const numbers = patterns.flatMap((pattern) =>
      isDigits(pattern) ? this.digits.matching(pattern).map(ofDigits) : this.letters.matching(pattern).map(ofLetters),
    );
    return this.column.having(numbers, found);
  }

  /** Whether the words of a photo have others in them, one right behind the other. */
  follow(ordinal: number, phrase: readonly string[]): boolean {
    const numbers = phrase.map((word) => this.find(word));
    const own = this.column.get(ordinal);
    for (let start = 0; start + numbers.length <= own.length; start++)
      if (numbers.every((number, i) => own[start + i] === number)) return true;
    return false;
  }

  saved(size: number): SavedWords {
    return { column: this.column.saved(size), letters: this.letters.saved(), digits: this.digits.saved() };
  }

  append({ column, letters, digits }: SavedWords, at: number): void {
    const [ofLetter, ofDigit] = [this.letters.append(letters), this.digits.append(digits)];
    const renumbered = (number: number) => {
      if (number === GAP) return GAP;
      const place = (number - 1) >> 1;
      return number % 2 === 1 ? ofLetters(ofLetter?.[place] ?? place) : ofDigits(ofDigit?.[place] ?? place);
    };
    this.column.append(ofLetter || ofDigit ? { ...column, values: column.values.map(renumbered) } : column, at);
  }

  private find(word: string): number {
    const place = (isDigits(word) ? this.digits : this.letters).find(word);
    if (place === undefined) return -1;
    return isDigits(word) ? ofDigits(place) : ofLetters(place);
  }
}

const ofLetters = (place: number) => place * 2 + 1;
const ofDigits = (place: number) => place * 2 + 2;

/** Whether a word, or a pattern of one, is of digits. */
function isDigits(pattern: string): boolean {
  for (let i = 0; i < pattern.length; i++) {
    const unit = pattern.charCodeAt(i);
    if (unit >= DIGIT_0 && unit <= DIGIT_9) return true;
    if (unit === STAR || unit === MARK) continue;
    return unit >= 128 && /\p{N}/u.test(pattern);
  }
  return false;
}

const [DIGIT_0, DIGIT_9, STAR, MARK] = ['0', '9', '*', '?'].map((character) => character.charCodeAt(0)) as [
  number,
  number,
  number,
  number,
];
