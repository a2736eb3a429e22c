// XML 1.0 with namespaces, as far as XMP uses it: a small tree that can be read, edited and written again with everything
// in it kept. Names are resolved against namespaces; document types are refused, so entities cannot be declared (no
// entity bombs). Written for speed, since every photo of an archive passes through it.

export interface XmlAttribute {
  /** As written, with prefix. */
  name: string;
  namespace: string;
  local: string;
  value: string;
}

export interface XmlElement {
  type: 'element';
  name: string;
  namespace: string;
  local: string;
  attributes: XmlAttribute[];
  children: XmlNode[];
}

export type XmlNode =
  | XmlElement
  | { type: 'text'; text: string }
  | { type: 'comment'; text: string }
  | { type: 'instruction'; text: string };

export const XML_NAMESPACE = 'http://www.w3.org/XML/1998/namespace';
export const XMLNS_NAMESPACE = 'http://www.w3.org/2000/xmlns/';

const MAX_DEPTH = 100;
const COLON = 0x3a;
const SLASH = 0x2f;
const EXCLAMATION = 0x21;
const QUESTION = 0x3f;
/** For the first 128 characters: 1 may begin a name, 2 may stand in one (Namespaces in XML 1.0, section 4; beyond them all may). */
const NAME_CHARS = Uint8Array.from({ length: 128 }, (_, code) => {
  const char = String.fromCharCode(code);
  return /[A-Za-z_]/.test(char) ? 3 : /[0-9.-]/.test(char) ? 2 : 0;
});
const REFERENCE = /&(?:#(\d{1,7})|#x([0-9a-fA-F]{1,6})|(\w+));/g;
const ENTITIES: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" };
/** Whatever is no Char of XML 1.0, section 2.2: control characters and halves of surrogate pairs. */
const FORBIDDEN = /[^\t\n\r\u0020-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/gu;
/** The same but for halves of surrogate pairs, which decoded text cannot hold; much faster. */
const FORBIDDEN_IN_TEXT = /[^\t\n\r\u0020-\ufffd]/;

type Scope = ReadonlyMap<string, string>;
const NO_BINDINGS: Scope = new Map([
  ['xml', XML_NAMESPACE],
  ['xmlns', XMLNS_NAMESPACE],
]);

interface OpenElement {
  element: XmlElement;
  scope: Scope;
}

/**
 * The root element of a document. What stands before and after it (declaration, comments, processing instructions) is
 * left out. Throws an Error on text that is not well-formed, has a document type, or nests deeper than 100.
 */
export function parseXml(text: string): XmlElement {
  if (FORBIDDEN_IN_TEXT.test(text)) throw new Error('holds characters that XML forbids');
  const open: OpenElement[] = [];
  let root: XmlElement | undefined;
  let at = text.charCodeAt(0) === 0xfeff ? 1 : 0;

  while (at < text.length) {
    const next = text.indexOf('<', at);
    const end = next < 0 ? text.length : next;
    if (end > at) addText(open, text.slice(at, end));
    if (next < 0) break;
    const mark = text.charCodeAt(next + 1);
    if (mark === SLASH) at = closeElement(text, next, open);
    else if (mark === EXCLAMATION || mark === QUESTION) at = addOther(text, next, open);
    else {
      if (root && open.length === 0) throw new Error('has more than one element at its top');
      if (open.length >= MAX_DEPTH) throw new Error(`nested deeper than ${MAX_DEPTH}`);
      const parent = open[open.length - 1];
      const tag = openingTag(text, next, parent ? parent.scope : NO_BINDINGS);
      parent?.element.children.push(tag.opened.element);
      root ??= tag.opened.element;
      if (!tag.empty) open.push(tag.opened);
      at = tag.end;
    }
  }
  if (open.length > 0) throw new Error(`<${open.at(-1)?.element.name}> is not closed`);
  if (!root) throw new Error('no element in it');
  return root;
}

/** The element and all in it as text. */
export function serializeXml(element: XmlElement): string {
  let attributes = '';
  for (const { name, value } of element.attributes) attributes += ` ${name}="${escapeXml(value, true)}"`;
  if (element.children.length === 0) return `<${element.name}${attributes}/>`;
  let inner = '';
  for (const child of element.children) {
    if (child.type === 'element') inner += serializeXml(child);
    else if (child.type === 'text') inner += escapeXml(child.text, false);
    else inner += child.type === 'comment' ? `<!--${child.text}-->` : `<?${child.text}?>`;
  }
  return `<${element.name}${attributes}>${inner}</${element.name}>`;
}

/** The child elements, without text between them. */
export function elementsOf(element: XmlElement): XmlElement[] {
  return element.children.filter((child) => child.type === 'element');
}

/** All text inside an element. */
export function textIn(element: XmlElement): string {
  const [only] = element.children;
  if (element.children.length === 1 && only?.type === 'text') return only.text;
  let text = '';
  for (const child of element.children) {
    if (child.type === 'text') text += child.text;
    else if (child.type === 'element') text += textIn(child);
  }
  return text;
}

/** Text without what XML cannot hold, which becomes the replacement character. */
export function allowedText(text: string): string {
  return text.replace(FORBIDDEN, '\ufffd');
}

/** Closes the innermost element; returns where its closing tag ends. */
function closeElement(text: string, start: number, open: OpenElement[]): number {
  const name = nameAt(text, start + 2);
  const closed = open.pop();
  if (closed?.element.name !== name) throw new Error(`</${name}> closes nothing`);
  const at = spaceAfter(text, start + 2 + name.length);
  if (text[at] !== '>') throw new Error(`</${name}> has no end`);
  return at + 1;
}

/** Takes in a comment, a section of plain text or a processing instruction; returns where it ends. */
function addOther(text: string, start: number, open: readonly OpenElement[]): number {
  const parent = open.at(-1)?.element;
  if (text.startsWith('<!--', start)) {
    const close = closing(text, '-->', start + 4);
    parent?.children.push({ type: 'comment', text: text.slice(start + 4, close) });
    return close + 3;
  }
  if (text.startsWith('<![CDATA[', start)) {
    const close = closing(text, ']]>', start + 9);
    if (!parent) throw new Error('has text outside its element');
    parent.children.push({ type: 'text', text: normalLines(text.slice(start + 9, close)) });
    return close + 3;
  }
  if (!text.startsWith('<?', start)) throw new Error('a document type is not allowed in XMP');
  const close = closing(text, '?>', start + 2);
  parent?.children.push({ type: 'instruction', text: text.slice(start + 2, close) });
  return close + 2;
}

function openingTag(text: string, start: number, outer: Scope): { opened: OpenElement; empty: boolean; end: number } {
  const name = nameAt(text, start + 1);
  const attributes: XmlAttribute[] = [];
  let scope = outer;
  let at = start + 1 + name.length;
  for (;;) {
    const after = spaceAfter(text, at);
    const char = text[after];
    if (char === '>' || char === '/') {
      if (char === '/' && text[after + 1] !== '>') throw new Error(`<${name}> has no end`);
      const element: XmlElement = { type: 'element', name, namespace: '', local: name, attributes, children: [] };
      resolve(element, scope);
      return { opened: { element, scope }, empty: char === '/', end: after + (char === '/' ? 2 : 1) };
    }
    if (after === at || after >= text.length) throw new Error(`<${name}> has no end`);
    const attribute = nameAt(text, after);
    at = spaceAfter(text, after + attribute.length);
    if (text[at] !== '=') throw new Error(`the attribute ${attribute} has no value`);
    at = spaceAfter(text, at + 1);
    const quote = text[at];
    if (quote !== '"' && quote !== "'") throw new Error(`the attribute ${attribute} has no value`);
    const close = closing(text, quote, at + 1);
    const raw = text.slice(at + 1, close);
    if (raw.includes('<')) throw new Error(`the attribute ${attribute} holds a <`);
    const value = unescapeXml(/[\t\r\n]/.test(raw) ? raw.replace(/\r\n|[\t\r\n]/g, ' ') : raw);
    attributes.push({ name: attribute, namespace: '', local: attribute, value });
    if (attribute === 'xmlns' || attribute.startsWith('xmlns:'))
      scope = new Map(scope).set(attribute === 'xmlns' ? '' : attribute.slice(6), value);
    at = close + 1;
  }
}

/** Gives an element and its attributes their namespaces (Namespaces in XML 1.0, section 6). */
function resolve(element: XmlElement, scope: Scope): void {
  const colon = element.name.indexOf(':');
  element.local = element.name.slice(colon + 1);
  element.namespace = colon < 0 ? (scope.get('') ?? '') : namespaceOf(scope, element.name.slice(0, colon));
  const { attributes } = element;
  for (let i = 0; i < attributes.length; i++) {
    const attribute = attributes[i];
    if (!attribute) continue;
    const split = attribute.name.indexOf(':');
    attribute.local = attribute.name.slice(split + 1);
    if (split >= 0) attribute.namespace = namespaceOf(scope, attribute.name.slice(0, split));
    else if (attribute.name === 'xmlns') attribute.namespace = XMLNS_NAMESPACE;
    for (let j = 0; j < i; j++) {
      const other = attributes[j];
      if (other?.local === attribute.local && other.namespace === attribute.namespace)
        throw new Error(`the attribute ${attribute.name} stands twice`);
    }
  }
}

function namespaceOf(scope: Scope, prefix: string): string {
  const namespace = scope.get(prefix);
  if (!namespace) throw new Error(`the prefix ${prefix} stands for no namespace`);
  return namespace;
}

function addText(open: readonly OpenElement[], raw: string): void {
  const parent = open.at(-1);
  if (parent) {
    if (raw.includes(']]>')) throw new Error('has ]]> in its text');
    parent.element.children.push({ type: 'text', text: unescapeXml(normalLines(raw)) });
  } else if (spaceAfter(raw, 0) < raw.length) throw new Error('has text outside its element');
}

/** A name with at most one prefix. */
function nameAt(text: string, at: number): string {
  let end = at;
  let expected = 1;
  for (; end < text.length; end++) {
    const code = text.charCodeAt(end);
    if (code === COLON && end > at && expected === 2 && !text.slice(at, end).includes(':')) expected = 1;
    else if (code < 128 && !((NAME_CHARS[code] ?? 0) & expected)) break;
    else expected = 2;
  }
  if (expected === 1) throw new Error(`has no name at character ${at}`);
  return text.slice(at, end);
}

function spaceAfter(text: string, at: number): number {
  let end = at;
  while (isSpace(text.charCodeAt(end))) end++;
  return end;
}

function isSpace(code: number): boolean {
  return code === 0x20 || code === 0x0a || code === 0x0d || code === 0x09;
}

function closing(text: string, mark: string, from: number): number {
  const at = text.indexOf(mark, from);
  if (at < 0) throw new Error(`ends before its ${mark}`);
  return at;
}

/** XML 1.0, section 2.11. */
function normalLines(text: string): string {
  return text.includes('\r') ? text.replace(/\r\n?/g, '\n') : text;
}

function unescapeXml(text: string): string {
  if (!text.includes('&')) return text;
  if (/&(?!#\d{1,7};|#x[0-9a-fA-F]{1,6};|(?:amp|lt|gt|quot|apos);)/.test(text))
    throw new Error('refers to an entity that is not declared');
  return text.replace(REFERENCE, (_all, decimal?: string, hex?: string, entity?: string) => {
    if (entity !== undefined) return ENTITIES[entity] ?? '';
    const code = decimal === undefined ? Number.parseInt(hex ?? '', 16) : Number(decimal);
    const char = code <= 0x10ffff ? String.fromCodePoint(code) : '\0';
    if (allowedText(char) !== char) throw new Error('refers to a character that XML forbids');
    return char;
  });
}

function escapeXml(text: string, inAttribute: boolean): string {
  if (!/[&<>"\t\n\r]|[^\u0020-\ud7ff]/.test(text)) return text;
  const escaped = allowedText(text)
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/>/g, '&gt;')
    .replace(/\r/g, '&#xD;');
  if (!inAttribute) return escaped;
  return escaped.replace(/"/g, '&quot;').replace(/\t/g, '&#x9;').replace(/\n/g, '&#xA;');
}
