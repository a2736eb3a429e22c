// Text in HTML.

const ESCAPES: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
};

/** Text that stands in HTML as what it is, also within an attribute. */
export function escaped(text: string): string {
  return text.replace(/[&<>"']/g, (letter) => ESCAPES[letter] ?? letter);
}
