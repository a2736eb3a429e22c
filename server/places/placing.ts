// What changes do that place photos by what is known of them: by tracks, and by the names of where they lie.

import { nameEdits, namesIn, positionEdit, type Naming } from '@stellin/core/describing/placing';
import type { FieldEdit } from '@stellin/core/describing/editing';
import { positionOf } from '@stellin/core/metadata/values';
import type { FieldValues } from '@stellin/core/metadata/fields';
import type { FileFacts } from '@stellin/core/metadata/read';
import type { Point } from '@stellin/core/timeplace/areas';
import type { OwnPlaces } from '@stellin/core/timeplace/ownPlaces';
import { countText } from '@stellin/contract/wording';
import { selectionSql } from '../catalogue/selection';
import type { SqlCondition } from '../catalogue/compile';
import type { ChangeContext, ChangeHandlers } from '../ledger/service';
import type { Places } from './service';
import { followedBy, type Tracks } from './tracks';

interface PlacingParts {
  /** Records edits of each photo's own, worked out page by page. */
  recordEach: (
    photos: SqlCondition,
    editsOf: (page: readonly PageRow[]) => Promise<ReadonlyMap<number, readonly FieldEdit[]>>,
    context: ChangeContext,
  ) => Promise<void>;
  places: Places;
  tracks: Tracks;
}

/** A photo as it is when the change is made; fields and facts as JSON. */
interface PageRow {
  id: number;
  fields: string;
  facts: string;
}

export function placingChanges({
  recordEach,
  places,
  tracks,
}: PlacingParts): Pick<ChangeHandlers, 'followTracks' | 'namePlaces' | 'placeByNames'> {
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
