// Tracks: keeping them, and where photos come to lie by them.

import { followAny, momentOf, proposedAhead, type Followed, type Following } from '@stellin/core/timeplace/following';
import { passingOf, type Passing } from '@stellin/core/timeplace/passing';
import { receiverOf } from '@stellin/core/timeplace/trackFiles';
import { unpackedTrack, type Track } from '@stellin/core/timeplace/track';
import { offsetMinutes, zoneAt } from '@stellin/core/timeplace/zones';
import { positionOf, textsOf } from '@stellin/core/metadata/values';
import type { Point } from '@stellin/core/timeplace/areas';
import { FOLLOWED, FOLLOWED_ROWS, type FollowedRow, type FollowedState, type Matching } from '@stellin/contract/tracks';
import { selectionSql } from '../catalogue/selection';
import type { Viewer } from '../catalogue/viewer';
import type { Database, Transaction } from '../database/database';
import { messageOf, StellinError } from '../errors';
import type { Search } from '../search/service';
import type { TrackReader } from './trackReader';
import * as store from './trackStore';

/** Which photos, and which of them are listed: those of a state, or all, from one on. */
interface Asked extends Matching {
  state: FollowedState | null;
  offset: number;
}

interface PassingAsked {
  trackIds: readonly number[];
  spot: Point;
  clock: string;
  zoneMinutes: number;
}

export type Tracks = ReturnType<typeof trackService>;

/** So many photos are looked at before it is done. */
const MAX_LOOKED = 100_000;
/** Of so many of them the offset of the clock is worked out. */
const MAX_TRIED = 500;
const MAX_LINE_POINTS = 2000;

export function trackService(database: Database, search: Search, reader: TrackReader) {
  const required = async (ids: readonly number[], tx?: Transaction): Promise<Track[]> => {
    const found = await store.trackData(database, ids, tx);
    if (found.length < new Set(ids).size)
      throw new StellinError('notFound', { what: 'such track (it may have been removed meanwhile)' });
    return found.map(unpackedTrack);
  };

  return {
    list: () => store.listTracks(database),

    /** Keeps what a file tells; gives its number. */
    async add(file: { name: string; device: string; text: string }, accountId: number): Promise<number> {
      const read = await reader.read(file.text).catch((error: unknown) => {
        throw new StellinError('unreadableTrack', { file: file.name, why: messageOf(error) });
      });
      const device = file.device || receiverOf(file.text);
      const id = await store.keepTrack(database, { ...file, device, accountId }, read);
      await database.notify(['places']);
      return id;
    },

    async remove(id: number): Promise<void> {
      if (!(await store.removeTrack(database, id))) throw new StellinError('notFound', { what: 'such track' });
      await database.notify(['places']);
    },

    /** The tracks by their numbers. Refuses one that is gone. */
    required,

    /** A track as lines of some of its points. */
    async line(id: number): Promise<Point[][]> {
      const [track] = await required([id]);
      return track ? linesOf(track) : [];
    },

    /** What a clock was behind, by when tracks passed a spot; null where none came near. */
    async passing({ trackIds, spot, clock, zoneMinutes }: PassingAsked): Promise<Passing | null> {
      return passingOf(await required(trackIds), spot, clock, { zoneMinutes }) ?? null;
    },

    /** Where the photos of a selection would come to lie. */
    async preview(viewer: Viewer, { selection, trackIds, following, onlyWithout, state: wanted, offset }: Asked) {
      const tracks = await required(trackIds);
      const settled = await search.seenBy(viewer).settled(selection);
      const photos = await store.timedPhotos(database, selectionSql(settled), MAX_LOOKED);
      const counts = Object.fromEntries(FOLLOWED.map((state) => [state, 0])) as Record<FollowedState, number>;
      const rows: FollowedRow[] = [];
      const meant: (string | null)[] = [];
      let passed = 0;
      for (const photo of photos) {
        const clock = clockOf(photo);
        const before = positionOf(photo.fields.position) ?? null;
        const followed = before && onlyWithout ? undefined : followAny(tracks, momentOf(clock, following), following);
        const state: FollowedState = followed === undefined ? 'kept' : followed.found ? 'placed' : followed.why;
        counts[state]++;
        if (followed) meant.push(clock);
        if (wanted !== null && wanted !== state) continue;
        if (passed++ < offset || rows.length === FOLLOWED_ROWS) continue;
        const { id, name, previewVersion } = photo;
        const after = followed?.found ? pointIn(followed) : null;
        rows.push({ photoId: id, name, previewVersion, clock, before: before && pointIn(before), after, state });
      }
      return {
        ...{ looked: photos.length, counts, rows },
        proposedAheadSeconds: proposedAhead(tracks, spread(meant, MAX_TRIED), following) ?? null,
        ...zoneOf(tracks[0]),
      };
    },
  };
}

/** Where a photo comes to lie; undefined when no track tells. */
export function followedBy(
  tracks: readonly Track[],
  photo: Pick<store.TimedPhoto, 'clock' | 'fields'>,
  following: Following,
): Extract<Followed, { found: true }> | undefined {
  const followed = followAny(tracks, momentOf(clockOf(photo), following), following);
  return followed.found ? followed : undefined;
}

/** What a photo’s clock said: what is said of it now, else what its camera wrote. */
function clockOf({ clock, fields }: Pick<store.TimedPhoto, 'clock' | 'fields'>): string | null {
  return textsOf(fields.dateCreated)[0] ?? clock;
}

function pointIn({ latitude, longitude }: Point): Point {
  return { latitude, longitude };
}

/** So many of a list, from its whole length. */
function spread<Each>(all: readonly Each[], most: number): Each[] {
  const step = Math.max(1, Math.ceil(all.length / most));
  return all.filter((_, i) => i % step === 0);
}

function zoneOf(track: Track | undefined): { zone: string | null; proposedZoneMinutes: number | null } {
  const [latitude, longitude, begins] = [track?.latitudes[0], track?.longitudes[0], track?.times[0]];
  if (latitude === undefined || longitude === undefined || begins === undefined)
    return { zone: null, proposedZoneMinutes: null };
  const zone = zoneAt({ latitude, longitude });
  return { zone, proposedZoneMinutes: offsetMinutes(zone, begins) };
}

/** Its parts, each with its ends and some of the points between. */
function linesOf({ latitudes, longitudes, starts }: Track): Point[][] {
  const step = Math.max(1, Math.ceil(latitudes.length / MAX_LINE_POINTS));
  return [...starts].map((start, part) => {
    const end = starts[part + 1] ?? latitudes.length;
    const places = Array.from({ length: Math.ceil((end - start) / step) }, (_, n) => start + n * step);
    if (places.at(-1) !== end - 1) places.push(end - 1);
    return places.map((i) => ({ latitude: latitudes[i] ?? 0, longitude: longitudes[i] ?? 0 }));
  });
}
