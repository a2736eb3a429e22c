// Who faces most likely show is kept in the catalogue, so that it can be searched: brought up to date in the background
// whenever people change.

import type { Logger } from 'pino';
import { z } from 'zod';
import type { ChangedGuess } from '@stellin/core/people/guessing';
import type { Database } from '../database/database';
import { readSetting, writeSetting } from '../database/settings';
import { messageOf } from '../errors';
import type { EventHub } from '../events/hub';
import type { LikenessIndex } from './likeness';
import type { GuessedUntil } from './likeness.worker';

const SETTING = 'guessedUntil';
const guessedUntil = z.object({ version: z.string(), generation: z.string(), by: z.string() });
/** Changes that come one upon the other are looked at together. */
const PAUSE_MS = 400;

export function guessKeeper(database: Database, likeness: LikenessIndex, events: EventHub, log: Logger) {
  let timer: NodeJS.Timeout | undefined;
  let stopped = false;
  let working: Promise<void> = Promise.resolve();

  const refresh = async (): Promise<void> => {
    // Without faces the thread that knows them is not needed.
    if (!(await database.row('select 1 as found from face where vector is not null limit 1'))) return;
    const kept = await keptUntil(database);
    for (let ended = false; !ended && !stopped;) {
      const { changed, until } = await likeness.refreshGuesses({ kept });
      try {
        await saveGuesses(database, changed, until);
      } catch (error) {
        // What the thread takes for kept is not: it is to begin with what really is.
        await likeness.forgetGuesses({});
        throw error;
      }
      ended = until !== null;
    }
  };

  const soon = (): void => {
    clearTimeout(timer);
    if (stopped) return;
    timer = setTimeout(() => {
      working = working
        .then(refresh)
        .catch((error: unknown) => log.warn(`guessing who faces show: ${messageOf(error)}`));
    }, PAUSE_MS);
  };
  let unsubscribe = (): void => undefined;

  return {
    start(): void {
      unsubscribe = events.subscribe(({ topics }) => topics.includes('people') && soon());
      soon();
    },
    async close(): Promise<void> {
      stopped = true;
      unsubscribe();
      clearTimeout(timer);
      await working;
    },
  };
}

async function keptUntil(database: Database): Promise<GuessedUntil | null> {
  const kept = guessedUntil.safeParse(await readSetting(database, SETTING));
  return kept.success ? kept.data : null;
}

async function saveGuesses(
  database: Database,
  changed: readonly ChangedGuess[],
  until: GuessedUntil | null,
): Promise<void> {
  if (changed.length === 0 && until === null) return;
  const gone = changed.flatMap(({ faceId, guess }) => (guess ? [] : [faceId]));
  const made = changed.flatMap(({ faceId, guess }) => (guess ? [{ faceId, ...guess }] : []));
  await database.transaction(async (tx) => {
    await database.rows('delete from face_guess where face_id = any($1::int[])', [gone], tx);
    // Faces and persons may have gone meanwhile.
    await database.rows(
      `insert into face_guess (face_id, person_id, certainty)
       select f.id, n.id, r.certainty from jsonb_to_recordset($1::jsonb) as r ("faceId" int, "personId" int, certainty real)
       join face f on f.id = r."faceId" join person n on n.id = r."personId"
       on conflict (face_id) do update set person_id = excluded.person_id, certainty = excluded.certainty`,
      [JSON.stringify(made)],
      tx,
    );
    if (until) await writeSetting(database, SETTING, until, tx);
    if (changed.length > 0) await database.notify(['photos'], tx);
  });
}
