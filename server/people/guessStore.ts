// The table of guesses who faces show.

import { z } from 'zod';
import type { Database } from '../database/database';
import type { GuessedUntil } from './likeness.worker';
import { readSetting, writeSetting } from '../database/settings';
import type { ChangedGuess } from '@stellin/core/people/guessing';

const SETTING = 'guessedUntil';

const guessedUntil = z.object({ version: z.string(), generation: z.string(), by: z.string() });

export async function keptUntil(database: Database): Promise<GuessedUntil | null> {
  const kept = guessedUntil.safeParse(await readSetting(database, SETTING));
  return kept.success ? kept.data : null;
}

export async function saveGuesses(
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
