import { suitingLanguage } from './languages';

test.each([
  ['de', ['x-default', 'en', 'de'], 'de'],
  ['de', ['x-default', 'en', 'de-CH'], 'de-CH'],
  ['de-CH', ['x-default', 'de-AT', 'de'], 'de'],
  ['DE-ch', ['de', 'de-CH'], 'de-CH'],
  ['zh-Hant-TW', ['zh-Hans', 'zh-Hant'], 'zh-Hant'],
  ['en-u-ca-gregory', ['de', 'en'], 'en'],
  ['de', ['x-default', 'den', 'en'], undefined],
  ['', ['x-default', 'en'], undefined],
  ['fr', [], undefined],
])('who wants %s of %j is given %s', (wanted, tags, found) => {
  expect(suitingLanguage(wanted, tags)).toBe(found);
});
