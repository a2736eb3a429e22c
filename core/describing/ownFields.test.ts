import { ownFieldProblem, ownFieldsProblem, type OwnField } from './ownFields';

const field = (kind: OwnField['kind'], ...choices: string[]): OwnField => ({ name: 'Loan', kind, choices });

test.each<[OwnField, string[], string | undefined]>([
  [field('text'), ['anything at all', 'twice'], undefined],
  [field('number'), ['-12.5'], undefined],
  [field('number'), ['12,5'], 'Loan: “12,5” is no number; write 12 or 12.5'],
  [field('number'), ['1', '2'], 'Loan takes one value'],
  [field('date'), ['1952'], undefined],
  [field('date'), ['1952-02-29'], undefined],
  [field('date'), ['1953-02-29'], 'Loan: “1953-02-29” is no date; write 1952, 1952-06 or 1952-06-14'],
  [field('date'), ['summer'], 'Loan: “summer” is no date; write 1952, 1952-06 or 1952-06-14'],
  [field('choice', 'good', 'torn'), ['torn'], undefined],
  [field('choice', 'good', 'torn'), ['lost'], 'Loan: “lost” is none of its choices'],
  [field('choice', 'good', 'torn'), ['good', 'torn'], 'Loan takes one value'],
  [field('several', 'good', 'torn'), ['good', 'torn'], undefined],
  [field('several', 'good', 'torn'), ['good', 'lost'], 'Loan: “lost” is none of its choices'],
  [field('choice'), ['without choices all is taken'], undefined],
  [field('yesNo'), ['yes'], undefined],
  [field('yesNo'), ['maybe'], 'Loan: “maybe” is neither yes nor no'],
])('%j takes %j, or says why not', (own, values, problem) => {
  expect(ownFieldProblem(own, values)).toBe(problem);
});

test('nothing is always taken', () => {
  expect(ownFieldProblem(field('number'), null)).toBeUndefined();
  expect(ownFieldProblem(field('number'), undefined)).toBeUndefined();
});

test('of a photo only what changes is looked at, and only what is known', () => {
  const fields = new Map([['Loan', field('number')]]);
  const wrong = { Name: 'Loan', Value: ['many'] };
  const other = { Name: 'Cabinet', Value: ['many'] };
  expect(ownFieldsProblem(fields, [wrong], [wrong, other])).toBeUndefined();
  expect(ownFieldsProblem(fields, [wrong], [{ Name: 'Loan', Value: ['5'] }])).toBeUndefined();
  expect(ownFieldsProblem(fields, [wrong], undefined)).toBeUndefined();
  expect(ownFieldsProblem(fields, [other], [wrong, other])).toContain('no number');
});
