// Films and sounds: their strips and waveforms, and how they are played. What is made of them is kept in the data folder, by the version
// of the file; what was used longest ago goes when it takes too much room.

import { join } from 'node:path';
import pLimit from 'p-limit';
import { kindFacts } from '@stellin/core/metadata/containers/index';
import { playedAs } from '@stellin/core/media/playing';
import type { Playback } from '@stellin/contract/media';
import { countText } from '@stellin/contract/wording';
import type { Database } from '../database/database';
import { messageOf, StellinError } from '../errors';
import { resolveInside } from '../files/drivePath';
import { keepNewest, markUsed, renameKept } from '../files/keep';
import { makePlayable, makeStrip, readPeaks } from '../files/mediaParts';
import { putFile } from '../files/preview';
import { isTaken, removeFile } from '../files/relocate';
import { unlessRunning, type Jobs } from '../jobs/service';
import { MEDIA_JOB, PLAYABLE_JOB } from './jobNames';
import * as store from './store';

export type MediaService = ReturnType<typeof mediaService>;

/** What is made of a film or sound, and the ending of its file. */
const PARTS = { strip: 'webp', waveform: 'json', copy: 'mp4' } as const;
type Part = keyof typeof PARTS;
const PART_IDS = Object.keys(PARTS) as Part[];

/** Made side by side because somebody looks, and how many may wait for their turn. */
const MADE_AT_ONCE = 2;
const MOST_WAITING = 50;
const COPY_TYPE = { film: 'video/mp4', sound: 'audio/mp4' } as const;

interface Parts {
  database: Database;
  jobs: Jobs;
  /** Where what is made is kept, and how much room that may take. */
  folder: string;
  limitBytes: number;
}

/** A file that is played. */
export interface Played {
  path: string;
  mediaType: string;
}

export function mediaService({ database, jobs, folder, limitBytes }: Parts) {
  // One closure for what its functions share; each of them fits a screen.
  const inTurn = pLimit(MADE_AT_ONCE);
  const inMaking = new Map<string, Promise<string>>();

  const pathOf = (photoId: number, version: number, part: Part) =>
    join(folder, part, `${photoId}-${version}.${PARTS[part]}`);
  const targetOf = ({ id, version }: store.MediaRow, part: Part) => pathOf(id, version, part);

  const find = async (photoId: number): Promise<store.MediaRow> => {
    const media = await store.findMedia(database, photoId);
    if (!media) throw new StellinError('notFound', { what: 'such film or sound' });
    return media;
  };

  const originalOf = ({ mountPoint, missing, drive, path }: store.MediaRow): Promise<string> => {
    if (missing) throw new StellinError('noPreview', { why: 'its file is missing.' });
    if (mountPoint === null) throw new StellinError('noPreview', { why: `the drive “${drive}” is away.` });
    return resolveInside(mountPoint, path);
  };

  const MAKERS: Record<Part, (media: store.MediaRow, original: string, target: string) => Promise<void>> = {
    strip: (media, original, target) => makeStrip(original, durationOf(media), target),
    waveform: async (media, original, target) =>
      putFile(target, Buffer.from(JSON.stringify(await readPeaks(original, durationOf(media))))),
    copy: (media, original, target) => makePlayable(original, isFilm(media), target),
  };

  /** Makes a part of a file, once however many ask. */
  const make = (media: store.MediaRow, part: Part): Promise<string> => {
    const target = targetOf(media, part);
    const making =
      inMaking.get(target) ??
      (async () => {
        await MAKERS[part](media, await originalOf(media), target);
        return target;
      })().finally(() => inMaking.delete(target));
    inMaking.set(target, making);
    return making;
  };

  /** A part that is kept, or is made now. Throws a StellinError that says why there is none. */
  const partOf = async (photoId: number, part: Exclude<Part, 'copy'>): Promise<string> => {
    const media = await find(photoId);
    const target = targetOf(media, part);
    if (await isTaken(target)) {
      await markUsed(target);
      return target;
    }
    if (inTurn.pendingCount >= MOST_WAITING) throw new StellinError('tooMuchAtOnce');
    try {
      return await inTurn(() => make(media, part));
    } catch (error) {
      if (error instanceof StellinError) throw error;
      throw new StellinError('noPreview', { why: `${messageOf(error)}.` });
    }
  };

  /** Removes what was used longest ago while all together take more room than they may. */
  const prune = (): Promise<void> =>
    keepNewest(
      PART_IDS.map((part) => join(folder, part)),
      limitBytes,
      () => Promise.resolve(new Set()),
    );

  return {
    prune,
    stripOf: (photoId: number) => partOf(photoId, 'strip'),
    waveformOf: (photoId: number) => partOf(photoId, 'waveform'),

    /** How a film or sound can be played. */
    async playback(photoId: number): Promise<Playback> {
      const media = await find(photoId);
      const { duration = null, frameRate = null, timecode = null } = media.facts;
      const isThere = media.mountPoint !== null && !media.missing;
      const plays = fileType(media) !== undefined;
      const hasCopy = await isTaken(targetOf(media, 'copy'));
      const isMaking = inMaking.has(targetOf(media, 'copy'));
      return {
        media: isFilm(media) ? 'film' : 'sound',
        duration,
        frameRate,
        timecode,
        plays: isThere && plays ? 'file' : hasCopy ? 'copy' : isMaking ? 'making' : 'none',
        why: isThere && plays ? null : whyNot(media),
        copyable: isThere && !plays && !hasCopy && !isMaking,
        version: media.version,
        poster: media.poster,
      };
    },

    /** The file to be played: itself, where browsers play it, or its copy. Throws a StellinError that says why there is none. */
    async played(photoId: number): Promise<Played> {
      const media = await find(photoId);
      const mediaType = fileType(media);
      if (mediaType !== undefined && media.mountPoint !== null && !media.missing)
        return { path: await originalOf(media), mediaType };
      const copy = targetOf(media, 'copy');
      if (!(await isTaken(copy))) throw new StellinError('noPreview', { why: whyNot(media) });
      await markUsed(copy);
      return { path: copy, mediaType: COPY_TYPE[isFilm(media) ? 'film' : 'sound'] };
    },

    /** Begins to make a copy that every browser plays. */
    async startCopy(photoId: number, accountId: number): Promise<{ id: string }> {
      const media = await find(photoId);
      await originalOf(media);
      return jobs.start(PLAYABLE_JOB, `Make a copy of ${media.path} that plays`, { photoId }, accountId);
    },

    /** Makes that copy, with room for it. */
    async makeCopy(photoId: number): Promise<void> {
      const media = await find(photoId);
      if (await isTaken(targetOf(media, 'copy'))) return;
      await make(media, 'copy');
      await prune();
      await database.notify(['photos']);
    },

    /** Begins to make strips and waveforms of what has none yet, where there are films and sounds at all. */
    async follow(accountId: number | null): Promise<void> {
      const count = await store.countAttachedMedia(database);
      if (count > 0)
        await unlessRunning(
          jobs.start(
            MEDIA_JOB,
            `Look through ${countText(count, 'film, sound or document', 'films, sounds and documents')}`,
            {},
            accountId,
          ),
        );
    },

    /** Makes what a film or sound is looked at by, where it is not there. Returns whether anything was made. */
    async prepare(media: store.MediaRow): Promise<boolean> {
      if (kindFacts(media.kind).media === 'document') return false;
      const wanted: Part[] = isFilm(media) ? ['strip', 'waveform'] : ['waveform'];
      let made = false;
      for (const part of wanted) {
        if (media.facts.duration === undefined || (await isTaken(targetOf(media, part)))) continue;
        if (part === 'waveform' && isFilm(media) && media.facts.audioCodec === undefined) continue;
        await make(media, part);
        made = true;
      }
      return made;
    },

    /** Takes what was made of a file along to the next version of its preview, which shows another picture of the same. */
    async carry(photoId: number, version: number): Promise<void> {
      for (const part of PART_IDS) await renameKept(pathOf(photoId, version, part), pathOf(photoId, version + 1, part));
    },

    /** Deletes what was made of a file that is going for good. */
    async remove(photoId: number, version: number): Promise<void> {
      for (const part of PART_IDS) await removeFile(pathOf(photoId, version, part));
    },
  };
}

const isFilm = ({ kind }: store.MediaRow) => kindFacts(kind).media === 'film';

function fileType(media: store.MediaRow): string | undefined {
  return playedAs(media.kind, isFilm(media), media.facts);
}

function durationOf({ facts: { duration } }: store.MediaRow): number {
  if (duration === undefined) throw new Error('nobody knows how long it is');
  return duration;
}

function whyNot(media: store.MediaRow): string {
  if (media.missing) return 'Its file is missing.';
  if (media.mountPoint === null) return `The drive “${media.drive}” is away.`;
  const { codec } = media.facts;
  return codec === undefined
    ? 'Nothing is known of its streams.'
    : `Browsers do not play ${codec} in ${kindFacts(media.kind).label}.`;
}
