// Exchanging the file at a path for another one that stands in a hidden folder of the same drive. What was there is kept, so that
// it can be had back. A process killed anywhere leaves both files whole; the same call goes on from there.

import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import { faultPoint } from './fault';
import { flushFolder } from './flush';
import { copyFileProven, isTaken, relocate, removeFile } from './relocate';

/** The two files in the hidden folder, of which one is there at a time. */
type KeptFile = 'damaged' | 'good';

interface Exchange {
  path: string;
  /** The folder in the system. */
  kept: string;
  /** Which of the two comes to the path; the other is kept. */
  comes: KeptFile;
}

/** Puts a proven copy of a file into the hidden folder, if it is not there and was not put in place yet. */
export async function keepGoodCopy(from: string, kept: string): Promise<string> {
  const good = join(kept, 'good');
  // An empty one is only the reservation of the name, by a copy that was cut off.
  if (await isEmpty(good)) await removeFile(good);
  if (!(await isTaken(good)) && !(await isTaken(join(kept, 'damaged')))) await copyFileProven(from, good);
  await flushFolder(kept);
  return good;
}

async function isEmpty(path: string): Promise<boolean> {
  return (await isTaken(path)) && (await stat(path)).size === 0;
}

/** Exchanges the two. Throws the file system’s error, or one that names what is missing. */
export async function exchange({ path, kept, comes }: Exchange): Promise<void> {
  const [incoming, outgoing] = [join(kept, comes), join(kept, comes === 'good' ? 'damaged' : 'good')];
  if (!(await isTaken(incoming))) {
    if ((await isTaken(outgoing)) && (await isTaken(path))) return;
    throw new Error(`the other file is no longer kept in ${kept}`);
  }
  // An empty one is only the reservation of the name, by an exchange that was cut off.
  if ((await isTaken(path)) && (!(await isTaken(outgoing)) || (await isEmpty(outgoing)))) {
    await relocate([{ from: path, to: outgoing, copies: false, mayStand: true }]);
    faultPoint('back:moved');
  }
  await relocate([{ from: incoming, to: path, copies: false, mayStand: true }]);
}
