// Telling how a file of a table is written, from its bytes: its format, the encoding of its text, what separates its values.

export const INCOMING_FORMATS = {
  text: 'Text (CSV, TSV)',
  xlsx: 'XLSX',
  jsonl: 'JSON Lines',
} as const satisfies Record<string, string>;
export type IncomingFormat = keyof typeof INCOMING_FORMATS;
export const INCOMING_FORMAT_IDS = Object.keys(INCOMING_FORMATS) as [IncomingFormat, ...IncomingFormat[]];

/** Encodings by their names in the Encoding Standard (WHATWG), with how they are called on screen. */
export const ENCODINGS = {
  'utf-8': 'UTF-8',
  'utf-16le': 'UTF-16, little-endian',
  'utf-16be': 'UTF-16, big-endian',
  'windows-1252': 'Windows, Western Europe',
  'windows-1250': 'Windows, Central Europe',
  'iso-8859-15': 'Latin 9',
  macintosh: 'Mac Roman',
} as const satisfies Record<string, string>;
export type Encoding = keyof typeof ENCODINGS;
export const ENCODING_IDS = Object.keys(ENCODINGS) as [Encoding, ...Encoding[]];

/** What separates the values of a line. */
export const SEPARATORS = {
  comma: { label: 'Comma', character: ',' },
  semicolon: { label: 'Semicolon', character: ';' },
  tab: { label: 'Tab', character: '\t' },
  bar: { label: 'Bar', character: '|' },
} as const satisfies Record<string, { label: string; character: string }>;
export type Separator = keyof typeof SEPARATORS;
export const SEPARATOR_IDS = Object.keys(SEPARATORS) as [Separator, ...Separator[]];

/** The format of a file by how it begins. A spreadsheet is a ZIP file; a line of JSON Lines is an object. */
export function recogniseFormat(beginning: Uint8Array): IncomingFormat {
  if (beginning[0] === 0x50 && beginning[1] === 0x4b && beginning[2] === 3 && beginning[3] === 4) return 'xlsx';
  const [line = ''] = new TextDecoder(recogniseUnicode(beginning) ?? 'utf-8').decode(beginning).trimStart().split('\n');
  return isObject(line) ? 'jsonl' : 'text';
}

function isObject(line: string): boolean {
  if (!line.startsWith('{')) return false;
  try {
    return typeof JSON.parse(line) === 'object';
  } catch {
    // The first line may be longer than what is looked at; in other tables no value begins like this.
    return /^\{\s*"/.test(line);
  }
}

/** The encoding that a file says at its beginning (byte order mark), or that the zeros of UTF-16 tell; undefined for others. */
function recogniseUnicode(beginning: Uint8Array): Encoding | undefined {
  const [first, second, third] = beginning;
  if (first === 0xef && second === 0xbb && third === 0xbf) return 'utf-8';
  if (first === 0xff && second === 0xfe) return 'utf-16le';
  if (first === 0xfe && second === 0xff) return 'utf-16be';
  // Of Latin letters every other byte is zero.
  let [even, odd] = [0, 0];
  for (let i = 0; i + 1 < beginning.length; i += 2) {
    if (beginning[i] === 0) even++;
    if (beginning[i + 1] === 0) odd++;
  }
  const pairs = Math.floor(beginning.length / 2);
  if (odd > pairs / 3 && odd > even) return 'utf-16le';
  return even > pairs / 3 ? 'utf-16be' : undefined;
}

/**
 * Looks at the bytes of a text one part after another. `end` gives its encoding: UTF-16 or UTF-8 where it is such, else the most
 * usual one of the many in which every text is valid.
 */
export function encodingRecogniser(): { look: (part: Uint8Array) => void; end: () => Encoding } {
  let unicode: Encoding | undefined;
  let isFirst = true;
  let isUtf8 = true;
  const decoder = new TextDecoder('utf-8', { fatal: true });
  const check = (part?: Uint8Array) => {
    try {
      decoder.decode(part, { stream: part !== undefined });
    } catch {
      isUtf8 = false;
    }
  };
  return {
    look(part) {
      if (isFirst) unicode = recogniseUnicode(part);
      isFirst = false;
      if (unicode === undefined && isUtf8) check(part);
    },
    end() {
      if (unicode === undefined && isUtf8) check();
      return unicode ?? (isUtf8 ? 'utf-8' : 'windows-1252');
    },
  };
}

const LINES_LOOKED_AT = 50;

/** What separates the values of a text: what divides its first lines into the same number of parts, and into most of them. */
export function recogniseSeparator(text: string): Separator {
  const counts = new Map<Separator, number[]>(SEPARATOR_IDS.map((id) => [id, []]));
  for (const line of unquotedLines(text).slice(0, LINES_LOOKED_AT))
    for (const id of SEPARATOR_IDS) counts.get(id)?.push(line.split(SEPARATORS[id].character).length - 1);
  const worth = (id: Separator) => {
    const found = counts.get(id) ?? [];
    const [head = 0] = found;
    return head * found.filter((count) => count === head).length;
  };
  // Of several that do equally well the last: commas stand in texts as well, tabs and bars do not.
  return SEPARATOR_IDS.reduce((best, id) => (worth(id) > 0 && worth(id) >= worth(best) ? id : best));
}

/** The lines of a text without what stands in quotes; empty ones are left out. */
function unquotedLines(text: string): string[] {
  return text
    .replace(/"(?:[^"]|"")*("|$)/g, '')
    .split(/\r\n|\r|\n/)
    .filter((line) => line.trim() !== '');
}
