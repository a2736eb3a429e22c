// Where things are and how the server is to run: read once from the environment, handed on as data.

import { delimiter, join, resolve } from 'node:path';
import { z } from 'zod';
import { ROOT } from './root';

const environment = z.object({
  STELLIN_HOME: z.string().optional(),
  STELLIN_PORT: z.coerce.number().int().min(0).max(65535).default(4170),
  STELLIN_DATABASE_URL: z.url({ protocol: /^postgres(ql)?$/ }).optional(),
  STELLIN_DRIVES: z.string().optional(),
  STELLIN_MOUNTS: z.enum(['on', 'off']).default('on'),
  STELLIN_FACES: z.enum(['on', 'off']).default('on'),
  STELLIN_LARGE_GB: z.coerce.number().positive().default(10),
  STELLIN_LEAST_FREE_GB: z.coerce.number().nonnegative().default(1),
  STELLIN_LOG: z.enum(['fatal', 'error', 'warn', 'info', 'debug', 'silent']).default('info'),
});

/** What a data folder and a database hold (server/identity.ts). */
export const DATA_KINDS = ['archive', 'demo'] as const;
export type DataKind = (typeof DATA_KINDS)[number];

export interface Config {
  /** What is served: an archive, or the demo, which has a drive bay and published passwords. */
  kind: DataKind;
  /** The data folder: cluster, previews, for the demo its drives. */
  home: string;
  port: number;
  /** Given when another server than our own cluster is to be used. */
  databaseUrl: string | undefined;
  /** Folders whose sub-folders are drives when they are there: the places where a system mounts them. */
  mountRoots: string[];
  /** Whether what the system mounts below /media and /mnt counts as drives too. */
  mountTable: boolean;
  /** How much room large pictures may take in the data folder; those of drives that are browsed while away come on top. */
  largeBytes: number;
  /** So much is to stay free on the disk of the data folder: work that takes room waits before it is less. */
  leastFreeBytes: number;
  /** Whether faces are looked for by themselves in what is taken in. */
  faces: boolean;
  logLevel: string;
}

/** The configuration of an archive or of the demo; throws an Error that names the variable when one is wrong. */
export function readConfig(kind: DataKind = 'archive', env: NodeJS.ProcessEnv = process.env): Config {
  const parsed = environment.safeParse(env);
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    throw new Error(`${issue?.path.join('.')}: ${issue?.message}`);
  }
  const archive = resolve(parsed.data.STELLIN_HOME ?? join(ROOT, '.stellin'));
  const isDemo = kind === 'demo';
  const home = isDemo ? places.demo(archive) : archive;
  const roots = (parsed.data.STELLIN_DRIVES ?? '')
    .split(delimiter)
    .filter(Boolean)
    .map((root) => resolve(root));
  return {
    kind,
    home,
    port: parsed.data.STELLIN_PORT,
    databaseUrl: parsed.data.STELLIN_DATABASE_URL,
    // The demo shows its own drives only.
    mountRoots: isDemo ? [places.mounts(home)] : roots,
    mountTable: !isDemo && parsed.data.STELLIN_MOUNTS === 'on',
    largeBytes: parsed.data.STELLIN_LARGE_GB * 1e9,
    leastFreeBytes: parsed.data.STELLIN_LEAST_FREE_GB * 1e9,
    faces: parsed.data.STELLIN_FACES === 'on',
    logLevel: parsed.data.STELLIN_LOG,
  };
}

/** The folders and files below the data folder. */
export const places = {
  /** The data folder of the demo that belongs to that of an archive. */
  demo: (archive: string) => join(archive, 'demo'),
  /** Says what the folder holds. */
  identity: (home: string) => join(home, 'stellin-data.json'),
  cluster: (home: string) => join(home, 'postgres'),
  previews: (home: string) => join(home, 'previews'),
  /** What was kept of the finder index. */
  finder: (home: string) => join(home, 'finder'),
  faces: (home: string) => join(home, 'faces'),
  /** Backups, unless the plan names another folder. */
  backups: (home: string) => join(home, 'backups'),
  /** Journals of writes that no catalogue knows of. */
  journals: (home: string) => join(home, 'journals'),
  /** Where drives of the demo's bay are while they are plugged in. */
  mounts: (home: string) => join(home, 'drives'),
  /** Where drives of the demo's bay are while they are on the shelf. */
  shelf: (home: string) => join(home, 'shelf'),
  /** The process that serves in the background, and what it prints. */
  processFile: (home: string) => join(home, 'stellin.pid'),
  log: (home: string) => join(home, 'stellin.log'),
};
