import type { ReportSettings } from '@stellin/contract/reports';
import type { Person } from '../catalogue/viewer';
import { openWorld, PASSWORDS, putFiles, realJpeg, type World } from '../testing/world';

let world: World;
let keeper: Person;
let accessionId: number;
beforeAll(async () => {
  world = await openWorld();
  keeper = await world.services.rights.personOf(world.keeperId);
  const drive = await world.addDrive('Vault');
  await putFiles(drive, {
    'a.jpg': await realJpeg({ description: 'Rokkaku' }, 20),
    'b.jpg': await realJpeg({}, 60),
  });
  await world.takeIn(drive);
  accessionId = (await world.services.intake.accessions())[0]?.id ?? 0;
  await world.apply({
    ...{ kind: 'describeAccession', accessionId, number: '2026-014', source: '', donor: '=Edda "K" Kessel' },
    ...{ agreement: 'Letter of 3 May', restrictions: '', ends: '', note: '' },
  });
  await world.apply({ kind: 'setRating', selection: { query: 'name:a.jpg' }, rating: 4 });
  await world.apply({ kind: 'setRating', selection: { query: '' }, rating: 2 });
  await world.services.ledger.undo(world.keeperId);
});
afterAll(() => world.close());

const settings = (kind: ReportSettings['kind'], given: Partial<ReportSettings> = {}): ReportSettings => ({
  ...{ kind, from: '', until: '', projectId: null, accessionId: null },
  ...given,
});
const make = (kind: ReportSettings['kind'], given: Partial<ReportSettings> = {}, person = keeper) =>
  world.services.reports.make(person, settings(kind, given));
const table = async (kind: ReportSettings['kind'], title: string, given: Partial<ReportSettings> = {}) => {
  const section = (await make(kind, given)).sections.find((each) => each.title.startsWith(title));
  return section?.rows.map((cells) => cells.map(({ text }) => text));
};

test('of a period: what came in, was described by whom, and what there is; what was undone counts for nothing', async () => {
  expect(await table('period', 'What came in: 2 photos')).toMatchObject([
    ['2026-014', expect.any(String), '=Edda "K" Kessel', 'Vault', 'The keeper', '2', '0'],
  ]);
  expect(await table('period', 'What was described')).toEqual([['The keeper', '1', '1']]);
  expect(await table('period', 'What was delivered')).toEqual([]);
  expect((await table('period', 'What there is now'))?.slice(0, 3)).toEqual([
    ['Photos', '2'],
    ['Described', expect.any(String)],
    ['With a caption', '1'],
  ]);
  const before = { from: '1999-01-01', until: '1999-12-31' };
  expect((await make('period', before)).about).toBe('From 1999-01-01 until 1999-12-31');
  expect(await table('period', 'What came in: 0 photos', before)).toEqual([]);
});

test('every number leads to what it counts', async () => {
  for (const kind of ['period', 'register', 'inventory'] as const)
    for (const { rows } of (await make(kind)).sections)
      for (const { text, query } of rows.flat())
        if (query !== undefined && /^[\d,]+$/.test(text))
          expect([query, await world.services.search.all.count(query)]).toEqual([query, Number(text.replace(',', ''))]);
});

test('of an accession, of a project, the register and the inventory', async () => {
  expect(await table('accession', 'Where it comes from', { accessionId })).toEqual(
    expect.arrayContaining([
      ['Donor', '=Edda "K" Kessel'],
      ['Agreement', 'Letter of 3 May'],
    ]),
  );
  expect(await table('accession', 'What is open', { accessionId })).toEqual(
    expect.arrayContaining([['Without a caption', '1']]),
  );
  await expect(make('accession', { accessionId: 999_999 })).rejects.toThrow('such accession');
  await expect(make('project')).rejects.toThrow('such project');
  expect((await table('register', '1 accession'))?.map(([number, , donor]) => [number, donor])).toEqual([
    ['2026-014', '=Edda "K" Kessel'],
  ]);
  expect((await table('inventory', '1 drive'))?.map((row) => row.slice(0, 3))).toEqual([['Vault', 'attached', '2']]);
});

test('taken along as CSV that spreadsheets open without harm, and as PDF; only by those for whom everything exists', async () => {
  const fetch = async (name: keyof typeof PASSWORDS, format: string, kind = 'register') => {
    const { headers } = await world.app.inject({
      method: 'POST',
      url: '/api/session',
      payload: { name, password: PASSWORDS[name] },
    });
    const cookie = String(headers['set-cookie']);
    return world.app.inject({
      method: 'GET',
      url: `/api/reports/file?format=${format}&kind=${kind}`,
      headers: { cookie },
    });
  };
  const csv = await fetch('keeper', 'csv');
  expect(csv.headers['content-type']).toContain('text/csv');
  expect(csv.body).toContain(`"'=Edda ""K"" Kessel"`);
  for (const kind of ['register', 'inventory', 'period']) {
    const pdf = await fetch('keeper', 'pdf', kind);
    expect([kind, pdf.rawPayload.subarray(0, 5).toString(), pdf.rawPayload.subarray(-6).toString().trim()]).toEqual([
      kind,
      '%PDF-',
      '%%EOF',
    ]);
  }
  expect((await fetch('viewer', 'csv')).statusCode).toBe(403);
  expect((await fetch('keeper', 'docx')).statusCode).toBe(400);
});

test('a kept report is sent once a month, about the month before, in the name of who keeps it', async () => {
  const { reports, database } = world.services;
  const form = { name: 'Monthly', settings: settings('period'), monthlyTo: 'board@museum.example' };
  await reports.keep(form, world.keeperId);
  await reports.keep({ ...form, name: 'Not sent', monthlyTo: '' }, world.keeperId);
  await reports.keep(
    { ...form, name: 'Of a project that is gone', settings: settings('project', { projectId: 7 }) },
    world.keeperId,
  );
  await reports.sendDue();
  await reports.sendDue();
  const letters = () =>
    database.rows<{ subject: string; text: string; address: string }>(
      'select l.subject, l.text, r.address from letter l join letter_recipient r on r.letter_id = l.id order by l.id',
    );
  const sent = await letters();
  expect(sent).toHaveLength(2);
  const letter = sent.find(({ subject }) => subject === 'Monthly');
  expect(sent.find(({ subject }) => subject.startsWith('Of a project'))?.text).toMatch(
    /^This report could not be made\. /,
  );
  expect(letter).toMatchObject({ subject: 'Monthly', address: 'board@museum.example' });
  expect(letter?.text).toMatch(/^From \d{4}-\d{2}-01 until \d{4}-\d{2}-\d{2}, as of /);
  expect(letter?.text).toContain('What was described');
  await database.rows(`update report_preset set sent_at = now() - interval '40 days'`);
  await reports.sendDue();
  expect(await letters()).toHaveLength(4);
  const [kept] = await reports.presets();
  expect(kept).toMatchObject({ name: 'Monthly', by: 'The keeper', sentAt: expect.any(String) as string });
  await reports.remove(kept?.id ?? 0);
  await expect(reports.remove(kept?.id ?? 0)).rejects.toThrow('such report');
});
