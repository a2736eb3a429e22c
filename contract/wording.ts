// How counts are said, the same on the server and on the screen.

const numbers = new Intl.NumberFormat('en');

/** A number with thousands separators. */
export function numberText(count: number): string {
  return numbers.format(count);
}

/** `1 photo`, `1,284 photos`. */
export function countText(count: number, one: string, many = `${one}s`): string {
  return `${numberText(count)} ${count === 1 ? one : many}`;
}
