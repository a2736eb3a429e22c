// What a document is, from what a program that knows PDF (ISO 32000) says of it.

import type { Media } from './probed';
import type { FieldValues } from './fields';

/** Letters of a document’s text that are kept. */
const MAX_TEXT = 20_000;
/** Pages are measured in points, 72 an inch; a picture of one is thought to have twice as many pixels. */
const PIXELS_PER_POINT = 2;

/**
 * A document from `key: value` lines (`Title`, `Author`, `Subject`, `Keywords`, `Producer`, `CreationDate` in ISO 8601, `Pages`,
 * `Page size: 419.5 x 595.2 pts`) and the words on its pages.
 */
export function documentOf(lines: string, text: string): Media {
  const said = new Map(
    lines.split('\n').flatMap((line) => {
      const colon = line.indexOf(':');
      const value = line.slice(colon + 1).trim();
      return colon > 0 && value !== '' ? [[line.slice(0, colon), value] as const] : [];
    }),
  );
  const [, width, height] = /^([\d.]+) x ([\d.]+) pts/.exec(said.get('Page size') ?? '') ?? [];
  const [, created, zone] =
    /^(\d{4}-\d{2}-\d{2}T\d{2}:\d{2}:\d{2})(Z|[+-]\d{2}(?::?\d{2})?)?/.exec(said.get('CreationDate') ?? '') ?? [];
  const pages = Number(said.get('Pages'));
  const words = text.replace(/\s+/gu, ' ').trim().slice(0, MAX_TEXT);
  return {
    ...(width && height
      ? { width: Math.round(Number(width) * PIXELS_PER_POINT), height: Math.round(Number(height) * PIXELS_PER_POINT) }
      : {}),
    facts: {
      ...(Number.isInteger(pages) && pages > 0 ? { pages } : {}),
      ...(words === '' ? {} : { text: words }),
      ...(said.has('Producer') ? { software: said.get('Producer') ?? '' } : {}),
      ...(created === undefined ? {} : { takenAt: created }),
      ...(zone !== undefined && zone !== 'Z' ? { offset: zoneText(zone) } : {}),
    },
    fields: fieldsOf(said),
  };
}

/** `+02`, `+0200` and `+02:00` are the same. */
function zoneText(zone: string): string {
  const digits = zone.replace(/[^\d]/g, '').padEnd(4, '0');
  return `${zone.slice(0, 1)}${digits.slice(0, 2)}:${digits.slice(2)}`;
}

function fieldsOf(said: ReadonlyMap<string, string>): FieldValues {
  const [title, author, subject, keywords] = ['Title', 'Author', 'Subject', 'Keywords'].map((key) => said.get(key));
  return {
    ...(title === undefined ? {} : { title }),
    ...(author === undefined ? {} : { creator: [author] }),
    ...(subject === undefined ? {} : { description: subject }),
    ...(keywords === undefined
      ? {}
      : {
          keywords: keywords
            .split(/[;,]/)
            .map((each) => each.trim())
            .filter((each) => each !== ''),
        }),
  };
}
