// The typed property tree of XMP (ISO 16684-1, section 6) out of RDF/XML in any of its abbreviations (W3C RDF 1.1 XML
// Syntax, section 7.2), and back into the plainest form.

import {
  XML_NAMESPACE,
  elementsOf,
  serializeXml,
  textIn,
  XMLNS_NAMESPACE,
  type XmlAttribute,
  type XmlElement,
} from '../../xml';
import { NAMESPACES, type XmpName } from '../../namespaces';

export interface XmpProperty extends XmpName {
  value: XmpValue;
}

interface Qualified {
  /** What is said of the value itself, `xml:lang` among them. */
  qualifiers: readonly XmpProperty[];
}

export interface XmpText extends Qualified {
  kind: 'text';
  text: string;
  /** Written as `rdf:resource`. */
  uri?: true;
}

export interface XmpArray extends Qualified {
  kind: 'array';
  form: ArrayForm;
  items: XmpValue[];
}

export interface XmpStruct extends Qualified {
  kind: 'struct';
  members: XmpProperty[];
}

export type XmpValue = XmpText | XmpArray | XmpStruct;
export type ArrayForm = 'Bag' | 'Seq' | 'Alt';

const NONE: readonly XmpProperty[] = [];
/** Attributes of RDF that name or refer to a node and say nothing of the picture. */
const RDF_SYNTAX = new Set(['about', 'ID', 'nodeID', 'datatype', 'parseType', 'resource', 'bagID', 'aboutEach', 'li']);

/** The properties of all nodes of an `rdf:RDF`, in order; XMP has one subject, so it does not matter how many nodes there are. */
export function propertiesOf(rdf: XmlElement): XmpProperty[] {
  const properties: XmpProperty[] = [];
  for (const node of elementsOf(rdf)) for (const property of membersOf(node)) properties.push(property);
  return properties;
}

/** A property as an element, named and its namespaces bound by `element`. */
export function elementOf(property: XmpProperty, element: (name: XmpName) => XmlElement): XmlElement {
  const made = element(property);
  fill(made, property.value, element);
  return made;
}

export function textValue(text: string, qualifiers: readonly XmpProperty[] = NONE): XmpText {
  return { kind: 'text', text, qualifiers };
}

/** The language of a value, as `xml:lang` has it. */
export function languageOf(value: XmpValue): string | undefined {
  const qualifier = value.qualifiers.find(isLanguage)?.value;
  return qualifier?.kind === 'text' ? qualifier.text : undefined;
}

export function withLanguage(value: XmpText, language: string): XmpText {
  const lang = { namespace: XML_NAMESPACE, prefix: 'xml', name: 'lang', value: textValue(language) };
  return { ...value, qualifiers: [lang, ...value.qualifiers.filter((qualifier) => !isLanguage(qualifier))] };
}

/** The members of a node: its property attributes and property elements, and its type where that is no mere rdf:Description. */
function membersOf(node: XmlElement): XmpProperty[] {
  const members: XmpProperty[] = [];
  for (const attribute of node.attributes) {
    if (isPropertyAttribute(attribute)) members.push(propertyFrom(attribute, textValue(attribute.value)));
  }
  for (const child of node.children) if (child.type === 'element') members.push(propertyFrom(child, valueOf(child)));
  return members;
}

function valueOf(property: XmlElement): XmpValue {
  let qualifiers: XmpProperty[] | undefined;
  let members: XmpProperty[] | undefined;
  let parseType = '';
  let resource: string | undefined;
  for (const attribute of property.attributes) {
    const { namespace, local, value } = attribute;
    if (namespace === XML_NAMESPACE && local === 'lang')
      (qualifiers ??= []).push(propertyFrom(attribute, textValue(value)));
    else if (namespace === NAMESPACES.rdf && local === 'parseType') parseType = value;
    else if (namespace === NAMESPACES.rdf && local === 'resource') resource = value;
    else if (isPropertyAttribute(attribute)) (members ??= []).push(propertyFrom(attribute, textValue(value)));
  }
  const value = plainValue(property, parseType, resource, members);
  return qualifiers ? { ...value, qualifiers: [...qualifiers, ...value.qualifiers] } : value;
}

function plainValue(
  property: XmlElement,
  parseType: string,
  resource: string | undefined,
  attributes: XmpProperty[] | undefined,
): XmpValue {
  if (parseType === 'Resource') return structOf([...(attributes ?? []), ...membersOf({ ...property, attributes: [] })]);
  if (parseType === 'Literal')
    return textValue(
      property.children
        .map((child) => (child.type === 'element' ? serializeXml(child) : child.type === 'text' ? child.text : ''))
        .join(''),
    );
  const nodes = property.children.length === 1 && property.children[0]?.type === 'text' ? [] : elementsOf(property);
  if (parseType === 'Collection') return { kind: 'array', form: 'Seq', items: nodes.map(nodeValue), qualifiers: NONE };
  const [node] = nodes;
  if (node) {
    const value = nodeValue(node);
    return attributes ? { ...value, qualifiers: [...value.qualifiers, ...attributes] } : value;
  }
  const text = textIn(property);
  if (resource !== undefined) return { kind: 'text', text: resource, uri: true, qualifiers: attributes ?? NONE };
  if (!attributes) return textValue(text);
  // An empty element with attributes is a structure, or a value with qualifiers when one of them is rdf:value.
  return text.trim() === '' ? structOf(attributes) : textValue(text, attributes);
}

function nodeValue(node: XmlElement): XmpValue {
  const form = formOf(node);
  if (form) {
    return { kind: 'array', form, items: elementsOf(node).map(valueOf), qualifiers: NONE };
  }
  const value = structOf(membersOf(node));
  if (node.namespace === NAMESPACES.rdf && node.local === 'Description') return value;
  const type: XmpProperty = {
    ...RDF_TYPE,
    value: { kind: 'text', text: node.namespace + node.local, uri: true, qualifiers: NONE },
  };
  return { ...value, qualifiers: [...value.qualifiers, type] };
}

/** A structure, or the value in it with all else as its qualifiers when it has an rdf:value. */
function structOf(members: XmpProperty[]): XmpValue {
  const at = members.findIndex(({ namespace, name }) => namespace === NAMESPACES.rdf && name === 'value');
  const value = members[at]?.value;
  if (!value) return { kind: 'struct', members, qualifiers: NONE };
  return { ...value, qualifiers: [...value.qualifiers, ...members.filter((_member, i) => i !== at)] };
}

function fill(made: XmlElement, value: XmpValue, element: (name: XmpName) => XmlElement): void {
  const language = languageOf(value);
  if (language !== undefined) made.attributes.push(attributeOf(XML_NAMESPACE, 'xml:lang', language));
  const rdfAttribute = (name: string, text: string) => {
    const { name: full } = element(rdf(name));
    made.attributes.push(attributeOf(NAMESPACES.rdf, full, text));
  };
  const qualifiers = value.qualifiers.filter((qualifier) => !isLanguage(qualifier));
  if (qualifiers.length > 0 && value.kind !== 'struct') {
    rdfAttribute('parseType', 'Resource');
    made.children.push(elementOf({ ...rdf('value'), value: { ...value, qualifiers: NONE } }, element));
    made.children.push(...qualifiers.map((qualifier) => elementOf(qualifier, element)));
    return;
  }
  if (value.kind === 'text') {
    if (value.uri) rdfAttribute('resource', value.text);
    else if (value.text !== '') made.children.push({ type: 'text', text: value.text });
  } else if (value.kind === 'array') {
    const list = element(rdf(value.form));
    list.children.push(...value.items.map((item) => elementOf({ ...rdf('li'), value: item }, element)));
    made.children.push(list);
  } else {
    rdfAttribute('parseType', 'Resource');
    made.children.push(...[...qualifiers, ...value.members].map((member) => elementOf(member, element)));
  }
}

function formOf(node: XmlElement): ArrayForm | undefined {
  if (node.namespace !== NAMESPACES.rdf) return undefined;
  return node.local === 'Bag' || node.local === 'Seq' || node.local === 'Alt' ? node.local : undefined;
}

function isLanguage({ namespace, name }: XmpName): boolean {
  return namespace === XML_NAMESPACE && name === 'lang';
}

function isPropertyAttribute({ namespace, local }: XmlAttribute): boolean {
  if (namespace === '' || namespace === XMLNS_NAMESPACE || namespace === XML_NAMESPACE) return false;
  return namespace !== NAMESPACES.rdf || !RDF_SYNTAX.has(local);
}

function propertyFrom(node: { name: string; namespace: string; local: string }, value: XmpValue): XmpProperty {
  const { name, namespace, local } = node;
  return { namespace, prefix: name.slice(0, Math.max(0, name.length - local.length - 1)), name: local, value };
}

function attributeOf(namespace: string, name: string, value: string): XmlAttribute {
  return { name, namespace, local: name.slice(name.indexOf(':') + 1), value };
}

function rdf(name: string): XmpName {
  return { namespace: NAMESPACES.rdf, prefix: 'rdf', name };
}

const RDF_TYPE = rdf('type');
