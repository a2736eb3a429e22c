import fc from 'fast-check';
import { addHours, subDays } from 'date-fns';
import { isBackupOld, isTrialDue, isNightlyDue } from './due';
import { backupsToKeep } from './keeping';

const at = (text: string) => ({ at: new Date(text) });
const RULE = { days: 7, weeks: 4, months: 12 };

test('of each day, week and month the newest stays', () => {
  const nights = Array.from({ length: 400 }, (_, i) => ({ at: subDays(new Date('2026-11-29T02:30:00'), i) }));
  const kept = [...backupsToKeep(nights, RULE)].map((backup) => backup.at.toISOString().slice(0, 10)).sort();
  expect(kept.slice(-7)).toEqual([
    '2026-11-23',
    '2026-11-24',
    '2026-11-25',
    '2026-11-26',
    '2026-11-27',
    '2026-11-28',
    '2026-11-29',
  ]);
  // The Sundays before, and the last days of the months before.
  expect(kept.slice(0, -7)).toEqual([
    '2025-12-31',
    '2026-01-31',
    '2026-02-28',
    '2026-03-31',
    '2026-04-30',
    '2026-05-31',
    '2026-06-30',
    '2026-07-31',
    '2026-08-31',
    '2026-09-30',
    '2026-10-31',
    '2026-11-08',
    '2026-11-15',
    '2026-11-22',
  ]);
});

test('of two in a day the later one stays; the newest stays whatever the rule', () => {
  const [morning, evening] = [at('2026-03-02T08:00:00'), at('2026-03-02T20:00:00')];
  expect([...backupsToKeep([morning, evening], { days: 3, weeks: 0, months: 0 })]).toEqual([evening]);
  expect([...backupsToKeep([morning, evening], { days: 0, weeks: 0, months: 0 })]).toEqual([evening]);
  expect([...backupsToKeep([], RULE)]).toEqual([]);
});

test('never more stay than the rule says, and what stays goes on staying as long as nothing newer comes', () => {
  const times = fc.array(fc.date({ min: new Date('2020-01-01'), max: new Date('2026-01-01'), noInvalidDate: true }));
  const rules = fc.record({ days: fc.nat(9), weeks: fc.nat(9), months: fc.nat(9) });
  fc.assert(
    fc.property(times, rules, (dates, rule) => {
      const backups = dates.map((date) => ({ at: date }));
      const kept = backupsToKeep(backups, rule);
      expect(kept.size).toBeLessThanOrEqual(1 + rule.days + rule.weeks + rule.months);
      expect(backupsToKeep([...kept], rule)).toEqual(kept);
    }),
  );
});

describe('a nightly backup', () => {
  const since = new Date('2026-03-01T12:00:00');
  const due = (now: string, last?: { at: string; failed?: boolean }) =>
    isNightlyDue(new Date(now), '02:30', since, last && { at: new Date(last.at), failed: last.failed ?? false });

  test.each([
    ['before the first night', '2026-03-02T02:29:00', undefined, false],
    ['in the first night', '2026-03-02T02:30:00', undefined, true],
    ['when the machine was off in the night, in the morning', '2026-03-02T09:00:00', undefined, true],
    ['once in a night', '2026-03-02T02:40:00', { at: '2026-03-02T02:30:20' }, false],
    ['the night after', '2026-03-03T02:31:00', { at: '2026-03-02T02:30:20' }, true],
    ['after one that was asked for by day', '2026-03-03T02:31:00', { at: '2026-03-02T15:00:00' }, true],
    ['an hour after one that failed', '2026-03-02T03:31:00', { at: '2026-03-02T02:30:20', failed: true }, true],
    ['not sooner', '2026-03-02T03:10:00', { at: '2026-03-02T02:30:20', failed: true }, false],
  ])('is due %s: %s', (_, now, last, expected) => expect(due(now, last)).toBe(expected));

  test('what was due before backups were planned is not made up for', () => {
    expect(isNightlyDue(new Date('2026-03-01T12:01:00'), '02:30', since, undefined)).toBe(false);
  });
});

test('a backup is old after two days, and tried out after a week', () => {
  const made = new Date('2026-03-01T02:30:00');
  expect(isBackupOld(addHours(made, 48), made)).toBe(false);
  expect(isBackupOld(addHours(made, 49), made)).toBe(true);
  expect(isTrialDue(made, undefined)).toBe(true);
  expect(isTrialDue(addHours(made, 6 * 24), made)).toBe(false);
  expect(isTrialDue(addHours(made, 7 * 24), made)).toBe(true);
});
