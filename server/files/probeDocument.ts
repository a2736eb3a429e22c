// What a document is, and the words on its pages: asked of the programs of poppler.

import type { LookedMedia } from '@stellin/core/metadata/probed';
import { documentOf } from '@stellin/core/metadata/document';
import { messageOf } from '../errors';
import { MissingTool, runToolNow } from './tools';

const LIMITS = { seconds: 20, megabytes: 1500 };
/** Pages whose words are read. */
const READ_PAGES = 200;

/** What a PDF is; or why that can’t be said. */
export function probeDocument(path: string): LookedMedia {
  try {
    const said = runToolNow('pdfinfo', ['-isodates', '-enc', 'UTF-8', path], LIMITS).toString();
    return documentOf(said, wordsOn(path));
  } catch (error) {
    return error instanceof MissingTool
      ? { problem: `nothing is known of its pages: ${error.message}`, damaged: false }
      : { problem: `its pages could not be read: ${messageOf(error)}`, damaged: true };
  }
}

/** Of pages that only show pictures there are none. */
function wordsOn(path: string): string {
  try {
    return runToolNow(
      'pdftotext',
      ['-l', String(READ_PAGES), '-enc', 'UTF-8', '-nopgbrk', path, '-'],
      LIMITS,
    ).toString();
  } catch (error) {
    if (error instanceof MissingTool) throw error;
    return '';
  }
}
