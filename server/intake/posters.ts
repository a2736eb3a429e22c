// Pictures that stand for films, as somebody chose them: the preview is made to show it. One of a drive that is away follows when it is
// back, what a process that was killed left at the next start.

import type { Database } from '../database/database';
import { messageOf } from '../errors';
import type { LargePictures } from './large';
import type { Previews } from './previews';
import * as store from './store';

const FILMS_PER_PAGE = 20;

interface Parts {
  database: Database;
  previews: Previews;
  large: Pick<LargePictures, 'remove'>;
  /** Takes what is kept of a film by the version of its preview along to the next. */
  carry: (photoId: number, version: number) => Promise<void>;
  warn: (why: string) => void;
}

export function posterFollower({ database, previews, large, carry, warn }: Parts) {
  let last: Promise<void> = Promise.resolve();

  const showAll = async (): Promise<void> => {
    let after = 0;
    for (;;) {
      const films = await store.posterTasks(database, after, FILMS_PER_PAGE);
      if (films.length === 0) return;
      const shown: store.NotedRemake[] = [];
      for (const film of films) {
        after = film.id;
        try {
          shown.push(await previews.showPoster(film));
          await carry(film.id, film.version);
          await large.remove(film.id, film.version);
        } catch (error) {
          warn(`the picture chosen for ${film.path} could not be made: ${messageOf(error)}`);
        }
      }
      await previews.noteRemade(shown);
      await database.notify(['photos']);
    }
  };

  return {
    /** Makes all previews show what was chosen; runs follow one another. */
    run(): Promise<void> {
      last = last.catch(() => undefined).then(showAll);
      return last;
    },

    /** Ends after the run that is under way. */
    close: (): Promise<void> => last.catch(() => undefined),
  };
}
