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
  STELLIN_LOG: z.enum(['fatal', 'error', 'warn', 'info', 'debug', 'silent']).default('info'),
});

export interface Config {
  /** The data folder: cluster, previews, demo drives. */
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
  /** Whether faces are looked for by themselves in what is taken in. */
  faces: boolean;
  logLevel: string;
}

/** The configuration; throws an Error that names the variable when one is wrong. */
export function readConfig(env: NodeJS.ProcessEnv = process.env): Config {
  const parsed = environment.safeParse(env);
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    throw new Error(`${issue?.path.join('.')}: ${issue?.message}`);
  }
  const home = resolve(parsed.data.STELLIN_HOME ?? join(ROOT, '.stellin'));
  const roots = parsed.data.STELLIN_DRIVES?.split(delimiter)
    .filter(Boolean)
    .map((root) => resolve(root));
  return {
    home,
    port: parsed.data.STELLIN_PORT,
    databaseUrl: parsed.data.STELLIN_DATABASE_URL,
    mountRoots: [join(home, 'drives'), ...(roots ?? [])],
    mountTable: parsed.data.STELLIN_MOUNTS === 'on',
    largeBytes: parsed.data.STELLIN_LARGE_GB * 1e9,
    faces: parsed.data.STELLIN_FACES === 'on',
    logLevel: parsed.data.STELLIN_LOG,
  };
}

/** The folders below the data folder. */
export const places = {
  cluster: (home: string) => join(home, 'postgres'),
  previews: (home: string) => join(home, 'previews'),
  /** What was kept of the finder index. */
  finder: (home: string) => join(home, 'finder'),
  faces: (home: string) => join(home, 'faces'),
  /** Journals of writes that no catalogue knows of. */
  journals: (home: string) => join(home, 'journals'),
  /** Where drives of the bay are while they are plugged in. */
  mounts: (home: string) => join(home, 'drives'),
  /** Where drives of the bay are while they are on the shelf. */
  shelf: (home: string) => join(home, 'shelf'),
};
