// A small XML tree that can be read, edited and written again with everything in it kept. Names are resolved against
// namespaces; document types are refused, so entities cannot be declared (no entity bombs).

import { SaxesParser } from 'saxes';

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

export type XmlNode = XmlElement | { type: 'text'; text: string } | { type: 'comment'; text: string };

const MAX_DEPTH = 100;

/** The root element of a document, without processing instructions. Throws an Error on text that is no well-formed XML, has a document type, or nests deeper than 100. */
export function parseXml(text: string): XmlElement {
  const parser = new SaxesParser({ xmlns: true });
  const open: XmlElement[] = [];
  let root: XmlElement | undefined;
  const append = (node: XmlNode) => open.at(-1)?.children.push(node);

  parser.on('error', (error) => {
    throw error;
  });
  parser.on('doctype', () => {
    throw new Error('a document type is not allowed in XMP');
  });
  parser.on('opentag', (tag) => {
    if (open.length >= MAX_DEPTH) throw new Error(`nested deeper than ${MAX_DEPTH}`);
    const element: XmlElement = {
      type: 'element',
      name: tag.name,
      namespace: tag.uri,
      local: tag.local,
      attributes: Object.values(tag.attributes).map((attribute) => ({
        name: attribute.name,
        namespace: attribute.uri,
        local: attribute.local,
        value: attribute.value,
      })),
      children: [],
    };
    append(element);
    root ??= element;
    open.push(element);
  });
  parser.on('closetag', () => void open.pop());
  parser.on('text', (value) => append({ type: 'text', text: value }));
  parser.on('cdata', (value) => append({ type: 'text', text: value }));
  parser.on('comment', (value) => append({ type: 'comment', text: value }));
  parser.write(text).close();
  if (!root) throw new Error('no element in it');
  return root;
}

/** The element and all in it as text. */
export function serializeXml(element: XmlElement): string {
  const attributes = element.attributes.map((a) => ` ${a.name}="${escapeXml(a.value, true)}"`).join('');
  if (element.children.length === 0) return `<${element.name}${attributes}/>`;
  const inner = element.children.map((child) => {
    if (child.type === 'element') return serializeXml(child);
    return child.type === 'text' ? escapeXml(child.text, false) : `<!--${child.text}-->`;
  });
  return `<${element.name}${attributes}>${inner.join('')}</${element.name}>`;
}

/** The child elements, without text between them. */
export function elementsOf(element: XmlElement): XmlElement[] {
  return element.children.filter((child) => child.type === 'element');
}

/** All text inside an element. */
export function textIn(element: XmlElement): string {
  return element.children
    .map((child) => (child.type === 'text' ? child.text : child.type === 'element' ? textIn(child) : ''))
    .join('');
}

/** Whatever is no Char of XML 1.0, section 2.2: control characters and halves of surrogate pairs. */
const FORBIDDEN = /[^\t\n\r\u0020-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/gu;

function escapeXml(text: string, inAttribute: boolean): string {
  const escaped = text
    .replace(FORBIDDEN, '\ufffd')
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/>/g, '&gt;')
    .replace(/\r/g, '&#xD;');
  if (!inAttribute) return escaped;
  return escaped.replace(/"/g, '&quot;').replace(/\t/g, '&#x9;').replace(/\n/g, '&#xA;');
}
