import { fieldText, findField, parseFieldText } from './fieldText';
import { fieldOf } from './fields';

test('a field is found by its id, its label or its XMP name, in any case', () => {
  for (const name of ['copyrightNotice', 'Copyright notice', 'COPYRIGHT NOTICE', 'dc:rights'])
    expect(findField(name)?.id).toBe('copyrightNotice');
  expect(findField("creator's job title")?.id).toBe('creatorJobTitle');
  expect(findField('nothing such')).toBeUndefined();
});

test.each([
  ['creator', 'A; B', ['A', 'B']],
  ['headline', ' Kites; many ', 'Kites; many'],
  ['headline', '', null],
  ['rating', '-1', -1],
  ['rightsMarked', 'yes', true],
  ['dateCreated', '1952-06', '1952-06'],
  ['position', '54.5, -8.25', { latitude: 54.5, longitude: -8.25 }],
  ['position', '54.5, -8.25, 270.5°', { latitude: 54.5, longitude: -8.25, direction: 270.5 }],
  ['position', '54.5, -8.25, 12, 0°', { latitude: 54.5, longitude: -8.25, altitude: 12, direction: 0 }],
  ['title', '{"x-default": "Kite", "de": "Drachen"}', { 'x-default': 'Kite', de: 'Drachen' }],
  [
    'locationShown',
    '{"City": "Saltmarsh", "LocationName": {"x-default": "Pier"}}',
    [{ City: 'Saltmarsh', LocationName: { 'x-default': 'Pier' } }],
  ],
  [
    'keywordHierarchy',
    '{"Hierarchy": [{"Keyword": "Kites", "Children": [{"Keyword": "Sled", "Applied": true}]}]}',
    { Hierarchy: [{ Keyword: 'Kites', Children: [{ Keyword: 'Sled', Applied: true }] }] },
  ],
] as const)('%s takes “%s”', (id, text, value) => {
  expect(parseFieldText(fieldOf(id), text)).toEqual(value);
});

test.each([
  ['rating', 'many', 'Rating: “many” is not a number'],
  ['dateCreated', '1952-13', 'is not a date such as'],
  ['position', 'here', 'a latitude and a longitude'],
  ['position', '95,8', 'a latitude and a longitude'],
  ['locationShown', 'Saltmarsh', 'a list of objects of LocationName'],
  ['locationShown', '{"Town": "Saltmarsh"}', 'Location shown'],
  ['locationShown', '{"City": 5}', 'City'],
  ['locationShown', '{"City": ', 'Location shown'],
] as const)('%s refuses “%s” and says what was expected', (id, text, why) => {
  expect(() => parseFieldText(fieldOf(id), text)).toThrow(why);
});

test('values read as one line', () => {
  expect(fieldText(['A', 'B'])).toBe('A; B');
  expect(fieldText({ 'x-default': 'Kite', de: 'Drachen' })).toBe('Kite, de: Drachen');
  expect(fieldText([{ City: 'Saltmarsh', CountryCode: 'NOR' }])).toBe('City: Saltmarsh, CountryCode: NOR');
});
