import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ROOT } from '@stellin/server/root';
import { programOf } from '@stellin/server/threads/program';
import { unitText } from './systemdService';

/** The settings of a unit, by section and name. */
function settingsOf(unit: string): Map<string, string[]> {
  const settings = new Map<string, string[]>();
  let section = '';
  for (const line of unit.split('\n').filter(Boolean)) {
    const header = /^\[(\w+)\]$/.exec(line);
    if (header) section = header[1] ?? '';
    else {
      const at = line.indexOf('=');
      const key = `${section}.${line.slice(0, at)}`;
      settings.set(key, [...(settings.get(key) ?? []), line.slice(at + 1)]);
    }
  }
  return settings;
}

test('the unit starts Stellin as the user, with node found and what is set now; signs of its own are quoted', () => {
  const settings = settingsOf(
    unitText({
      root: '/srv/pictures 100%',
      user: 'anna',
      path: '/opt/node/bin:/usr/bin',
      log: '/data/stellin.log',
      variables: { STELLIN_HOME: '/data', STELLIN_DRIVES: '/media/"a"' },
    }),
  );
  expect(Object.fromEntries(settings)).toMatchObject({
    'Service.Type': ['simple'],
    'Service.User': ['anna'],
    'Service.WorkingDirectory': ['/srv/pictures 100%%'],
    'Service.ExecStart': ['"/srv/pictures 100%%/stellin" start'],
    'Service.Environment': [
      '"PATH=/opt/node/bin:/usr/bin"',
      '"STELLIN_HOME=/data"',
      String.raw`"STELLIN_DRIVES=/media/\"a\""`,
    ],
    'Service.StandardOutput': ['append:/data/stellin.log'],
    'Service.Restart': ['on-failure'],
    'Install.WantedBy': ['multi-user.target'],
  });
});

test('install writes it where it is told, remove takes it away', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'stellin-service-'));
  const service = (...args: string[]) =>
    execFileSync(process.execPath, [programOf(join(ROOT, 'cli', 'main.ts')), 'service', ...args, '--folder', folder], {
      env: { ...process.env, NODE_OPTIONS: '', STELLIN_HOME: join(folder, 'data'), STELLIN_PORT: '4999' },
      encoding: 'utf8',
    });
  try {
    expect(service('install', '--user', 'anna')).toContain('systemctl enable --now stellin');
    const unit = settingsOf(readFileSync(join(folder, 'stellin.service'), 'utf8'));
    expect(unit.get('Service.Environment')).toEqual(
      expect.arrayContaining([`"STELLIN_HOME=${join(folder, 'data')}"`, '"STELLIN_PORT=4999"']),
    );
    service('remove');
    expect(existsSync(join(folder, 'stellin.service'))).toBe(false);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
});
