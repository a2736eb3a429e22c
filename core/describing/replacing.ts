// Finding and replacing in texts of fields, and tidying them.

import { FIELDS, fieldOf, type FieldId, type FieldValue, type Member } from '../metadata/fields';

/** How a text is looked for: as it stands, as whole words, or as a regular expression of ECMAScript. */
export const FIND_MODES = ['text', 'words', 'pattern'] as const;
export type FindMode = (typeof FIND_MODES)[number];

export interface Replacement {
  find: string;
  how: FindMode;
  matchCase: boolean;
  /** In patterns `$1` and `$<name>` stand for groups. */
  replace: string;
}

export const TIDY_RULES = {
  space: { label: 'White space', help: 'One space between words, none at the ends, none before a comma or full stop' },
  quotes: { label: 'Quotation marks', help: 'Straight ones become “curly” ones, and apostrophes ’' },
  capital: { label: 'First letter', help: 'The first letter becomes a capital' },
  shouting: { label: 'All capitals', help: 'Texts in capitals only are put into small letters with a capital first' },
  fullStop: { label: 'Full stop at the end', help: 'Added where a text ends without a mark' },
  noFullStop: { label: 'No full stop at the end', help: 'Taken off where a text ends in just one' },
} as const;
export type TidyRule = keyof typeof TIDY_RULES;

export type TextChange = (text: string) => string;

/** What replaces in a text, or why the pattern can't be used. */
export function replacer({
  find,
  how,
  matchCase,
  replace,
}: Replacement): { ok: true; change: TextChange } | { ok: false; problem: string } {
  if (find === '') return { ok: false, problem: 'say what to look for' };
  const flags = `gu${matchCase ? '' : 'i'}`;
  if (how === 'pattern') {
    try {
      const pattern = new RegExp(find, flags);
      return { ok: true, change: (text) => text.replace(pattern, replace) };
    } catch (error) {
      const why = error instanceof Error ? error.message.replace(/^Invalid regular expression: /, '') : String(error);
      return { ok: false, problem: `that is no regular expression: ${why}` };
    }
  }
  const escaped = find.replace(/[\\^$.*+?()[\]{}|/]/g, (letter) => `\\${letter}`);
  const pattern = new RegExp(how === 'words' ? `(?<![\\p{L}\\p{N}])${escaped}(?![\\p{L}\\p{N}])` : escaped, flags);
  return { ok: true, change: (text) => text.replace(pattern, () => replace) };
}

const TIDY: Readonly<Record<TidyRule, TextChange>> = {
  space: (text) =>
    text
      .replace(/[^\S\n]+/gu, ' ')
      .replace(/ ?\n ?/g, '\n')
      .replace(/ +([,.;:!?])(?=\s|$)/g, '$1')
      .trim(),
  quotes: (text) =>
    text
      .replace(/(?<=[\p{L}\p{N}])'/gu, '’')
      .replace(/(^|[\s([{–—-])"/gu, '$1“')
      .replace(/"/g, '”')
      .replace(/(^|[\s([{–—“-])'/gu, '$1‘')
      .replace(/'/g, '’'),
  capital: (text) =>
    text.replace(/^(\P{L}*)(\p{Ll})/u, (_all, before: string, first: string) => before + first.toUpperCase()),
  shouting: (text) =>
    /\p{Lu}.*\p{Lu}/su.test(text) && !/\p{Ll}/u.test(text)
      ? text
          .toLowerCase()
          .replace(/(^|[.!?]\s+)(\p{Ll})/gu, (_all, before: string, first: string) => before + first.toUpperCase())
      : text,
  fullStop: (text) => (/[\p{L}\p{N})”’]$/u.test(text) ? `${text}.` : text),
  noFullStop: (text) => (/[^.]\.$/.test(text) ? text.slice(0, -1) : text),
};

/** What tidies a text, rule by rule in the order of the table. */
export function tidier(rules: readonly TidyRule[]): TextChange {
  const changes = (Object.keys(TIDY) as TidyRule[]).filter((rule) => rules.includes(rule)).map((rule) => TIDY[rule]);
  return (text) => changes.reduce((now, change) => change(now), text);
}

/** Fields with texts of people's own words: not dates, codes or addresses. */
export const TEXT_FIELDS: readonly FieldId[] = FIELDS.filter(({ type }) => type === 'text' || type === 'langAlt').map(
  ({ id }) => id,
);

/** A value with all its texts changed, those in lists, languages and structures too; lists keep each text once. */
export function withTexts(id: FieldId, value: FieldValue, change: TextChange): FieldValue {
  return changed(fieldOf(id), value, change);
}

function changed(member: Member, value: FieldValue, change: TextChange): FieldValue {
  if (Array.isArray(value)) {
    const items = value.map((item) => changed(member, item, change));
    return items.filter((item, i) => typeof item !== 'string' || items.indexOf(item) === i);
  }
  if (typeof value === 'string') return member.type === 'text' || member.type === 'langAlt' ? change(value) : value;
  if (typeof value !== 'object') return value;
  return Object.fromEntries(
    Object.entries(value).map(([name, item]) => {
      const inner = member.type === 'langAlt' ? member : member.members?.().find(({ id }) => id === name);
      return [name, inner ? changed(inner, item, change) : item];
    }),
  );
}
