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
import type { CameraClockRow } from '@stellin/contract/tracks';
import type { Viewer } from '../catalogue/viewer';
import type { Database } from '../database/database';
import { listClocks, photosToPutRight, type CameraClockRecord } from './clockStore';

export type Clocks = ReturnType<typeof clockService>;

export function clockService(database: Database) {
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
