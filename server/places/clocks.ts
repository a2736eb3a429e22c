// Clocks of cameras that went wrong: kept, and what photos taken with them are to say.

import { withTime, type TimeChange } from '@stellin/core/describing/clock';
import type { FieldEdit } from '@stellin/core/describing/editing';
import { dateTimeParts } from '@stellin/core/metadata/dateTime';
import type { FieldValues } from '@stellin/core/metadata/fields';
import type { FileFacts } from '@stellin/core/metadata/read';
import { positionOf, textsOf } from '@stellin/core/metadata/values';
import { allOf, criterion, type Query } from '@stellin/core/query/query';
import { cameraName } from '@stellin/core/search/said';
import { queryText } from '@stellin/core/search/language';
import { wrongClock, type CameraClock } from '@stellin/core/timeplace/clocks';
import { offsetOfClock, zoneAt } from '@stellin/core/timeplace/zones';
import type { Selection } from '@stellin/contract/photos';
import type { CameraClockRow, TimedPhoto } from '@stellin/contract/tracks';
import { selectionSql } from '../catalogue/selection';
import type { Viewer } from '../catalogue/viewer';
import type { Database } from '../database/database';
import type { Search } from '../search/service';
import { cameraPhotos, listClocks, photosToPutRight, type CameraClockRecord } from './clockStore';

/** So many photos are lined up at once. */
const MAX_LINED_UP = 2000;

export type Clocks = ReturnType<typeof clockService>;

export function clockService(database: Database, search: Search) {
  return {
    /** The clocks, with how many photos that exist for somebody still say what they said. */
    async list(viewer: Viewer): Promise<CameraClockRow[]> {
      const clocks = await listClocks(database);
      const counts = await photosToPutRight(database, clocks, viewer.sight);
      return clocks.map((row) => {
        const { camera, from, until, aheadSeconds } = clockOf(row);
        const { id, note } = row;
        const span: Query = { kind: 'criterion', criterion: 'taken', operator: '..', value: from, to: until };
        const query = queryText(allOf([criterion('camera', camera), span]));
        return { ...{ id, camera, from, until, aheadSeconds, note, query }, photos: counts.get(id) ?? 0 };
      });
    },

    /** The photos of a selection by camera and time. */
    async camerasByTime(viewer: Viewer, selection: Selection) {
      const settled = await search.seenBy(viewer).settled(selection);
      const photos = await cameraPhotos(database, selectionSql(settled), MAX_LINED_UP + 1);
      const looked = photos.slice(0, MAX_LINED_UP);
      const cameras = new Map<string, TimedPhoto[]>();
      for (const { id, name, previewVersion, facts, said } of looked) {
        const clock = facts.takenAt?.slice(0, TO_SECONDS) ?? '';
        const { time: hasTime } = dateTimeParts(said ?? '') ?? {};
        const time = hasTime === undefined ? clock : (said ?? '').slice(0, TO_SECONDS);
        const camera = cameraName(facts);
        const known = cameras.get(camera) ?? [];
        if (known.push({ photoId: id, name, previewVersion, clock, time }) === 1) cameras.set(camera, known);
      }
      return {
        cameras: [...cameras]
          .map(([camera, timed]) => ({ camera, photos: timed }))
          .sort((a, b) => b.photos.length - a.photos.length),
        ...{ looked: looked.length, isWhole: photos.length <= MAX_LINED_UP },
      };
    },
  };
}

/** A clock as core knows it. */
export function clockOf({ camera, from_day, until_day, ahead_seconds }: CameraClockRecord): CameraClock {
  return { camera, from: from_day, until: until_day, aheadSeconds: ahead_seconds };
}

/** Letters of a time to the second. */
const TO_SECONDS = 19;

/** What puts the time of a photo right that still says what a wrong clock said; undefined for others. */
export function rightTime(
  clocks: readonly CameraClock[],
  fields: FieldValues,
  facts: FileFacts,
): FieldEdit | undefined {
  const { takenAt } = facts;
  const clock = takenAt === undefined ? undefined : wrongClock(clocks, cameraName(facts), takenAt);
  // Somebody has put it right already.
  if (!clock || timeSaid(fields, facts).slice(0, TO_SECONDS) !== takenAt?.slice(0, TO_SECONDS)) return undefined;
  return timeEdit(fields, facts, { how: 'shift', seconds: -clock.aheadSeconds });
}

/** What notes the time zone of where a photo was taken with its time; undefined where the zone is noted, or either is not known. */
export function zoneNoted(fields: FieldValues, facts: FileFacts): FieldEdit | undefined {
  const point = positionOf(fields.position);
  const { year, month, day, time, zone } = dateTimeParts(timeSaid(fields, facts)) ?? {};
  if (!point || time === undefined || zone !== undefined) return undefined;
  return timeEdit(fields, facts, {
    how: 'zone',
    zone: offsetOfClock(zoneAt(point), `${year}-${month}-${day}T${time}`),
  });
}

/** Whether the time of day of a photo is known, so that it has a place among others. */
export function knowsTime(fields: FieldValues, facts: FileFacts): boolean {
  return dateTimeParts(timeSaid(fields, facts))?.time !== undefined;
}

/** What is said of when a photo was taken, else what its camera wrote; '' for neither. */
function timeSaid(fields: FieldValues, { takenAt = '', offset = '' }: FileFacts): string {
  return textsOf(fields.dateCreated)[0] ?? takenAt + offset;
}

function timeEdit(fields: FieldValues, facts: FileFacts, change: TimeChange): FieldEdit | undefined {
  const { dateCreated } = withTime(fields, timeSaid(fields, facts), change);
  return dateCreated === undefined ? undefined : { target: 'dateCreated', mode: 'replace', value: dateCreated };
}
