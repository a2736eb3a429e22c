// What a backup says of itself, in data/contents.json.

import { z } from 'zod';
import { DATA_KINDS } from '../config';
import { messageOf } from '../errors';
import { verifyBag, type Passed } from './bag';
import { tableFigures, type SummedAs } from './catalogueStore';

/** Names within the bag. */
export const DUMP = 'catalogue.dump.gz';
/** Before the third version pg_dump packed it itself. */
export const PACKED_DUMP = 'catalogue.dump';
export const CONTENTS = 'contents.json';
/** Folders of the data folder that go along. */
export const FACES = 'faces';
export const PREVIEWS = 'previews';

export const contentsSchema = z.object({
  /** Of this description. */
  version: z.union([z.literal(1), z.literal(2), z.literal(3)]),
  holds: z.enum(DATA_KINDS),
  at: z.iso.datetime(),
  nightly: z.boolean(),
  previews: z.boolean(),
  /** The schema: the migrations that made it. */
  migrations: z.array(z.string()),
  tables: tableFigures,
});
export type Contents = z.infer<typeof contentsSchema>;

/** How the figures of a backup were summed up, by the version of its description. */
export const SUMMED: Readonly<Record<Contents['version'], SummedAs>> = {
  1: 'texts',
  2: 'records',
  3: 'records',
};

/** Checks every byte of a backup and returns what it says of itself. Throws an Error that says what is wrong with it. */
export async function checkedContents(path: string, passed?: Passed): Promise<Contents> {
  const texts = await verifyBag(path, [CONTENTS], passed);
  try {
    return contentsSchema.parse(JSON.parse(texts.get(CONTENTS) ?? ''));
  } catch (error) {
    if (error instanceof z.ZodError && error.issues.some(({ path: [name] }) => name === 'version'))
      throw new Error(`${path} was made by a newer version of Stellin; restore it with that one`, { cause: error });
    throw new Error(`${path} is no backup of Stellin: ${messageOf(error)}`, { cause: error });
  }
}
