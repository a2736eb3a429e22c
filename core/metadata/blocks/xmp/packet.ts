// An XMP packet (ISO 16684-1): its bytes, the properties in it, and changing them while all else in it stays.

import { utf8Bytes, utf8Text } from '../../bytes';
import { NAMESPACES, type XmpName } from '../../namespaces';
import { elementsOf, parseXml, serializeXml, XMLNS_NAMESPACE, type XmlElement } from '../../xml';
import { elementOf, propertiesOf, type XmpProperty, type XmpValue } from './tree';

/** A packet as a tree that can be edited; the root is `x:xmpmeta` or `rdf:RDF`. */
export interface XmpPacket {
  root: XmlElement;
  /** The properties in it; where one stands twice, the first counts. */
  properties: XmpProperty[];
}

/** Room that is left in a packet, so that a later write can stay in place. */
export const PADDING_BYTES = 3072;
const OPENING = '<?xpacket begin="\ufeff" id="W5M0MpCehiHzreSzNTczkc9d"?>\n';
const CLOSING = '<?xpacket end="w"?>';

/** Reads a packet, with or without its wrapper, in UTF-8 or UTF-16. Throws an Error that says why when it is no XMP. */
export function parseXmp(bytes: Uint8Array): XmpPacket {
  const text = packetText(bytes);
  const start = text.indexOf('<');
  if (start < 0) throw new Error('holds no XML');
  const closing = text.lastIndexOf('<?xpacket end');
  const end = text.lastIndexOf('>', closing > start ? closing : text.length) + 1;
  const root = parseXml(text.slice(start, end));
  return { root, properties: propertiesOf(rdfOf(root)) };
}

/** A packet that says nothing yet. */
export function emptyXmp(): XmpPacket {
  return {
    root: parseXml(
      `<x:xmpmeta xmlns:x="${NAMESPACES.x}"><rdf:RDF xmlns:rdf="${NAMESPACES.rdf}"><rdf:Description rdf:about=""/></rdf:RDF></x:xmpmeta>`,
    ),
    properties: [],
  };
}

/** The packet as UTF-8, without wrapper and padding. */
export function packetBody({ root }: XmpPacket): Uint8Array {
  return utf8Bytes(serializeXml(root));
}

/** A body with its wrapper (ISO 16684-1, 7.3.2) and so many bytes of padding before the end of it. */
export function wrapBody(body: Uint8Array, padding: number): Uint8Array {
  const [opening, closing] = [utf8Bytes(OPENING), utf8Bytes(CLOSING)];
  const whole = new Uint8Array(opening.length + body.length + 1 + padding + closing.length).fill(0x20);
  whole.set(opening);
  whole.set(body, opening.length);
  for (let at = opening.length + body.length; at < whole.length - closing.length; at += 100) whole[at] = 0x0a;
  whole.set(closing, whole.length - closing.length);
  return whole;
}

/** What `wrapBody` adds to a body without padding. */
export const WRAPPER_BYTES = wrapBody(new Uint8Array(), 0).length;

/** The packet as bytes, wrapped and padded. */
export function serializeXmp(packet: XmpPacket, padding = PADDING_BYTES): Uint8Array {
  return wrapBody(packetBody(packet), padding);
}

export function propertyOf(packet: XmpPacket, name: XmpName): XmpValue | undefined {
  return packet.properties.find((property) => isSameName(property, name))?.value;
}

export function isSameName(a: XmpName, b: XmpName): boolean {
  return a.name === b.name && a.namespace === b.namespace;
}

/** Sets a property, or removes it with undefined, wherever and in whatever form it stood. */
export function setProperty(packet: XmpPacket, name: XmpName, value: XmpValue | undefined): void {
  if (propertyOf(packet, name)) removeProperty(packet, name);
  if (!value) return;
  const property = { ...name, value };
  packet.properties.push(property);
  const description = firstNode(packet);
  const prefixes = new Map<string, string>();
  description.children.push(elementOf(property, (wanted) => newElement(packet, description, wanted, prefixes)));
}

function removeProperty(packet: XmpPacket, name: XmpName): void {
  for (const node of elementsOf(rdfOf(packet.root))) {
    node.attributes = node.attributes.filter((attribute) => !isNamed(attribute, name));
    node.children = node.children.filter((child) => child.type !== 'element' || !isNamed(child, name));
  }
  packet.properties = packet.properties.filter((property) => !isSameName(property, name));
}

/** Takes the nodes of another packet in, as a packet that was split is put together. */
export function joinPackets(packet: XmpPacket, other: XmpPacket): void {
  const nodes = elementsOf(rdfOf(other.root));
  const inherited = [other.root, rdfOf(other.root)].flatMap(({ attributes }) => attributes.filter(isDeclaration));
  for (const node of nodes) {
    const own = new Set(node.attributes.map(({ name }) => name));
    node.attributes.unshift(...inherited.filter(({ name }) => !own.has(name)));
  }
  rdfOf(packet.root).children.push(...nodes);
  packet.properties.push(...other.properties);
}

/** A packet of some of the properties, as they stand in another. */
export function packetOf(properties: Iterable<XmpProperty>): XmpPacket {
  const packet = emptyXmp();
  for (const property of properties) setProperty(packet, property, property.value);
  return packet;
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

function rdfOf(root: XmlElement): XmlElement {
  if (isRdf(root)) return root;
  for (const child of root.children) if (child.type === 'element' && isRdf(child)) return child;
  throw new Error('holds no rdf:RDF');
}

function isRdf({ namespace, local }: XmlElement): boolean {
  return local === 'RDF' && namespace === NAMESPACES.rdf;
}

function firstNode(packet: XmpPacket): XmlElement {
  const rdf = rdfOf(packet.root);
  const [first] = elementsOf(rdf);
  if (first) return first;
  const name = { namespace: NAMESPACES.rdf, prefix: 'rdf' };
  const made = newElement(packet, rdf, { ...name, name: 'Description' });
  const about = newElement(packet, rdf, { ...name, name: 'about' }).name;
  made.attributes.push({ name: about, namespace: NAMESPACES.rdf, local: 'about', value: '' });
  rdf.children.push(made);
  return made;
}

function isNamed(node: { namespace: string; local: string }, name: XmpName): boolean {
  return node.namespace === name.namespace && node.local === name.name;
}

function isDeclaration({ namespace }: { namespace: string }): boolean {
  return namespace === XMLNS_NAMESPACE;
}

/** An element that can stand inside `parent`. Prefixes are declared there and nowhere deeper, since readers that know no namespaces take declarations further in for values. `prefixes` remembers those found for it. */
function newElement(
  packet: XmpPacket,
  parent: XmlElement,
  { namespace, prefix, name }: XmpName,
  prefixes = new Map<string, string>(),
): XmlElement {
  const used = prefixes.get(namespace) ?? boundPrefix(packet, parent, namespace, prefix || 'ns');
  prefixes.set(namespace, used);
  return { type: 'element', name: `${used}:${name}`, namespace, local: name, attributes: [], children: [] };
}

/** The prefix that stands for a namespace inside an element: one that does already, or a new one declared on it. */
function boundPrefix(packet: XmpPacket, element: XmlElement, namespace: string, wanted: string): string {
  // From the innermost outwards: a prefix of an outer element counts only if none further in has taken it.
  const holders = element === packet.root ? [element] : [element, rdfOf(packet.root), packet.root];
  const taken = new Map<string, string>();
  for (const { attributes } of holders)
    for (const { namespace: kind, name, local, value } of attributes) {
      if (kind !== XMLNS_NAMESPACE || name === 'xmlns' || taken.has(local)) continue;
      if (value === namespace) return local;
      taken.set(local, value);
    }
  let prefix = wanted;
  for (let i = 2; taken.has(prefix); i++) prefix = `${wanted}${i}`;
  element.attributes.push({ name: `xmlns:${prefix}`, namespace: XMLNS_NAMESPACE, local: prefix, value: namespace });
  return prefix;
}
