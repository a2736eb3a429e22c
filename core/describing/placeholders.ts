// Texts with placeholders in braces, filled from a photo: `Kite festival {year}, {folder:2}`.

import { FIELDS, type FieldId } from '../metadata/fields';
import { fieldText } from '../metadata/fieldText';
import { nameParts } from '../filing/names';
import type { DescribedPhoto } from './photo';
import { valueOf, type Target } from './targets';

interface Placeholder {
  help: string;
  example: string;
  /** Undefined: nothing is known, and the text as a whole stays unsaid. */
  value: (photo: DescribedPhoto, detail: string) => string | undefined;
  /** Why a detail can't be used. */
  problem?: (detail: string) => string | undefined;
}

const ofTime = (help: string, from: number, to: number): Placeholder => ({
  help: `${help} of capture`,
  example: '',
  value: ({ takenAt }) => (takenAt && takenAt.length >= to ? takenAt.slice(from, to) : undefined),
});

const whole = (detail: string) => (/^[1-9]\d?$/.test(detail) ? undefined : 'a number from 1 to 99 is expected');

export const TEMPLATE_PLACEHOLDERS: Readonly<Record<string, Placeholder>> = {
  date: ofTime('the day', 0, 10),
  year: ofTime('the year', 0, 4),
  month: ofTime('the month, two digits,', 5, 7),
  day: ofTime('the day of the month, two digits,', 8, 10),
  time: ofTime('the time', 11, 16),
  name: { help: 'the file name without its extension', example: 'name', value: ({ name }) => nameParts(name).base },
  part: {
    help: 'a part of the file name, counted between -, _ and spaces',
    example: 'part:2',
    value: ({ name }, detail) => nameParts(name).base.split(/[-_\s]+/)[Number(detail) - 1] || undefined,
    problem: whole,
  },
  match: {
    help: 'what a regular expression finds in the file name: its first group, or all of it',
    example: 'match:_(\\d+)$',
    value: ({ name }, detail) => {
      const found = new RegExp(detail, 'u').exec(nameParts(name).base);
      return found?.[1] ?? found?.[0];
    },
    problem: (detail) => {
      try {
        new RegExp(detail, 'u');
        return undefined;
      } catch (error) {
        return error instanceof Error ? error.message : String(error);
      }
    },
  },
  folder: {
    help: 'the folder it is in; {folder:2} the one above it, and so on',
    example: 'folder:1',
    value: ({ folder }, detail) =>
      folder
        .split('/')
        .filter(Boolean)
        .at(-Number(detail || 1)),
    problem: (detail) => (detail === '' ? undefined : whole(detail)),
  },
  drive: { help: 'the drive', example: 'drive', value: ({ drive }) => drive },
  number: {
    help: 'a number, counted in the order of capture; {number:4} for four digits',
    example: 'number:3',
    value: ({ number }, detail) => String(number).padStart(Number(detail || 1), '0'),
    problem: (detail) => (detail === '' ? undefined : whole(detail)),
  },
  camera: { help: 'the camera', example: 'camera', value: ({ camera }) => camera || undefined },
  today: { help: 'the day of today', example: 'today', value: ({ today }) => today },
  user: { help: 'who applies it', example: 'user', value: ({ user }) => user },
  field: {
    help: 'what another field says',
    example: 'field:headline',
    value: ({ fields }, detail) => {
      const value = valueOf(fields, targetOf(detail) ?? 'title');
      return value === undefined ? undefined : fieldText(value);
    },
    problem: (detail) => (targetOf(detail) ? undefined : `there is no field “${detail}”`),
  },
};

function targetOf(detail: string): Target | undefined {
  if (detail.startsWith('custom:')) return detail as Target;
  return FIELDS.find(({ id }) => id === (detail as FieldId))?.id;
}

export type FilledText =
  | {
      ok: true;
      /** Undefined where a placeholder has nothing to say. */ fill: (photo: DescribedPhoto) => string | undefined;
    }
  | { ok: false; problem: string };

type Part = string | { placeholder: Placeholder; detail: string };

/** Reads a text with placeholders; `{{` and `}}` stand for braces. */
export function parsePlaceholders(text: string): FilledText {
  const parts: Part[] = [];
  for (const [piece, name, detail] of text.matchAll(/\{\{|\}\}|\{([^{}:]*)(?::([^{}]*))?\}|[^{}]+|[{}]/g)) {
    if (piece === '{{' || piece === '}}') parts.push(piece.charAt(0));
    else if (piece === '{' || piece === '}')
      return { ok: false, problem: 'a brace stands alone; write placeholders as {year}, and a brace as {{' };
    else if (name === undefined) parts.push(piece);
    else {
      const placeholder = Object.hasOwn(TEMPLATE_PLACEHOLDERS, name) ? TEMPLATE_PLACEHOLDERS[name] : undefined;
      if (!placeholder)
        return {
          ok: false,
          problem: `there is no placeholder {${name}}; there are ${Object.keys(TEMPLATE_PLACEHOLDERS).join(', ')}`,
        };
      const problem = placeholder.problem?.(detail ?? '');
      if (problem) return { ok: false, problem: `{${name}}: ${problem}` };
      parts.push({ placeholder, detail: detail ?? '' });
    }
  }
  return {
    ok: true,
    fill: (photo) => {
      const filled = parts.map((part) =>
        typeof part === 'string' ? part : part.placeholder.value(photo, part.detail),
      );
      return filled.includes(undefined) ? undefined : filled.join('');
    },
  };
}

/** Whether a text has placeholders at all. */
export function hasPlaceholders(text: string): boolean {
  return /[{}]/.test(text);
}

/** The placeholders as docs/describing.md shows them. */
export function placeholderTable(): string {
  return [
    '| placeholder | becomes | example |',
    '| --- | --- | --- |',
    ...Object.entries(TEMPLATE_PLACEHOLDERS).map(
      ([name, { help, example }]) => `| \`{${name}}\` | ${help} | \`{${example || name}}\` |`,
    ),
  ].join('\n');
}
