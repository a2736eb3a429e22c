// An XMP packet (ISO 16684-1): reading properties out of its RDF, and changing them while all else in it stays.

import { utf8Bytes, utf8Text } from '../bytes';
import {
  fieldOf,
  FIELDS,
  NAMESPACES,
  sameValue,
  textsOf,
  type Field,
  type FieldId,
  type FieldValue,
  type FieldValues,
  type XmpName,
} from '../fields';
import { elementsOf, parseXml, serializeXml, textIn, type XmlElement } from '../xml';

/** A packet as a tree that can be edited; the root is `x:xmpmeta` or `rdf:RDF`. */
export interface XmpPacket {
  root: XmlElement;
}

const PADDING_BYTES = 2048;
const LIST_OF_TYPE = { bag: 'Bag', seq: 'Seq', langAlt: 'Alt' } as const;

/** Reads a packet, with or without its wrapper. Throws an Error that says why when it is no XMP. */
export function parseXmp(bytes: Uint8Array): XmpPacket {
  const text = packetText(bytes);
  const start = text.search(/<[A-Za-z_]/);
  if (start < 0) throw new Error('holds no XML');
  const end = text.lastIndexOf('<?xpacket');
  const packet: XmpPacket = { root: parseXml(text.slice(start, end > start ? end : undefined).trimEnd()) };
  rdfOf(packet);
  return packet;
}

/** A packet that says nothing yet. */
export function emptyXmp(): XmpPacket {
  return {
    root: parseXml(
      `<x:xmpmeta xmlns:x="${NAMESPACES.x}"><rdf:RDF xmlns:rdf="${NAMESPACES.rdf}"><rdf:Description rdf:about=""/></rdf:RDF></x:xmpmeta>`,
    ),
  };
}

/** The packet as UTF-8 bytes, wrapped (ISO 16684-1, 7.3.2) and padded so that a later write can stay in place. */
export function serializeXmp(packet: XmpPacket, padding = PADDING_BYTES): Uint8Array {
  const lines = Array.from({ length: Math.ceil(padding / 100) }, () => `${' '.repeat(99)}\n`).join('');
  return utf8Bytes(
    `<?xpacket begin="\ufeff" id="W5M0MpCehiHzreSzNTczkc9d"?>\n${serializeXml(packet.root)}\n${lines}<?xpacket end="w"?>`,
  );
}

/** The values of all fields of the table that the packet holds. */
export function xmpFields(packet: XmpPacket): FieldValues {
  const values: FieldValues = {};
  for (const field of FIELDS) {
    const value = readField(packet, field);
    if (value !== undefined) values[field.id] = value;
  }
  return values;
}

/** Sets one field, or removes it with undefined. A value that is there already leaves the packet untouched; other languages of a language alternative stay. Returns whether anything changed. */
export function setXmpField(packet: XmpPacket, id: FieldId, value: FieldValue | undefined): boolean {
  const field = fieldOf(id);
  const texts = textsOf(value).filter((text) => text !== '');
  if (sameValue(readField(packet, field), texts.length ? value : undefined)) return false;
  const languages = field.type === 'langAlt' ? otherLanguages(packet, field.xmp) : [];
  removeProperty(packet, field.xmp);
  if (texts.length === 0 && languages.length === 0) return true;

  const description = descriptionOf(packet);
  const property = newElement(packet, description, field.xmp);
  if (field.type === 'bag' || field.type === 'seq' || field.type === 'langAlt') {
    const list = newElement(packet, description, rdfName(LIST_OF_TYPE[field.type]));
    const items = texts.map((text) =>
      listItem(packet, description, text, field.type === 'langAlt' ? 'x-default' : undefined),
    );
    list.children.push(...items, ...languages);
    property.children.push(list);
  } else {
    property.children.push({ type: 'text', text: texts.join('; ') });
  }
  description.children.push(property);
  return true;
}

function packetText(bytes: Uint8Array): string {
  // XML 1.0, appendix F: the first bytes tell UTF-16 from UTF-8.
  if ((bytes[0] === 0xfe && bytes[1] === 0xff) || (bytes[0] === 0 && bytes[1] === 0x3c))
    return new TextDecoder('utf-16be').decode(bytes);
  if ((bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0x3c && bytes[1] === 0))
    return new TextDecoder('utf-16le').decode(bytes);
  const text = utf8Text(bytes);
  if (text === undefined) throw new Error('is not valid UTF-8');
  return text;
}

function rdfOf(packet: XmpPacket): XmlElement {
  const isRdf = (element: XmlElement) => element.namespace === NAMESPACES.rdf && element.local === 'RDF';
  const rdf = isRdf(packet.root) ? packet.root : elementsOf(packet.root).find(isRdf);
  if (!rdf) throw new Error('holds no rdf:RDF');
  return rdf;
}

function isDescription(element: XmlElement): boolean {
  return element.namespace === NAMESPACES.rdf && element.local === 'Description';
}

function descriptions(packet: XmpPacket): XmlElement[] {
  return elementsOf(rdfOf(packet)).filter(isDescription);
}

function descriptionOf(packet: XmpPacket): XmlElement {
  const first = descriptions(packet)[0];
  if (first) return first;
  const rdf = rdfOf(packet);
  const made = newElement(packet, rdf, rdfName('Description'));
  made.attributes.push({ name: `${prefixOf(made.name)}:about`, namespace: NAMESPACES.rdf, local: 'about', value: '' });
  rdf.children.push(made);
  return made;
}

function isProperty(node: { namespace: string; local: string }, name: XmpName): boolean {
  return node.namespace === name.namespace && node.local === name.name;
}

function findProperty(packet: XmpPacket, name: XmpName): XmlElement | undefined {
  return descriptions(packet)
    .flatMap(elementsOf)
    .find((element) => isProperty(element, name));
}

function removeProperty(packet: XmpPacket, name: XmpName): void {
  for (const description of descriptions(packet)) {
    description.attributes = description.attributes.filter((attribute) => !isProperty(attribute, name));
    description.children = description.children.filter((child) => child.type !== 'element' || !isProperty(child, name));
  }
}

function readField(packet: XmpPacket, field: Field): FieldValue | undefined {
  const element = findProperty(packet, field.xmp);
  const attribute = descriptions(packet)
    .flatMap((description) => description.attributes)
    .find((candidate) => isProperty(candidate, field.xmp));
  const items = element ? itemsOf(element) : attribute ? [{ text: attribute.value, language: undefined }] : [];
  const texts = items.map((item) => item.text.trim()).filter((text) => text !== '');
  if (texts.length === 0) return undefined;
  if (field.type === 'bag' || field.type === 'seq') return texts;
  if (field.type === 'number') {
    const number = Number(texts[0]);
    return Number.isFinite(number) ? number : undefined;
  }
  const standard = items.find((item) => item.language === 'x-default' && item.text.trim() !== '');
  return standard?.text.trim() ?? texts[0];
}

interface Item {
  text: string;
  language: string | undefined;
  element?: XmlElement;
}

function itemsOf(property: XmlElement): Item[] {
  const list = elementsOf(property).find(
    (child) => child.namespace === NAMESPACES.rdf && ['Bag', 'Seq', 'Alt'].includes(child.local),
  );
  if (!list) return [{ text: textIn(property), language: undefined }];
  return elementsOf(list).map((element) => ({
    text: textIn(element),
    language: element.attributes.find((attribute) => attribute.name === 'xml:lang')?.value,
    element,
  }));
}

function otherLanguages(packet: XmpPacket, name: XmpName): XmlElement[] {
  const property = findProperty(packet, name);
  if (!property) return [];
  return itemsOf(property).flatMap((item) =>
    item.element && item.language && item.language !== 'x-default' ? [item.element] : [],
  );
}

/** An element that can stand inside `parent`. Prefixes are declared there and nowhere deeper, since readers that know no namespaces take declarations further in for values. */
function newElement(packet: XmpPacket, parent: XmlElement, { namespace, prefix, name }: XmpName): XmlElement {
  const used = boundPrefix(packet, parent, namespace, prefix);
  return { type: 'element', name: `${used}:${name}`, namespace, local: name, attributes: [], children: [] };
}

/** The prefix that stands for a namespace inside an element: one that does already, or a new one declared on it. */
function boundPrefix(packet: XmpPacket, element: XmlElement, namespace: string, wanted: string): string {
  const inScope = new Map<string, string>();
  for (const holder of new Set([packet.root, rdfOf(packet), element])) {
    for (const { name, value } of holder.attributes) if (name.startsWith('xmlns:')) inScope.set(name.slice(6), value);
  }
  const bound = [...inScope].find(([, value]) => value === namespace)?.[0];
  if (bound) return bound;
  let prefix = wanted;
  for (let i = 2; inScope.has(prefix); i++) prefix = `${wanted}${i}`;
  element.attributes.push({
    name: `xmlns:${prefix}`,
    namespace: 'http://www.w3.org/2000/xmlns/',
    local: prefix,
    value: namespace,
  });
  return prefix;
}

function rdfName(name: string): XmpName {
  return { namespace: NAMESPACES.rdf, prefix: 'rdf', name };
}

function listItem(packet: XmpPacket, parent: XmlElement, text: string, language: string | undefined): XmlElement {
  const item = newElement(packet, parent, rdfName('li'));
  if (language)
    item.attributes.push({
      name: 'xml:lang',
      namespace: 'http://www.w3.org/XML/1998/namespace',
      local: 'lang',
      value: language,
    });
  item.children.push({ type: 'text', text });
  return item;
}

function prefixOf(name: string): string {
  return name.slice(0, name.indexOf(':'));
}
