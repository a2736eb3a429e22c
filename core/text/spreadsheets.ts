// Texts that spreadsheets would take for formulas: how they go out without harm, and come back as they were.

/** A text that a spreadsheet would take for a formula is led by an apostrophe. */
export function safeInSpreadsheets(text: string): string {
  return /^'*[=+\-@\t\r]/.test(text) ? `'${text}` : text;
}

/** The text that `safeInSpreadsheets` was given. */
export function fromSpreadsheet(text: string): string {
  return /^'+[=+\-@\t\r]/.test(text) ? text.slice(1) : text;
}
