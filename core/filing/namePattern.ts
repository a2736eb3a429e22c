// Patterns for names and folders: text with placeholders in braces, `{year}-{month}-{day}_{number:4}`.

/** What a placeholder may be filled with. */
export interface NameFacts {
  /** Without its extension. */
  name: string;
  /** Local time of capture as `YYYY-MM-DDTHH:MM:SS`; null when it is not known. */
  takenAt: string | null;
  camera: string;
  /** The last name of the folder the file is in. */
  folder: string;
  number: number;
}

const UNKNOWN = 'unknown';
const ofTime = (from: number, to: number) => (facts: NameFacts) => facts.takenAt?.slice(from, to) ?? UNKNOWN;

/** Placeholders by name, each with its meaning for people and where its value comes from. */
export type Placeholders<Facts> = Readonly<
  Record<string, { help: string; value: (facts: Facts, digits: number) => string }>
>;

export const PLACEHOLDERS: Placeholders<NameFacts> = {
  name: { help: 'the name so far', value: ({ name }) => name },
  number: {
    help: 'a number; {number:4} for four digits',
    value: ({ number }, digits) => String(number).padStart(digits, '0'),
  },
  year: { help: 'of capture', value: ofTime(0, 4) },
  month: { help: 'of capture, two digits', value: ofTime(5, 7) },
  day: { help: 'of capture, two digits', value: ofTime(8, 10) },
  hour: { help: 'of capture, two digits', value: ofTime(11, 13) },
  minute: { help: 'of capture, two digits', value: ofTime(14, 16) },
  second: { help: 'of capture, two digits', value: ofTime(17, 19) },
  camera: { help: 'the model of the camera', value: ({ camera }) => camera || UNKNOWN },
  folder: { help: 'the folder it is in', value: ({ folder }) => folder || UNKNOWN },
};

type Part = { text: string } | { placeholder: string; digits: number };

/** A pattern that was understood, or why it was not. */
export type ParsedPattern<Facts = NameFacts> =
  | { ok: true; fill: (facts: Facts) => string }
  | { ok: false; problem: string };

/** Reads a pattern with the placeholders of renaming. */
export function parseNamePattern(pattern: string): ParsedPattern {
  return parsePattern(pattern, PLACEHOLDERS);
}

/** Reads a pattern. What is filled in never brings a `/` along: only the pattern itself divides folders. */
export function parsePattern<Facts>(pattern: string, placeholders: Placeholders<Facts>): ParsedPattern<Facts> {
  const parts: Part[] = [];
  for (const [piece, open, name, digits] of pattern.matchAll(/(\{)([^{}:]*)(?::(\d))?\}|[^{}]+|[{}]/g)) {
    if (open === undefined) {
      if (piece === '{' || piece === '}')
        return { ok: false, problem: `a brace stands alone; write placeholders as {name}` };
      parts.push({ text: piece });
    } else if (name !== undefined && Object.hasOwn(placeholders, name))
      parts.push({ placeholder: name, digits: Number(digits ?? 1) });
    else
      return {
        ok: false,
        problem: `there is no placeholder {${name}}; there are ${Object.keys(placeholders).join(', ')}`,
      };
  }
  if (parts.length === 0) return { ok: false, problem: 'the pattern is empty' };
  return {
    ok: true,
    fill: (facts) =>
      parts
        .map((part) =>
          'text' in part ? part.text : withoutDividers(placeholders[part.placeholder]?.value(facts, part.digits) ?? ''),
        )
        .join(''),
  };
}

function withoutDividers(text: string): string {
  return text.replace(/[/\\:]/g, '-').trim();
}
