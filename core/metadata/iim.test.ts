import { asciiBytes, utf8Bytes } from './bytes';
import { cutBytes, iimFields, parseIim, serializeIim, setIimFields, type Dataset } from './blocks/iim';
import { md5 } from './md5';

const keyword = (data: Uint8Array): Dataset => ({ record: 2, dataset: 25, data });
const hex = (bytes: Uint8Array) => Buffer.from(bytes).toString('hex');

test('text without a declared character set is Windows-1252 when it is no UTF-8', () => {
  expect(iimFields([keyword(asciiBytes('Bj\xf6rn'))]).keywords).toEqual(['Björn']);
});

test('text without a declared character set is UTF-8 when it is valid and has a multi-byte sequence', () => {
  expect(iimFields([keyword(utf8Bytes('Björn'))]).keywords).toEqual(['Björn']);
});

test('setting one field turns the text of all others into UTF-8 and declares it', () => {
  const { datasets } = setIimFields(
    [{ record: 2, dataset: 90, data: asciiBytes('Saltm\xe4rsh') }],
    [['keywords', ['Kite']]],
  );
  expect(datasets[0]).toEqual({ record: 1, dataset: 90, data: Uint8Array.of(0x1b, 0x25, 0x47) });
  expect(iimFields(datasets)).toMatchObject({ city: 'Saltmärsh', keywords: ['Kite'] });
});

test('date and time created become one date', () => {
  const at = (dataset: number, text: string): Dataset => ({ record: 2, dataset, data: asciiBytes(text) });
  expect(iimFields([at(55, '19520608'), at(60, '143000+0100')]).dateCreated).toBe('1952-06-08T14:30:00+01:00');
  expect(iimFields([at(55, '19520000')]).dateCreated).toBe('1952');
});

test('an extended dataset is written and read', () => {
  const long = keyword(new Uint8Array(40_000).fill(65));
  expect(parseIim(serializeIim([long]))).toEqual([long]);
});

test('a cut never ends inside a character', () => {
  expect(cutBytes(utf8Bytes('aé'), 2)).toEqual(utf8Bytes('a'));
});

test('MD5 gives the digests of RFC 1321', () => {
  expect(hex(md5(asciiBytes('')))).toBe('d41d8cd98f00b204e9800998ecf8427e');
  expect(hex(md5(asciiBytes('message digest')))).toBe('f96b697d7cb7938d525a2f31aaf161d0');
  expect(hex(md5(asciiBytes('12345678901234567890123456789012345678901234567890123456789012345678901234567890')))).toBe(
    '57edf4a22be3c955ac49da2e2107b67a',
  );
});
