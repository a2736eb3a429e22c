import fc from 'fast-check';
import { SaxesParser } from 'saxes';
import { elementsOf, parseXml, serializeXml, textIn, type XmlElement } from './xml';

/** The same tree as a well-kept parser builds it. */
function reference(text: string): unknown {
  interface Shape {
    name: string;
    uri: string;
    attributes: [string, string, string][];
    children: (Shape | string)[];
  }
  const open: Shape[] = [];
  let root: Shape | undefined;
  const parser = new SaxesParser({ xmlns: true });
  parser.on('error', (error) => {
    throw error;
  });
  parser.on('opentag', ({ name, uri, attributes }) => {
    const element: Shape = {
      name,
      uri,
      attributes: Object.values(attributes).map((a) => [a.name, a.uri, a.value]),
      children: [],
    };
    open.at(-1)?.children.push(element);
    root ??= element;
    open.push(element);
  });
  parser.on('closetag', () => void open.pop());
  for (const event of ['text', 'cdata'] as const) parser.on(event, (value) => void open.at(-1)?.children.push(value));
  parser.write(text).close();
  return root && merged(root);

  function merged(element: Shape): unknown {
    return {
      ...element,
      children: element.children.map((child) => (typeof child === 'string' ? child : merged(child))),
    };
  }
}

function shapeOf(element: XmlElement): unknown {
  return {
    name: element.name,
    uri: element.namespace,
    attributes: element.attributes.map((a) => [a.name, a.namespace, a.value]),
    children: element.children.flatMap((child) =>
      child.type === 'element' ? [shapeOf(child)] : child.type === 'text' ? [child.text] : [],
    ),
  };
}

const name = fc.constantFrom('a', 'b:c', 'B-1.x', 'ä', 'b:_d');
const text = fc.constantFrom('text', ' & more', '<&>"\'', 'line\nbreak\ttab', '\u{1F30A} Dünen', ']]');
const escaped = (value: string) =>
  value.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&#62;').replace(/"/g, '&#x22;');
const document = fc
  .letrec<{ element: string; node: string }>((tie) => ({
    node: fc.oneof(
      { depthSize: 'small', withCrossShrink: true },
      text.map(escaped),
      fc.constantFrom('<!-- a comment -->', '<?target data?>', '<![CDATA[ <raw> & ]]>'),
      tie('element'),
    ),
    element: fc
      .record({
        name,
        attribute: fc.option(text),
        children: fc.array(tie('node'), { maxLength: 4 }),
        space: fc.constantFrom('', ' ', '\n\t'),
      })
      .map(({ name: tag, attribute, children, space }) => {
        const attributes = attribute === null ? '' : ` k${space}=${space}"${escaped(attribute)}"`;
        return children.length
          ? `<${tag}${attributes}${space}>${children.join('')}</${tag}${space}>`
          : `<${tag}${attributes}${space}/>`;
      }),
  }))
  .element.map(
    (inner) =>
      `<?xml version="1.0"?>\n<r xmlns="urn:one" xmlns:b="urn:two">${inner}<n xmlns="" xmlns:b="urn:three"><b:c b:k="1" k="2"/></n></r>\n`,
  );

test('any document gives the tree that a well-kept parser builds, and written again the same', () => {
  fc.assert(
    fc.property(document, (xml) => {
      const root = parseXml(xml);
      expect(shapeOf(root)).toEqual(reference(xml));
      const again = serializeXml(root);
      expect(serializeXml(parseXml(again))).toBe(again);
    }),
    { numRuns: 400 },
  );
});

test('comments and processing instructions inside are kept', () => {
  const xml = '<r><!-- said --><?go on?><a b="&#x9;&#xA;&amp;">&lt;</a></r>';
  expect(serializeXml(parseXml(xml))).toBe(xml);
  expect(textIn(parseXml(xml))).toBe('<');
});

test.each([
  ['<r>', 'not closed'],
  ['<r></s>', 'closes nothing'],
  ['<r a="1" a="2"/>', 'stands twice'],
  ['<r xmlns:a="u" xmlns:b="u" a:x="1" b:x="2"/>', 'stands twice'],
  ['<p:r/>', 'stands for no namespace'],
  ['<r>&nbsp;</r>', 'not declared'],
  ['<r>&#0;</r>', 'forbids'],
  ['<r>\u0001</r>', 'forbids'],
  ['<!DOCTYPE r [<!ENTITY a "aaaa">]><r>&a;</r>', 'document type'],
  ['<r/><r/>', 'more than one element'],
  ['text', 'outside'],
  ['<r a=1/>', 'no value'],
  ['<r a="<"/>', 'holds a <'],
  [`${'<a>'.repeat(101)}${'</a>'.repeat(101)}`, 'nested deeper'],
  ['', 'no element'],
])('%s is refused', (xml, why) => {
  expect(() => parseXml(xml)).toThrow(why);
});

test('elements are told from the text between them', () => {
  expect(elementsOf(parseXml('<r> <a/> <b/> </r>')).map(({ local }) => local)).toEqual(['a', 'b']);
});
