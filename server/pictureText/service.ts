// Text seen in pictures: read on this machine, kept with where it is seen, and found by.

import { boxTurned, textOfLines, type TextLine } from '@stellin/core/pictureText/lines';
import type { PictureText } from '@stellin/contract/pictureText';
import { derivedOf } from '../catalogue/derived';
import type { Database, Transaction } from '../database/database';
import { messageOf, StellinError, systemCode } from '../errors';
import { resolveInside } from '../files/drivePath';
import { problemOf } from '../files/problem';
import { readText } from '../files/readText';
import { MissingTool } from '../files/tools';
import { unlessRunning, type Jobs } from '../jobs/service';
import { TEXT_JOB } from './jobNames';
import * as store from './store';

export type PictureTexts = ReturnType<typeof pictureTextService>;

const UNREAD: PictureText = { state: 'unread', problem: '', lines: [] };

export function pictureTextService(database: Database, jobs: Jobs) {
  // One closure for what its functions share; each of them fits a screen.
  const read = async (task: store.TextTask & { mountPoint: string }): Promise<store.ReadText> => {
    const { id, kind, orientation, hash } = task;
    const noted = (lines: readonly TextLine[], problem = '') => ({
      ...{ id, lines, orientation, hash, problem },
      text: textOfLines(lines),
    });
    try {
      return noted(await readText(await resolveInside(task.mountPoint, task.path), kind, orientation));
    } catch (error) {
      // Neither of them says anything of the picture.
      if (error instanceof MissingTool || systemCode(error) === 'ENOENT') throw error;
      return noted([], systemCode(error) === undefined ? messageOf(error) : problemOf(error));
    }
  };

  /** Has photos found by the text that was read in them. */
  const deriveAnew = async (photoIds: readonly number[], tx: Transaction): Promise<void> => {
    const rows = await store.toDerive(database, photoIds, tx);
    if (rows.length === 0) return;
    const derived = rows.map(({ id, name, fields, facts: { lettering: _, ...others }, lettering, keywords }) => {
      const facts = lettering === '' ? others : { ...others, lettering };
      const { fields_folded, words } = derivedOf(name, fields, facts, keywords);
      return { id, facts, fields_folded, words };
    });
    await store.writeDerived(database, derived, tx);
  };

  const note = (texts: readonly store.ReadText[]): Promise<void> =>
    database.transaction(async (tx) => {
      await store.noteRead(database, texts, tx);
      await deriveAnew(
        texts.map(({ id }) => id),
        tx,
      );
      await database.notify(['photos'], tx);
    });

  const show = async (photoId: number): Promise<PictureText> => {
    const found = await store.findLettering(database, photoId);
    if (!found) return UNREAD;
    const { lines, orientation, seenAs, problem } = found;
    if (problem !== '') return { state: 'unreadable', problem, lines: [] };
    const turned = lines.map((line) => ({ ...line, box: boxTurned(line.box, orientation, seenAs) }));
    return { state: 'read', problem, lines: turned };
  };

  /** Begins to read what waits; nothing where nothing does. */
  const follow = async (accountId: number | null): Promise<void> => {
    if ((await store.countToRead(database)) === 0) return;
    await unlessRunning(jobs.start(TEXT_JOB, 'Read the text in pictures', {}, accountId));
  };

  return {
    read,
    note,
    show,
    follow,

    /** What was read in files that were read again stays. */
    afterReading: deriveAnew,

    /** Reads the text in one picture now. Throws a StellinError that says why it can’t be. */
    async readNow(photoId: number): Promise<PictureText> {
      const task = await store.findTask(database, photoId);
      if (!task) throw new StellinError('noPreview', { why: 'it is no picture whose file is there.' });
      const { mountPoint } = task;
      if (mountPoint === null)
        throw new StellinError('noPreview', { why: `the drive “${task.drive}” is away; plug it in to read it.` });
      const text = await read({ ...task, mountPoint }).catch((error: unknown) => {
        throw new StellinError('noPreview', { why: `${messageOf(error)}.` });
      });
      await note([text]);
      return show(photoId);
    },

    /** Chooses whether the text in the pictures of a drive is read, and begins to. */
    async readDrive(driveId: string, on: boolean, accountId: number): Promise<void> {
      if (!(await store.setReadText(database, driveId, on))) throw new StellinError('notFound', { what: 'such drive' });
      await database.notify(['drives']);
      if (on) await follow(accountId);
    },
  };
}
