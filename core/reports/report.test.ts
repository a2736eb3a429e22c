import { columnsOf, monthBefore, reportCsv, reportText } from './report';
import type { Report } from './tables';

const REPORT: Report = {
  ...{ title: 'Report', about: 'From 2026-05-01 until 2026-05-31', madeAt: '2026-06-01 09:00' },
  sections: [
    {
      ...{ title: 'What came in', empty: 'Nothing came in.', columns: columnsOf('Where', '#New', 'Note') },
      rows: [[{ text: 'Vault' }, { text: '1,200', query: 'accession:1' }, { text: '' }]],
    },
    { title: 'What was delivered', empty: 'Nothing was delivered.', columns: columnsOf('Day'), rows: [] },
  ],
};

test('columns say whether they hold numbers', () => {
  expect(REPORT.sections[0]?.columns.map(({ label, isNumber }) => [label, isNumber])).toEqual([
    ['Where', false],
    ['New', true],
    ['Note', false],
  ]);
});

test('as CSV each table has its heading and stands apart', () => {
  expect(reportCsv(REPORT).trim().split('\r\n')).toEqual([
    'Report,From 2026-05-01 until 2026-05-31,2026-06-01 09:00',
    '',
    'What came in',
    'Where,New,Note',
    'Vault,"1,200",',
    '',
    'What was delivered',
    'Day',
  ]);
});

test('as a letter it names what each number is, and says where there is nothing', () => {
  expect(reportText(REPORT).split('\n')).toEqual([
    'From 2026-05-01 until 2026-05-31, as of 2026-06-01 09:00',
    '',
    'What came in',
    '  Vault, New: 1,200',
    '',
    'What was delivered',
    '  Nothing was delivered.',
  ]);
});

test.each([
  ['2026-06-14', '2026-05-01', '2026-05-31'],
  ['2026-01-01', '2025-12-01', '2025-12-31'],
  ['2024-03-31', '2024-02-01', '2024-02-29'],
])('the month before %s', (day, from, until) => {
  expect(monthBefore(day)).toEqual({ from, until });
});
