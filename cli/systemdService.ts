// `./stellin service install`: Stellin as a service of systemd, started with the machine. Format: systemd.unit(5),
// systemd.service(5), systemd.exec(5).

import { mkdirSync, rmSync, existsSync, writeFileSync } from 'node:fs';
import { userInfo } from 'node:os';
import { delimiter, dirname, join } from 'node:path';
import { places, readConfig } from '@stellin/server/config';
import { ROOT } from '@stellin/server/root';

const NAME = 'stellin.service';

/** What a unit is made of. */
export interface Unit {
  root: string;
  user: string;
  /** Where node is found. */
  path: string;
  log: string;
  /** Variables that the service is to have as they are now. */
  variables: Record<string, string>;
}

/** `service install|remove [--user NAME] [--folder DIR]` */
export function serviceCommand(
  action: keyof typeof ACTIONS,
  { user, folder }: { user?: string; folder: string },
): number {
  ACTIONS[action](join(folder, NAME), user ?? process.env['SUDO_USER'] ?? userInfo().username);
  return 0;
}

const ACTIONS = {
  install(file: string, user: string): void {
    const { home } = readConfig();
    const unit = unitText({
      root: ROOT,
      user,
      path: [dirname(process.execPath), '/usr/local/bin', '/usr/bin', '/bin'].join(delimiter),
      log: places.log(home),
      variables: { STELLIN_HOME: home, ...givenVariables() },
    });
    mkdirSync(dirname(file), { recursive: true });
    mkdirSync(home, { recursive: true });
    writeFileSync(file, unit);
    console.log(
      `Written: ${file}\nsystemctl daemon-reload && systemctl enable --now stellin   starts it now and with the machine.`,
    );
  },
  remove(file: string): void {
    if (!existsSync(file)) throw new Error(`There is no ${file}`);
    rmSync(file);
    console.log(`Removed: ${file}\nsystemctl disable --now stellin; systemctl daemon-reload   ends what runs.`);
  },
};

/** The text of the unit. Its log is the one that ./stellin logs shows. */
export function unitText({ root, user, path, log, variables }: Unit): string {
  const environment = Object.entries({ PATH: path, ...variables }).map(
    ([name, value]) => `Environment=${quoted(`${name}=${value}`)}`,
  );
  return `[Unit]
Description=Stellin, a picture archive
After=local-fs.target network.target

[Service]
Type=simple
User=${user}
WorkingDirectory=${escaped(root)}
${environment.join('\n')}
ExecStart=${quoted(join(root, 'stellin'))} start
StandardOutput=append:${escaped(log)}
StandardError=append:${escaped(log)}
Restart=on-failure
RestartSec=5
KillMode=mixed
TimeoutStopSec=120

[Install]
WantedBy=multi-user.target
`;
}

/** The variables of ours that are set now. */
function givenVariables(): Record<string, string> {
  return Object.fromEntries(
    Object.entries(process.env).flatMap(([name, value]) =>
      /^STELLIN_(PORT|DATABASE_URL|DRIVES|MOUNTS|LARGE_GB|FACES|LOG)$/.test(name) && value !== undefined
        ? [[name, value]]
        : [],
    ),
  );
}

/** A percent sign begins a specifier in unit files. */
function escaped(text: string): string {
  return text.replaceAll('%', '%%');
}

function quoted(text: string): string {
  return `"${escaped(text).replaceAll('\\', '\\\\').replaceAll('"', '\\"')}"`;
}
