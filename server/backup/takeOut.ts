// Taking all of the catalogue out, in open formats: an XMP sidecar for each photo, the vocabularies as SKOS, lists as CSV, every
// table as lines of JSON, the pictures of faces; in a bag, so that any program can tell whether it is whole. Another catalogue can be
// made of it that is equal to this one.

import { join } from 'node:path';
import { format } from 'date-fns';
import { z } from 'zod';
import { describedSidecar } from '@stellin/core/backup/sidecar';
import { csvLines } from '@stellin/core/text/csv';
import { draftOf } from '@stellin/core/vocabulary/formats/draft';
import { FORMATS } from '@stellin/core/vocabulary/formats/index';
import { loadVocabularies, type Snapshot } from '../catalogue/vocabularySnapshot';
import { DATA_KINDS, places, type Config } from '../config';
import { rowsOver } from '../database/rowsOver';
import { systemCode } from '../errors';
import { problemOf } from '../files/problem';
import { writeBagFolder, type BagFolder } from '../files/bagFolder';
import { inSnapshot, migrationsOf, tableFigures } from './catalogueStore';
import { eachPicture } from './pictures';
import * as store from './takeOutStore';

/** Names within data/. */
export const TAKEN = { contents: 'contents.json', tables: 'catalogue', faces: 'faces' } as const;

export const takenContents = z.object({
  /** Of this description. */
  version: z.literal(1),
  holds: z.enum(DATA_KINDS),
  at: z.iso.datetime(),
  /** The schema: the migrations that made it. */
  migrations: z.array(z.string()),
  sequences: z.record(z.string(), z.number()),
  tables: tableFigures,
});
export type TakenContents = z.infer<typeof takenContents>;

const README = `This is a whole catalogue of Stellin, taken out in open formats.

sidecars/      what is said of each photo, as XMP (ISO 16684-1), below drive and folder
vocabularies/  the controlled vocabularies, as SKOS in Turtle
lists/         photos, dossiers, searches, persons, faces and the ledger, as CSV (RFC 4180) in UTF-8
faces/         pictures of faces
catalogue/     every table, a line of JSON a row; contents.json says of which schema, and how many rows each has

The folder is a bag (BagIt, RFC 8493): sha256sum -c manifest-sha256.txt tells whether all of it is as it was written.
./stellin import FOLDER makes an equal catalogue of it.
`;

/** Told what is done now and how much of it; may reject to give up. */
type Progress = (doing: string, done: number) => Promise<void> | void;

export interface TakenOut {
  photos: number;
  tables: number;
}

/** Takes the catalogue out into a folder that is not there yet, while others go on working. Throws an Error that says why there is none; nothing is left then. */
export async function takeOut(
  { kind, home }: Pick<Config, 'kind' | 'home'>,
  databaseUrl: string,
  folder: string,
  progress: Progress,
): Promise<TakenOut> {
  const at = new Date();
  const bag = await writeBagFolder(folder);
  try {
    await bag.add('README.txt', README);
    const counts = await inSnapshot(databaseUrl, async (client) => {
      await store.settle(client);
      const vocabularies = await loadVocabularies(rowsOver(client));
      for (const vocabulary of vocabularies.vocabularies)
        await bag.add(
          `vocabularies/${fileName(vocabulary.name)}-${vocabulary.id}.ttl`,
          FORMATS.turtle.write(draftOf(vocabulary, vocabularies.tree, vocabularies.relations)),
        );
      for (const [name, list] of Object.entries(store.LISTS))
        await bag.add(`lists/${name}.csv`, csvOf(list.columns, store.rowsOfList(client, list)));
      const photos = await addSidecars(bag, store.describedPhotos(client), vocabularies, at, progress);
      const tables = await store.takenTables(client);
      for (const table of tables) {
        await progress(`Taking ${table.name} out`, 0);
        await bag.add(`${TAKEN.tables}/${table.name}.jsonl`, store.linesOf(client, table));
      }
      const contents: TakenContents = {
        version: 1,
        holds: kind,
        at: at.toISOString(),
        migrations: await migrationsOf(client),
        sequences: await store.sequencesOf(client),
        tables: await store.figuresOf(client, tables),
      };
      await bag.add(TAKEN.contents, `${JSON.stringify(contents, null, 1)}\n`);
      return { photos, tables: tables.length };
    });
    await eachPicture(places.faces(home), (name, path) => bag.addFile(join(TAKEN.faces, name), path));
    await bag.finish({
      'Bagging-Date': format(at, 'yyyy-MM-dd'),
      'External-Description': `Catalogue of Stellin (${kind}), to be taken in with ./stellin import`,
    });
    return counts;
  } catch (error) {
    await bag.abandon();
    if (systemCode(error)?.startsWith('E')) throw new Error(`${folder}: ${problemOf(error)}`, { cause: error });
    throw error;
  }
}

async function* csvOf(
  columns: readonly string[],
  pages: AsyncIterable<(string | number | null)[][]>,
): AsyncGenerator<string> {
  yield csvLines([columns]);
  for await (const rows of pages) yield csvLines(rows);
}

/** Of a photo’s name, so that that of its sidecar is none that file systems refuse. */
const MAX_NAME_BYTES = 230;

/** One sidecar a photo, where its file lies; photos of one place get their numbers. */
async function addSidecars(
  bag: BagFolder,
  pages: AsyncIterable<store.TakenPhoto[]>,
  vocabularies: Snapshot,
  at: Date,
  progress: Progress,
): Promise<number> {
  const now = at.toISOString().replace(/\.\d+Z$/, 'Z');
  const labels = new Map<string, string>();
  let before = '';
  let photos = 0;
  for await (const page of pages) {
    for (const photo of page) {
      const { id, folder, name } = photo;
      const file = Buffer.byteLength(name) > MAX_NAME_BYTES ? `${name.slice(0, 60)} (${id})` : name;
      const path = ['sidecars', labelFor(labels, photo), ...folder.split('/').filter(Boolean), file].join('/');
      // Two photos may have had one place after the other: they come one after the other here.
      const place = path === before ? `${path} (${id})` : path;
      await bag.add(`${place}.xmp`, describedSidecar(photo, vocabularies, now));
      before = path;
      photos += 1;
    }
    await progress('Writing sidecars', photos);
  }
  return photos;
}

/** The folder of a drive: two drives may have one label. */
function labelFor(labels: Map<string, string>, { drive, driveId }: store.TakenPhoto): string {
  const known = labels.get(driveId);
  if (known !== undefined) return known;
  const name = fileName(drive);
  const label = [...labels.values()].includes(name) ? `${name} ${driveId}` : name;
  labels.set(driveId, label);
  return label;
}

/** A text as the name of a file or folder. */
function fileName(text: string): string {
  return (
    text
      .replace(/[/\p{Cc}]/gu, '-')
      .replace(/^\.+/, '')
      .slice(0, 60) || 'unnamed'
  );
}
