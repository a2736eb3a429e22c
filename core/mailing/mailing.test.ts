import { mailboxText, parseMailboxes } from './addresses';
import { fillLetter, nextTry, unknownPlaceholders } from './letters';

const facts = { name: 'Edda', sender: 'Orla', title: 'Kites', link: 'https://x.example/v/abc' };

test('a letter is filled with what it is about; what is no placeholder stays', () => {
  expect(fillLetter('Dear {name}, {title}: {link} – {sender} {else} {', facts)).toBe(
    'Dear Edda, Kites: https://x.example/v/abc – Orla {else} {',
  );
  expect(unknownPlaceholders('{name} {else} {toString} {}')).toEqual(['else', 'toString', '']);
});

test('what is filled in is not filled in again', () => {
  expect(fillLetter('{name}', { ...facts, name: '{link}' })).toBe('{link}');
});

test('who gets it is read as people type it', () => {
  expect(parseMailboxes('Edda Quill <edda@x.example>, b@x.example;\n"Rowe, I." <c@x.example>\n')).toEqual([
    { name: 'Edda Quill', address: 'edda@x.example' },
    { name: '', address: 'b@x.example' },
    { name: '', address: '"Rowe' },
    { name: 'I.', address: 'c@x.example' },
  ]);
  expect(parseMailboxes('  ')).toEqual([]);
  expect(mailboxText({ name: 'Edda', address: 'e@x.example' })).toBe('Edda <e@x.example>');
  expect(mailboxText({ name: '', address: 'e@x.example' })).toBe('e@x.example');
});

test('a letter that does not get through is tried again later each time, and given up after a day', () => {
  const now = new Date('2026-06-01T10:00:00Z');
  const tries = Array.from({ length: 9 }, (_, at) => nextTry(at + 1, now));
  expect(tries[0]).toEqual(new Date('2026-06-01T10:01:00Z'));
  const waits = tries.flatMap((at) => (at ? [at.getTime() - now.getTime()] : []));
  expect(waits).toEqual([...waits].sort((a, b) => a - b));
  const hours = waits.reduce((sum, wait) => sum + wait, 0) / 3_600_000;
  expect(hours).toBeGreaterThan(20);
  expect(hours).toBeLessThan(30);
  expect(tries.at(-1)).toBeUndefined();
});
