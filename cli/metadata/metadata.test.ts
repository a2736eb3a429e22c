import { spawnSync } from 'node:child_process';
import { copyFileSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { memorySource } from '@stellin/core/metadata/bytes';
import { readMetadata } from '@stellin/core/metadata/read';
import { written, tinyGif } from '@stellin/core/metadata/testing';
import { WRITE_STEPS } from '@stellin/server/files/fault';
import { ROOT } from '@stellin/server/root';
import { realJpeg } from '@stellin/server/testing/world';
import { programOf } from '@stellin/server/threads/program';

let home: string;
let photo: string;
beforeEach(async () => {
  home = mkdtempSync(join(tmpdir(), 'stellin-cli-'));
  photo = join(home, 'a.jpg');
  writeFileSync(photo, await realJpeg({ keywords: ['own'], title: 'Dunes' }));
});
afterEach(() => rmSync(home, { recursive: true, force: true }));

interface Run {
  status: number | null;
  signal: NodeJS.Signals | null;
  out: string;
  err: string;
}

function run(args: string[], env: Record<string, string> = {}): Run {
  const { status, signal, stdout, stderr } = spawnSync(
    process.execPath,
    [programOf(join(ROOT, 'cli', 'main.ts')), 'metadata', ...args],
    {
      cwd: ROOT,
      env: { PATH: process.env['PATH'], STELLIN_HOME: home, ...env },
      encoding: 'utf8',
    },
  );
  return { status, signal, out: stdout, err: stderr };
}

const fieldsOf = (path: string) => readMetadata(memorySource(readFileSync(path))).fields;

test('show prints the fields; --json one documented object a file; --blocks what each block says', () => {
  const plain = run(['show', photo]);
  expect(plain).toMatchObject({ status: 0, err: '' });
  expect(plain.out).toContain('JPEG, 320 × 200');
  expect(plain.out).toMatch(/Title +Dunes/);

  const other = join(home, 'b.jpg');
  copyFileSync(photo, other);
  const lines = run(['show', photo, other, '--json']).out.trim().split('\n');
  expect(lines.map((line) => JSON.parse(line) as unknown)).toEqual(
    [photo, other].map((file) => ({
      file,
      kind: 'jpeg',
      width: 320,
      height: 200,
      fields: { title: 'Dunes', keywords: ['own'] },
      blocks: {
        iim: { '1:90': ['1b2547'], '2:00': [4], '2:05': ['Dunes'], '2:25': ['own'] },
        xmp: { 'dc:title': 'Dunes', 'dc:subject': ['own'], 'xmp:MetadataDate': '2026-11-23T10:00:00Z' },
      },
      issues: [],
    })),
  );
  expect(run(['show', photo, '--blocks']).out).toMatch(/IIM\n +1:90 .*[^]*2:25 +own[^]*XMP[^]*dc:subject +own/);
});

test('set writes fields and keywords; --dry-run writes nothing; patterns and folders are taken', () => {
  mkdirSync(join(home, 'sub'));
  copyFileSync(photo, join(home, 'sub', 'c.jpg'));
  const before = readFileSync(photo);
  const assignments = [
    '--field',
    'Headline=Kites',
    '--field',
    'Creator=A; B',
    '--add-keyword',
    'Edo',
    '--remove-keyword',
    'own',
  ];
  const dry = run(['set', photo, ...assignments, '--dry-run']);
  expect(dry).toMatchObject({ status: 0, out: `${photo}: would be written in place\n` });
  expect(readFileSync(photo).equals(before)).toBe(true);

  const set = run(['set', join(home, '*.jpg'), home, ...assignments, '--recursive']);
  expect(set).toMatchObject({ status: 0, err: '' });
  expect(set.out).toContain('2 files done, 0 failed');
  for (const file of [photo, join(home, 'sub', 'c.jpg')])
    expect(fieldsOf(file)).toEqual({ title: 'Dunes', headline: 'Kites', creator: ['A', 'B'], keywords: ['Edo'] });
  expect(run(['set', photo, ...assignments]).out).toContain('says it already');
  expect(run(['set', photo, '--field', 'Headline=']).status).toBe(0);
  expect(fieldsOf(photo).headline).toBeUndefined();
});

test('a sidecar is written where asked for, and for kinds that can’t hold a description', () => {
  const gif = join(home, 'b.gif');
  writeFileSync(gif, tinyGif(new Uint8Array()));
  const { out, status } = run(['set', photo, gif, '--field', 'City=Saltmarsh', '--sidecar']);
  expect(status).toBe(0);
  expect(out).toContain(`new sidecar ${join(home, 'a.xmp')}`);
  expect(fieldsOf(photo).city).toBeUndefined();
  expect(run(['show', gif, '--json']).out).toContain('"fields":{"city":"Saltmarsh"}');
  expect(run(['show', join(home, 'b.xmp')]).out).toMatch(/XMP\n +City +Saltmarsh/);
});

test('check tells what can’t be read, what disagrees and what IIM cuts', () => {
  const long = join(home, 'long.jpg');
  writeFileSync(long, written(readFileSync(photo), { city: 'A name of a town that has more than thirty-two letters' }));
  expect(run(['check', photo])).toMatchObject({ status: 0, out: '1 file checked, 0 with problems\n' });
  const { status, out } = run(['check', photo, long, join(home, 'missing.jpg')]);
  expect(status).toBe(1);
  expect(out).toContain('IIM cuts City at 32 bytes');
  const cut = join(home, 'cut.jpg');
  writeFileSync(cut, readFileSync(photo).subarray(0, 100));
  expect(run(['check', cut]).out).toContain('runs past the end of the file');
});

test('wrong command lines are told apart from files that fail', () => {
  expect(run(['--help'])).toMatchObject({ status: 0, out: expect.stringContaining('Examples') as string });
  for (const args of [
    [],
    ['show'],
    ['draw', photo],
    ['show', photo, '--sidecar'],
    ['set', photo],
    ['set', photo, '--field', 'Nothing=x'],
    ['set', photo, '--field', 'Rating=many'],
    ['show', photo, '--loud'],
  ])
    expect({ args, status: run(args).status }).toEqual({ args, status: 2 });
  expect(run(['show', join(home, 'missing.jpg')])).toMatchObject({
    status: 1,
    err: expect.stringContaining('it is not there') as string,
  });
  expect(run(['show', home])).toMatchObject({ status: 1, err: expect.stringContaining('--recursive') as string });
});

test('killed at any step of a write, the file is the old one or the new one after the next command', async () => {
  const plain = await realJpeg();
  for (const step of WRITE_STEPS.filter((name) => name !== 'write:recorded')) {
    const inPlace = ['write:halfPatched', 'write:patched', 'write:journaled'].includes(step);
    writeFileSync(photo, inPlace ? await realJpeg({ keywords: ['own'] }) : plain);
    const before = readFileSync(photo);
    expect({ step, signal: run(['set', photo, '--field', 'City=Saltmarsh'], { STELLIN_FAULT: step }).signal }).toEqual({
      step,
      signal: 'SIGKILL',
    });
    const { err } = run(['check', photo]);
    const after = readFileSync(photo);
    const isNew = ['write:renamed', 'write:patched'].includes(step);
    expect({ step, isOld: after.equals(before) }).toEqual({ step, isOld: !isNew });
    if (isNew) expect(fieldsOf(photo).city).toBe('Saltmarsh');
    if (step === 'write:halfPatched') expect(err).toContain('was undone');
    expect(readdirSync(home).filter((name) => name.includes('stellin-part'))).toEqual([]);
    if (step !== 'write:planned') expect(readdirSync(join(home, 'journals'))).toEqual([]);
  }
});
