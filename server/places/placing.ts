// What changes do that place photos by what is known of them: by tracks, and by the names of where they lie.

import { nameEdits, namesIn, positionEdit, type Naming } from '@stellin/core/describing/placing';
import type { FieldEdit } from '@stellin/core/describing/editing';
import { positionOf } from '@stellin/core/metadata/values';
import type { FieldValues } from '@stellin/core/metadata/fields';
import type { FileFacts } from '@stellin/core/metadata/read';
import type { Point } from '@stellin/core/timeplace/areas';
import { pointBetween } from '@stellin/core/timeplace/between';
import type { OwnPlaces } from '@stellin/core/timeplace/ownPlaces';
import { countText } from '@stellin/contract/wording';
import { selectionSql } from '../catalogue/selection';
import type { ChangeHandlers } from '../ledger/service';
import type { Database } from '../database/database';
import { clockOf, knowsTime, rightTime, zoneNoted } from './clocks';
import { listClocks } from './clockStore';
import { StellinError } from '../errors';
import { timeSpan } from './trackStore';
import type { PageRow, RecordEach } from './recordEach';
import type { Places } from './service';
import { followedBy, type Tracks } from './tracks';

type PlacingKind = 'followTracks' | 'namePlaces' | 'placeByNames' | 'spreadPhotos' | 'noteZones' | 'putClocksRight';

interface PlacingParts {
  database: Database;
  recordEach: RecordEach;
  places: Places;
  tracks: Tracks;
}

export function placingChanges({
  database,
  recordEach,
  places,
  tracks,
}: PlacingParts): Pick<ChangeHandlers, PlacingKind> {
  // One closure for what its functions share; each of them fits a screen.
  /** The names of points as edits, in the order of the points. */
  const namesOf = async (points: readonly Point[], naming: Naming, own: OwnPlaces): Promise<FieldEdit[][]> => {
    if (points.length === 0 || (naming.way === 'none' && !naming.shown)) return points.map(() => []);
    return (await places.whereabouts(points, own)).map(({ names }) => nameEdits(names, naming));
  };

  return {
    async followTracks({ selection, trackIds, following, onlyWithout, naming }, context) {
      const found = await tracks.required(trackIds, context.tx);
      const own = await places.own(context.tx);
      const edits = async (page: readonly PageRow[]) => {
        const placed = page.flatMap(({ id, fields: text, facts }) => {
          const fields = JSON.parse(text) as FieldValues;
          if (onlyWithout && fields.position !== undefined) return [];
          const { takenAt, offset = '' } = JSON.parse(facts) as FileFacts;
          const clock = takenAt === undefined ? null : takenAt + offset;
          const point = followedBy(found, { fields, clock }, following);
          return point ? [{ id, point }] : [];
        });
        const names = await namesOf(
          placed.map(({ point }) => point),
          naming,
          own,
        );
        return new Map(placed.map(({ id, point }, i) => [id, [positionEdit(point), ...(names[i] ?? [])]]));
      };
      await recordEach(selectionSql(selection), edits, context);
      return (photos) => `Place by ${countText(trackIds.length, 'track')}: ${countText(photos, 'photo')}`;
    },

    async namePlaces({ selection, naming }, context) {
      const own = await places.own(context.tx);
      const edits = async (page: readonly PageRow[]) => {
        const lying = page.flatMap(({ id, fields }) => {
          const point = positionOf((JSON.parse(fields) as FieldValues).position);
          return point ? [{ id, point }] : [];
        });
        const names = await namesOf(
          lying.map(({ point }) => point),
          naming,
          own,
        );
        return new Map(lying.map(({ id }, i) => [id, names[i] ?? []]));
      };
      await recordEach(selectionSql(selection), edits, context);
      return (photos) => `Fill in the names of places: ${countText(photos, 'photo')}`;
    },

    async spreadPhotos({ selection, from, to, naming }, context) {
      const photos = selectionSql(selection);
      const [first, last] = await timeSpan(database, photos, context.tx);
      if (first === null || last === null)
        throw new StellinError('describingRefused', { why: 'of none of these photos it is known when it was taken' });
      const own = await places.own(context.tx);
      const edits = async (page: readonly PageRow[]) => {
        const timed = page.flatMap(({ id, takenAt, fields, facts }) => {
          if (takenAt === null || !knowsTime(JSON.parse(fields) as FieldValues, JSON.parse(facts) as FileFacts))
            return [];
          const part = last === first ? 0 : (Date.parse(`${takenAt}Z`) - first) / (last - first);
          return [{ id, point: pointBetween(from, to, part) }];
        });
        const names = await namesOf(
          timed.map(({ point }) => point),
          naming,
          own,
        );
        return new Map(timed.map(({ id, point }, i) => [id, [positionEdit(point), ...(names[i] ?? [])]]));
      };
      await recordEach(photos, edits, context);
      return (count) => `Spread along a line by time: ${countText(count, 'photo')}`;
    },

    async noteZones({ selection }, context) {
      await recordEach(selectionSql(selection), (page) => Promise.resolve(editsOf(page, zoneNoted)), context);
      return (photos) => `Note the time zone of where they were taken: ${countText(photos, 'photo')}`;
    },

    async putClocksRight({ selection }, context) {
      const clocks = (await listClocks(database, context.tx)).map(clockOf);
      const right = (fields: FieldValues, facts: FileFacts) => rightTime(clocks, fields, facts);
      await recordEach(selectionSql(selection), (page) => Promise.resolve(editsOf(page, right)), context);
      return (photos) => `Put the clock right: ${countText(photos, 'photo')}`;
    },

    async placeByNames({ selection }, context) {
      const own = await places.own(context.tx);
      const edits = async (page: readonly PageRow[]) => {
        const named = page.flatMap(({ id, fields: text }) => {
          const fields = JSON.parse(text) as FieldValues;
          return fields.position === undefined ? [{ id, names: namesIn(fields) }] : [];
        });
        const found = await places.located(
          named.map(({ names }) => names),
          own,
        );
        return new Map(named.map(({ id }, i) => [id, found[i]?.point ? [positionEdit(found[i].point)] : []]));
      };
      await recordEach(selectionSql(selection), edits, context);
      return (photos) => `Place by names: ${countText(photos, 'photo')}`;
    },
  };
}

/** One edit a photo, where there is one. */
function editsOf(
  page: readonly PageRow[],
  edit: (fields: FieldValues, facts: FileFacts) => FieldEdit | undefined,
): Map<number, FieldEdit[]> {
  return new Map(
    page.flatMap(({ id, fields, facts }) => {
      const made = edit(JSON.parse(fields) as FieldValues, JSON.parse(facts) as FileFacts);
      return made ? [[id, [made]] as const] : [];
    }),
  );
}
