import { asciiText, utf8Bytes } from './bytes';
import { xmpFields, setXmpField } from './blocks/xmp/fields';
import { emptyXmp, packetBody, parseXmp, serializeXmp, wrapBody, WRAPPER_BYTES } from './blocks/xmp/packet';
import { splitPacket, extensionId, joinExtension } from './blocks/xmp/extended';
import { xmpText } from './testing';

const DC = 'xmlns:dc="http://purl.org/dc/elements/1.1/"';
const EXT = 'xmlns:e="http://iptc.org/std/Iptc4xmpExt/2008-02-29/"';
const read = (nodes: string) => xmpFields(parseXmp(utf8Bytes(xmpText(nodes))));
const set = (
  nodes: string,
  ...changes: Parameters<typeof setXmpField> extends [unknown, ...infer Rest] ? Rest : never
) => {
  const packet = parseXmp(utf8Bytes(xmpText(nodes)));
  setXmpField(packet, ...changes);
  return { text: new TextDecoder().decode(packetBody(packet)), fields: xmpFields(parseXmp(packetBody(packet))) };
};

describe('the abbreviations of RDF/XML', () => {
  const location = { City: 'Saltmarsh', CountryCode: 'NOR' };

  test.each([
    [
      'members as elements of a described node',
      `<e:LocationShown><rdf:Bag><rdf:li><rdf:Description><e:City>Saltmarsh</e:City><e:CountryCode>NOR</e:CountryCode></rdf:Description></rdf:li></rdf:Bag></e:LocationShown>`,
    ],
    [
      'parseType Resource',
      `<e:LocationShown><rdf:Bag><rdf:li rdf:parseType="Resource"><e:City>Saltmarsh</e:City><e:CountryCode>NOR</e:CountryCode></rdf:li></rdf:Bag></e:LocationShown>`,
    ],
    [
      'members as attributes of the item',
      `<e:LocationShown><rdf:Bag><rdf:li e:City="Saltmarsh" e:CountryCode="NOR"/></rdf:Bag></e:LocationShown>`,
    ],
    [
      'members as attributes of a node',
      `<e:LocationShown><rdf:Bag><rdf:li><rdf:Description e:City="Saltmarsh"><e:CountryCode>NOR</e:CountryCode></rdf:Description></rdf:li></rdf:Bag></e:LocationShown>`,
    ],
    [
      'a typed node',
      `<e:LocationShown><rdf:Bag><rdf:li><e:Place e:City="Saltmarsh" e:CountryCode="NOR"/></rdf:li></rdf:Bag></e:LocationShown>`,
    ],
    [
      'one structure where a list is expected',
      `<e:LocationShown rdf:parseType="Resource"><e:City>Saltmarsh</e:City><e:CountryCode>NOR</e:CountryCode></e:LocationShown>`,
    ],
  ])('%s', (_name, property) => {
    expect(read(`<rdf:Description rdf:about="" ${EXT}>${property}</rdf:Description>`).locationShown).toEqual([
      location,
    ]);
  });

  test('simple properties as attributes, several nodes, typed nodes, any prefix', () => {
    const fields = read(
      `<rdf:Description xmlns:p="http://ns.adobe.com/photoshop/1.0/" p:City="Saltmarsh"/><q:Thing xmlns:q="urn:q" xmlns:p="http://ns.adobe.com/xap/1.0/" p:Rating="3.5"><p:Label>Blue</p:Label></q:Thing>`,
    );
    expect(fields).toEqual({ city: 'Saltmarsh', rating: 3.5, mark: 'Blue' });
  });

  test('qualifiers do not hide a value, be they written with rdf:value in an element or in attributes', () => {
    const fields = read(
      `<rdf:Description ${DC} xmlns:q="urn:q"><dc:source xmlns:dc="http://ns.adobe.com/photoshop/1.0/"/><dc:creator><rdf:Seq><rdf:li rdf:parseType="Resource"><rdf:value>Ida</rdf:value><q:role>painter</q:role></rdf:li><rdf:li rdf:value="Jon" q:role="flyer"/></rdf:Seq></dc:creator></rdf:Description>`,
    );
    expect(fields.creator).toEqual(['Ida', 'Jon']);
  });

  test('rdf:resource is an address', () => {
    expect(
      read(
        `<rdf:Description xmlns:plus="http://ns.useplus.org/ldf/xmp/1.0/"><plus:DataMining rdf:resource="http://example.org/no"/></rdf:Description>`,
      ).dataMining,
    ).toBe('http://example.org/no');
  });

  test('languages: one is a text, several an object, the first stands for a missing default', () => {
    const alt = (items: string) =>
      read(`<rdf:Description ${DC}><dc:title><rdf:Alt>${items}</rdf:Alt></dc:title></rdf:Description>`).title;
    expect(alt('<rdf:li xml:lang="x-default">Kite</rdf:li>')).toBe('Kite');
    expect(alt('<rdf:li xml:lang="x-default">Kite</rdf:li><rdf:li xml:lang="de">Drachen</rdf:li>')).toEqual({
      'x-default': 'Kite',
      de: 'Drachen',
    });
    expect(alt('<rdf:li xml:lang="de">Drachen</rdf:li>')).toEqual({ 'x-default': 'Drachen', de: 'Drachen' });
    expect(read(`<rdf:Description ${DC}><dc:title>Plain</dc:title></rdf:Description>`).title).toBe('Plain');
  });
});

test('UTF-16 in either order, byte order mark or none, no wrapper, zeros behind', () => {
  const text = xmpText(`<rdf:Description ${DC}><dc:source/><dc:title>Dünen</dc:title></rdf:Description>`);
  const le = new Uint8Array(Buffer.from(text, 'utf16le'));
  const be = new Uint8Array(Buffer.from(text, 'utf16le').swap16());
  const samples = [
    le,
    be,
    Uint8Array.of(0xff, 0xfe, ...le),
    Uint8Array.of(0xfe, 0xff, ...be),
    Uint8Array.of(0xef, 0xbb, 0xbf, ...utf8Bytes(text)),
    Uint8Array.of(...utf8Bytes(text), 0, 0),
  ];
  for (const bytes of samples) expect(xmpFields(parseXmp(bytes)).title).toBe('Dünen');
});

describe('setting a field', () => {
  test('other languages stay when a text is given, and go when languages are given', () => {
    const nodes = `<rdf:Description ${DC}><dc:description><rdf:Alt><rdf:li xml:lang="x-default">old</rdf:li><rdf:li xml:lang="de">Drachen</rdf:li></rdf:Alt></dc:description></rdf:Description>`;
    expect(set(nodes, 'description', 'new').fields.description).toEqual({ 'x-default': 'new', de: 'Drachen' });
    expect(set(nodes, 'description', { 'x-default': 'new', fr: 'cerf-volant' }).fields.description).toEqual({
      'x-default': 'new',
      fr: 'cerf-volant',
    });
    expect(set(nodes, 'description', undefined).fields.description).toBeUndefined();
  });

  test('a text of a language that is given again stands once, with the qualifiers it had', () => {
    const nodes = `<rdf:Description ${DC} xmlns:q="urn:q"><dc:description><rdf:Alt><rdf:li xml:lang="x-default" q:sure="yes">old</rdf:li></rdf:Alt></dc:description></rdf:Description>`;
    const { text, fields } = set(nodes, 'description', 'new');
    expect(fields.description).toBe('new');
    expect(text.match(/xml:lang="x-default"/g)).toHaveLength(1);
    expect(text).toMatch(/sure/);
  });

  test('qualifiers of items that stay are kept', () => {
    const nodes = `<rdf:Description ${DC} xmlns:q="urn:q"><dc:subject><rdf:Bag><rdf:li rdf:parseType="Resource"><rdf:value>Kite</rdf:value><q:sure>yes</q:sure></rdf:li><rdf:li>Beach</rdf:li></rdf:Bag></dc:subject></rdf:Description>`;
    const { text, fields } = set(nodes, 'keywords', ['Dunes', 'Kite']);
    expect(fields.keywords).toEqual(['Dunes', 'Kite']);
    expect(text).toContain('<q:sure>yes</q:sure>');
  });

  test('members that no standard names are kept in a structure that changes', () => {
    const nodes = `<rdf:Description ${EXT} xmlns:q="urn:q"><e:LocationShown><rdf:Bag><rdf:li rdf:parseType="Resource"><e:City>Saltmarsh</e:City><q:own>kept</q:own></rdf:li></rdf:Bag></e:LocationShown></rdf:Description>`;
    const { text, fields } = set(nodes, 'locationShown', [{ City: 'Saltmarsh-on-Sea', CountryName: 'Norland' }]);
    expect(fields.locationShown).toEqual([{ City: 'Saltmarsh-on-Sea', CountryName: 'Norland' }]);
    expect(text).toContain('<q:own>kept</q:own>');
  });

  test('a prefix bound to another namespace is not taken over, and no prefix is declared deeper than the node', () => {
    const { text, fields } = set(
      '<rdf:Description rdf:about="" xmlns:dc="http://example.org/not-dublin-core/" dc:kept="1"/>',
      'keywords',
      ['Kite'],
    );
    expect(fields.keywords).toEqual(['Kite']);
    expect(text).toContain('dc:kept="1"');
    expect(text.match(/xmlns:dc2="http:\/\/purl\.org\/dc\/elements\/1\.1\/"/g)).toHaveLength(1);
    expect(text.match(/xmlns:rdf=/g)).toHaveLength(1);
  });

  test('a property that stood as an attribute stands once afterwards', () => {
    const { text } = set(
      '<rdf:Description xmlns:p="http://ns.adobe.com/photoshop/1.0/" p:City="Saltmarsh"/>',
      'city',
      'Westmarsh',
    );
    expect(text.match(/City/g)).toHaveLength(2);
    expect(text).not.toContain('Saltmarsh');
  });
});

test('a position is read in both notations of XMP', () => {
  const gps = (latitude: string, longitude: string) =>
    read(
      `<rdf:Description xmlns:exif="http://ns.adobe.com/exif/1.0/" exif:GPSLatitude="${latitude}" exif:GPSLongitude="${longitude}" exif:GPSAltitude="123/10" exif:GPSAltitudeRef="1"/>`,
    ).position;
  expect(gps('54,30.5N', '8,15,30W')).toEqual({ latitude: 54.5083333, longitude: -8.2583333, altitude: -12.3 });
  expect(gps('99,30.5N', '8,15,30W')).toBeUndefined();
});

test('a packet has the size that was asked for', () => {
  const body = packetBody(emptyXmp());
  for (const padding of [0, 1, 99, 100, 101, 5000]) {
    const whole = wrapBody(body, padding);
    expect(whole.length).toBe(body.length + WRAPPER_BYTES + padding);
    expect(asciiText(whole.subarray(-19))).toBe('<?xpacket end="w"?>');
    expect(parseXmp(whole).properties).toEqual([]);
  }
});

test('a packet is split at its largest properties and put together again', () => {
  const packet = emptyXmp();
  setXmpField(packet, 'description', 'x'.repeat(70_000));
  setXmpField(
    packet,
    'keywords',
    Array.from({ length: 300 }, (_, i) => `keyword ${i}`),
  );
  setXmpField(packet, 'city', 'Saltmarsh');
  const before = xmpFields(packet);
  const { main, extension, id } = splitPacket(packet, 20_000);
  expect(main.length).toBeLessThanOrEqual(20_000);
  const joined = parseXmp(main);
  expect(extensionId(joined)).toBe(id);
  expect(xmpFields(joined)).toMatchObject({ city: 'Saltmarsh' });
  joinExtension(joined, extension);
  expect(xmpFields(joined)).toEqual(before);
  expect(extensionId(joined)).toBeUndefined();
  expect(xmpFields(parseXmp(serializeXmp(joined)))).toEqual(before);
});
