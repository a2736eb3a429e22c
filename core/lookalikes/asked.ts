// How look-alikes are asked for: by the number of a photo, and how alike they have to look: `1234`, `1234 strict`, `1234 loose`.

import { STRICTNESS, type Strictness } from './look';

export interface LikeAsked {
  photoId: number;
  strictness: Strictness;
}

/** What a text asks for; undefined for one that asks for nothing. */
export function likeAsked(text: string): LikeAsked | undefined {
  const [, digits = '', word = 'usual'] = /^([1-9]\d{0,9})(?: +([a-z]+))?$/.exec(text.trim().toLowerCase()) ?? [];
  const photoId = Number(digits);
  return digits !== '' && photoId < 2 ** 31 && isStrictness(word) ? { photoId, strictness: word } : undefined;
}

/** The text that asks for it. */
export function likeText({ photoId, strictness }: LikeAsked): string {
  return strictness === 'usual' ? String(photoId) : `${photoId} ${strictness}`;
}

function isStrictness(word: string): word is Strictness {
  return Object.hasOwn(STRICTNESS, word);
}

/** Photos by their numbers, as a text: `12 15 88`. */
export function photosText(ids: readonly number[]): string {
  return ids.join(' ');
}

/** The numbers of photos in a text; undefined where it is no list of them. */
export function photosAsked(text: string): number[] | undefined {
  const numbers = text
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  return numbers.every((number) => Number.isInteger(number) && number > 0 && number < 2 ** 31) ? numbers : undefined;
}
