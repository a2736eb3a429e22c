/** What IIM keeps of a keyword (IIM 4.2, 2:25). */
export const IIM_KEYWORD_BYTES = 64;

/** The length of a text in UTF-8 (RFC 3629). */
export function utf8Length(text: string): number {
  let bytes = 0;
  for (const letter of text) {
    const code = letter.codePointAt(0) ?? 0;
    bytes += code < 0x80 ? 1 : code < 0x800 ? 2 : code < 0x10000 ? 3 : 4;
  }
  return bytes;
}
