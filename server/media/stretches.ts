// Stretches of films and sounds for others: as lists, and as files of their own.

import { mkdir, mkdtemp, rm, stat } from 'node:fs/promises';
import { createReadStream } from 'node:fs';
import { extname, join } from 'node:path';
import type { Readable } from 'node:stream';
import { stringify } from 'csv-stringify/sync';
import { edlText } from '@stellin/core/media/edl';
import { clockText, timecodeAt } from '@stellin/core/media/moments';
import { stretchesOf } from '@stellin/core/media/stretches';
import { kindFacts } from '@stellin/core/metadata/containers/index';
import { parseQuery } from '@stellin/core/search/language';
import { asksForStretches, stretchesAsked } from '@stellin/core/search/stretches';
import type { Sort } from '@stellin/core/search/sorts';
import type { FoundStretch, STRETCH_LISTS } from '@stellin/contract/media';
import type { Viewer } from '../catalogue/viewer';
import type { Database } from '../database/database';
import { messageOf, StellinError } from '../errors';
import { cutClip } from '../files/mediaParts';
import { resolveInside } from '../files/drivePath';
import { namesIn, removeTree } from '../files/keep';
import type { Search } from '../search/service';
import * as store from './store';

interface Made {
  name: string;
  mediaType: string;
}

/** Where nobody knows how many pictures a second there are, or of a sound. */
const USUAL_RATE = 25;
const SCRATCH = 'clip-';
const LEFT_AFTER_MS = 24 * 3600 * 1000;
const COLUMNS = [
  'Number',
  'From',
  'To',
  'First timecode',
  'Last timecode',
  'Name',
  'Note',
  'Rating',
  'Terms',
  'People',
];

/** Films that are looked at for one result, and stretches of them that are given. */
const MOST_FILMS = 500;
const MOST_STRETCHES = 500;

/** The stretches that a query speaks of, of what exists for somebody. */
export async function findStretches(
  database: Database,
  search: Search,
  viewer: Viewer,
  { query: text, sort }: { query: string; sort: Sort },
): Promise<{ stretches: FoundStretch[]; more: boolean }> {
  const { query } = parseQuery(text);
  if (!asksForStretches(query)) return { stretches: [], more: false };
  const ids = await search.seenBy(viewer).page(text, sort, 0, MOST_FILMS + 1);
  const positions = new Map(ids.map((id, position) => [id, position]));
  const films = await store.stretchedMedia(database, ids.slice(0, MOST_FILMS));
  const found = films.flatMap(({ id, name: film, kind, version, duration, stretches }) =>
    stretchesAsked(query, stretchesOf(stretches, duration ?? undefined)).map(({ key: _, ...stretch }) => ({
      ...{ photoId: id, position: positions.get(id) ?? 0, film, version, duration },
      isFilm: kindFacts(kind).media === 'film',
      ...stretch,
    })),
  );
  return { stretches: found.slice(0, MOST_STRETCHES), more: ids.length > MOST_FILMS || found.length > MOST_STRETCHES };
}

export function stretchFiles(database: Database, folder: string) {
  const find = async (photoId: number) => {
    const media = await store.findMedia(database, photoId);
    if (!media) throw new StellinError('notFound', { what: 'such film or sound' });
    return media;
  };

  return {
    /** The stretches of a film or sound as a table or an edit decision list. */
    async list(photoId: number, format: (typeof STRETCH_LISTS)[number]): Promise<Made & { text: string }> {
      const media = await find(photoId);
      const { frameRate: rate = USUAL_RATE, timecode: begins, duration } = media.facts;
      const stretches = stretchesOf(await store.stretchesField(database, photoId), duration);
      const made = { name: `${media.name} stretches.${format}` };
      if (format === 'edl')
        return { ...made, mediaType: 'text/plain', text: edlText({ name: media.name, rate, begins, stretches }) };
      const rows = stretches.map(({ from, to, name, note, rating, terms, people }, i) => [
        ...[i + 1, clockText(from), clockText(to), timecodeAt(from, rate, begins), timecodeAt(to, rate, begins)],
        ...[name, note, rating || '', terms.join('; '), people.join('; ')],
      ]);
      // A text that another program would take for a formula is none.
      const text = stringify([COLUMNS, ...rows], { bom: true, record_delimiter: 'windows', escape_formulas: true });
      return { ...made, mediaType: 'text/csv', text };
    },

    /** Removes what a process that was killed left of clips. */
    async clear(): Promise<void> {
      for (const name of await namesIn(folder)) {
        const path = join(folder, name);
        // Another process may be making one just now.
        const isOld = async () => (await stat(path)).mtimeMs < Date.now() - LEFT_AFTER_MS;
        if (name.startsWith(SCRATCH) && (await isOld().catch(() => false))) await removeTree(path);
      }
    },

    /** A part of a film or sound as a file of its own, its streams as they are. Throws a StellinError that says why it can’t be had. */
    async clip(photoId: number, part: { from: number; to: number }): Promise<Made & { stream: Readable }> {
      const media = await find(photoId);
      const { mountPoint, path, name } = media;
      if (media.missing) throw new StellinError('noPreview', { why: 'its file is missing.' });
      if (mountPoint === null) throw new StellinError('noPreview', { why: `the drive “${media.drive}” is away.` });
      await mkdir(folder, { recursive: true });
      const scratch = await mkdtemp(join(folder, SCRATCH));
      const remove = () => rm(scratch, { recursive: true, force: true });
      const extension = extname(name);
      const target = join(scratch, `clip${extension}`);
      try {
        await cutClip(await resolveInside(mountPoint, path), part, target);
      } catch (error) {
        await remove();
        throw new StellinError('noPreview', { why: `${messageOf(error)}.` });
      }
      const stream = createReadStream(target);
      // Whoever stops downloading leaves nothing behind.
      stream.once('close', () => void remove().catch(() => undefined));
      const times = [part.from, part.to].map((at) => clockText(at).replaceAll(':', '.')).join('-');
      return {
        name: `${name.slice(0, -extension.length || undefined)} ${times}${extension}`,
        mediaType: 'application/octet-stream',
        stream,
      };
    },
  };
}

export type StretchFiles = ReturnType<typeof stretchFiles>;
