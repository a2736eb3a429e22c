import { asciiBytes, cutBytes, NO_BYTES, utf8Bytes } from './bytes';
import { iimFields, iimListing, parseIim, serializeIim, setIimFields, type Dataset, type IimBlock } from './blocks/iim';
import { md5 } from '@noble/hashes/legacy.js';

const keyword = (data: Uint8Array): Dataset => ({ record: 2, dataset: 25, data });
const block = (...datasets: Dataset[]): IimBlock => ({ datasets, rest: NO_BYTES });
const hex = (bytes: Uint8Array) => Buffer.from(bytes).toString('hex');

test('text without a declared character set is Windows-1252 when it is no UTF-8', () => {
  expect(iimFields(block(keyword(asciiBytes('Bj\xf6rn')))).keywords).toEqual(['Björn']);
});

test('text without a declared character set is UTF-8 when it is valid and has a multi-byte sequence', () => {
  expect(iimFields(block(keyword(utf8Bytes('Björn')))).keywords).toEqual(['Björn']);
});

test('setting one field turns the text of all others into UTF-8 and declares it', () => {
  const { block: changed } = setIimFields(block({ record: 2, dataset: 90, data: asciiBytes('Saltm\xe4rsh') }), [
    ['keywords', ['Kite']],
  ]);
  expect(changed.datasets[0]).toEqual({ record: 1, dataset: 90, data: Uint8Array.of(0x1b, 0x25, 0x47) });
  expect(iimFields(changed)).toMatchObject({ city: 'Saltmärsh', keywords: ['Kite'] });
});

test('setting what it says already leaves a block as it is, Latin letters and all', () => {
  const before = block(keyword(asciiBytes('Bj\xf6rn')));
  expect(setIimFields(before, [['keywords', ['Björn']]]).block).toBe(before);
});

test('date and time created become one date, and back', () => {
  const at = (dataset: number, text: string): Dataset => ({ record: 2, dataset, data: asciiBytes(text) });
  expect(iimFields(block(at(55, '19520608'), at(60, '143000+0100'))).dateCreated).toBe('1952-06-08T14:30:00+01:00');
  expect(iimFields(block(at(55, '19520000'))).dateCreated).toBe('1952');
  expect(iimFields(block(at(55, '19521308'))).dateCreated).toBeUndefined();
  const set = (date: string) => iimListing(setIimFields(block(), [['dateCreated', date]]).block);
  expect(set('1952-06')).toMatchObject({ '2:55': ['19520600'] });
  expect(set('1952-06')['2:60']).toBeUndefined();
  expect(set('2024-06-01T10:11:12.5-03:30')).toMatchObject({ '2:55': ['20240601'], '2:60': ['101112-0330'] });
});

test('subject references keep their eight digits', () => {
  const { block: made } = setIimFields(block(), [['subjectCode', ['15000000', 'none']]]);
  expect(iimListing(made)['2:12']).toEqual(['IPTC:15000000:::']);
  expect(iimFields(made).subjectCode).toEqual(['15000000']);
});

test('an extended dataset is written and read', () => {
  const long = keyword(new Uint8Array(40_000).fill(65));
  expect(parseIim(serializeIim(block(long))).datasets).toEqual([long]);
});

test('what stands behind the last readable dataset is kept', () => {
  const rest = Uint8Array.of(0x1c, 2, 25, 0x7f, 0xff, 9);
  const { block: changed } = setIimFields({ datasets: [keyword(asciiBytes('a'))], rest }, [['keywords', ['b']]]);
  expect(parseIim(serializeIim(changed)).rest).toEqual(rest);
});

test('datasets of every record are listed: texts, numbers, bytes', () => {
  const listing = iimListing(
    block(
      { record: 1, dataset: 90, data: Uint8Array.of(0x1b, 0x25, 0x47) },
      { record: 2, dataset: 0, data: Uint8Array.of(0, 4) },
      keyword(utf8Bytes('Kite')),
      keyword(utf8Bytes('Dünen')),
      { record: 7, dataset: 10, data: Uint8Array.of(0, 1) },
    ),
  );
  expect(listing).toEqual({ '1:90': ['1b2547'], '2:00': [4], '2:25': ['Kite', 'Dünen'], '7:10': ['0001'] });
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
