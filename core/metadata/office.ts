// What an office document is: OpenDocument (ISO/IEC 26300) and Office Open XML (ISO/IEC 29500), both ZIP files with XML in them. What they say of
// themselves, the words in them, and the picture of their first page that most programs put inside.

import { hasAscii, memorySource, utf8Text, viewOf, type ByteSource } from './bytes';
import { parseJpegHead } from './containers/jpeg';
import type { FileKind } from './containers/kinds';
import { mediaOfDocument, type SaidOfDocument } from './document';
import type { LookedMedia } from './probed';
import { elementsOf, parseXml, type XmlElement } from './xml';
import { zipBytes, zipEntries, type ZipEntry } from './zip';

const MAX_XML_BYTES = 16_000_000;
const MAX_PICTURE_BYTES = 16_000_000;
/** Slides whose words are read. */
const MAX_PARTS = 200;
/** The signature, and the chunk with the size (PNG, third edition, 11.2.1). */
const PNG_HEAD_BYTES = 24;

interface OfficeKind {
  /** What every file of the kind holds. */
  mark: string;
  /** The picture of the first page, by the names it has. */
  pictures: readonly string[];
  /** Parts that say of which what: by the local name of an element, what it says. */
  says: readonly { part: string; elements: Readonly<Record<string, keyof SaidOfDocument>> }[];
  /** Parts that hold its words. */
  hasWords: (name: string) => boolean;
  /** Elements that hold words, and those behind which a word ends; undefined: all text is words. */
  words: { within: string | undefined; ends: ReadonlySet<string> };
}

const DUBLIN_CORE = { title: 'title', creator: 'author', subject: 'subject' } as const;

export const OFFICE_KINDS: Readonly<Partial<Record<FileKind, OfficeKind>>> = {
  odf: {
    mark: 'mimetype',
    pictures: ['Thumbnails/thumbnail.png'],
    says: [
      {
        part: 'meta.xml',
        elements: {
          ...DUBLIN_CORE,
          'initial-creator': 'author',
          'creation-date': 'created',
          keyword: 'keywords',
          generator: 'software',
          'document-statistic': 'pages',
        },
      },
    ],
    hasWords: (name) => name === 'content.xml',
    words: { within: undefined, ends: new Set(['p', 'h', 'tab', 's', 'line-break']) },
  },
  ooxml: {
    mark: '[Content_Types].xml',
    pictures: ['docProps/thumbnail.jpeg', 'docProps/thumbnail.jpg', 'docProps/thumbnail.png'],
    says: [
      { part: 'docProps/core.xml', elements: { ...DUBLIN_CORE, created: 'created', keywords: 'keywords' } },
      { part: 'docProps/app.xml', elements: { Pages: 'pages', Slides: 'pages', Application: 'software' } },
    ],
    hasWords: (name) => /^(word\/document|xl\/sharedStrings|ppt\/slides\/slide\d+)\.xml$/.test(name),
    words: { within: 't', ends: new Set(['p', 'si', 'tab', 'br']) },
  },
};

/** The kind of office document that a ZIP file is; undefined for none. Throws an Error where it is no whole ZIP file. */
export function officeKind(source: ByteSource): FileKind | undefined {
  const entries = zipEntries(source);
  return (Object.keys(OFFICE_KINDS) as FileKind[]).find((kind) => entries.has(OFFICE_KINDS[kind]?.mark ?? ''));
}

/** What an office document is; or why that can’t be said. */
export function officeOf(source: ByteSource, kind: FileKind): LookedMedia {
  const facts = OFFICE_KINDS[kind];
  if (!facts) return { problem: 'it is no office document', damaged: false };
  try {
    const entries = zipEntries(source);
    const said: SaidOfDocument = {};
    for (const { part, elements } of facts.says)
      for (const element of allIn(xmlOf(source, entries.get(part)))) take(said, elements[element.local], element);
    const parts = [...entries.values()].filter(({ name }) => facts.hasWords(name)).slice(0, MAX_PARTS);
    const words = parts.map((entry) => wordsIn(xmlOf(source, entry), facts.words)).join(' ');
    return { ...mediaOfDocument(said, words), ...sizeOf(officePicture(source, kind)) };
  } catch (error) {
    return {
      problem: `its parts could not be read: ${error instanceof Error ? error.message : String(error)}`,
      damaged: true,
    };
  }
}

/** The picture of the first page as the document holds it (PNG or JPEG); undefined where there is none. Throws an Error for one that can’t be read. */
export function officePicture(source: ByteSource, kind: FileKind): Uint8Array | undefined {
  const entries = zipEntries(source);
  const entry = OFFICE_KINDS[kind]?.pictures.map((name) => entries.get(name)).find((found) => found !== undefined);
  return entry && zipBytes(source, entry, MAX_PICTURE_BYTES);
}

/** How large the picture of a page is: so the document is shown. */
function sizeOf(picture: Uint8Array | undefined): { width?: number; height?: number } {
  if (!picture) return {};
  if (hasAscii(picture, 1, 'PNG') && picture.length >= PNG_HEAD_BYTES)
    return { width: viewOf(picture).getUint32(16), height: viewOf(picture).getUint32(20) };
  const { width, height } = parseJpegHead(memorySource(picture));
  return width && height ? { width, height } : {};
}

function xmlOf(source: ByteSource, entry: ZipEntry | undefined): XmlElement | undefined {
  if (!entry) return undefined;
  const text = utf8Text(zipBytes(source, entry, MAX_XML_BYTES));
  if (text === undefined) throw new Error(`“${entry.name}” in it is no text in UTF-8`);
  return parseXml(text);
}

function* allIn(element: XmlElement | undefined): Generator<XmlElement> {
  if (!element) return;
  yield element;
  for (const child of elementsOf(element)) yield* allIn(child);
}

/** Takes what an element says; of several keywords all, of all else the first. */
function take(said: SaidOfDocument, what: keyof SaidOfDocument | undefined, element: XmlElement): void {
  if (what === undefined) return;
  const text =
    element.local === 'document-statistic'
      ? (element.attributes.find(({ local }) => local === 'page-count')?.value ?? '')
      : (textsIn(element).trim() ?? '');
  if (text === '') return;
  if (what === 'keywords') said.keywords = said.keywords === undefined ? text : `${said.keywords}; ${text}`;
  else said[what] ??= text;
}

function textsIn(element: XmlElement): string {
  return element.children
    .map((child) => (child.type === 'text' ? child.text : child.type === 'element' ? textsIn(child) : ''))
    .join('');
}

function wordsIn(root: XmlElement | undefined, { within, ends }: OfficeKind['words']): string {
  const parts: string[] = [];
  const visit = (element: XmlElement, isWords: boolean): void => {
    for (const child of element.children) {
      if (child.type === 'text' && isWords) parts.push(child.text);
      if (child.type === 'element') visit(child, isWords || child.local === within);
    }
    if (ends.has(element.local)) parts.push(' ');
  };
  if (root) visit(root, within === undefined);
  return parts.join('');
}
