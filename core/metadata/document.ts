// What a document is, from what a program that knows PDF (ISO 32000) says of it.

import type { Media } from './probed';
import type { FieldValues } from './fields';

/** Letters of a document’s text that are kept. */
const MAX_TEXT = 20_000;
/** Pages are measured in points, 72 an inch; a picture of one is thought to have twice as many pixels. */
const PIXELS_PER_POINT = 2;

/** What a document says of itself, as text. */
export interface SaidOfDocument {
  title?: string;
  author?: string;
  subject?: string;
  /** Several, with commas or semicolons between them. */
  keywords?: string;
  software?: string;
  /** ISO 8601. */
  created?: string;
  pages?: string;
  /** `419.5 x 595.2 pts`. */
  pageSize?: string;
}

/** The lines of a program that knows PDF, and what they say. */
const LINES: Readonly<Record<string, keyof SaidOfDocument>> = {
  Title: 'title',
  Author: 'author',
  Subject: 'subject',
  Keywords: 'keywords',
  Producer: 'software',
  CreationDate: 'created',
  Pages: 'pages',
  'Page size': 'pageSize',
};

/** A document from `key: value` lines and the words on its pages. */
export function documentOf(lines: string, text: string): Media {
  const said: SaidOfDocument = {};
  for (const line of lines.split('\n')) {
    const colon = line.indexOf(':');
    const what = LINES[line.slice(0, Math.max(0, colon))];
    const value = line.slice(colon + 1).trim();
    if (what && value !== '') said[what] = value;
  }
  return mediaOfDocument(said, text);
}

/** A document from what it says of itself and the words in it. */
export function mediaOfDocument(said: SaidOfDocument, text: string): Media {
  const [, width, height] = /^([\d.]+) x ([\d.]+) pts/.exec(said.pageSize ?? '') ?? [];
  const [, created, zone] =
    /^(\d{4}-\d{2}-\d{2}T\d{2}:\d{2}:\d{2})(?:\.\d+)?(Z|[+-]\d{2}(?::?\d{2})?)?/.exec(said.created ?? '') ?? [];
  const pages = Number(said.pages);
  const words = text.replace(/\s+/gu, ' ').trim().slice(0, MAX_TEXT);
  return {
    ...(width && height
      ? { width: Math.round(Number(width) * PIXELS_PER_POINT), height: Math.round(Number(height) * PIXELS_PER_POINT) }
      : {}),
    facts: {
      ...(Number.isInteger(pages) && pages > 0 ? { pages } : {}),
      ...(words === '' ? {} : { text: words }),
      ...(said.software === undefined ? {} : { software: said.software }),
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

function fieldsOf({ title, author, subject, keywords }: SaidOfDocument): FieldValues {
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
