// What the stand-in for a mail server was given, as it can be read.

import { simpleParser } from 'mailparser';
import type { KeptMessage } from '@stellin/contract/mailing';
import { keptFiles, readKept } from '../files/keep';

const SHOWN = 50;
const ENDING = '.eml';

/** The latest messages of the folder, the latest first: those of some message ids. */
export async function keptMessages(folder: string, of: ReadonlySet<string>): Promise<KeptMessage[]> {
  const files = (await keptFiles(folder)).filter(({ name }) => name.endsWith(ENDING));
  const latest = files.sort((a, b) => b.name.localeCompare(a.name));
  const messages: KeptMessage[] = [];
  for (const { name, path, usedMs } of latest) {
    if (messages.length === SHOWN) break;
    const { messageId, from, to, subject, text, attachments } = await simpleParser(await readKept(path));
    if (messageId === undefined || !of.has(messageId)) continue;
    messages.push({
      id: name.slice(0, -ENDING.length),
      at: new Date(usedMs).toISOString(),
      from: from?.text ?? '',
      to: [to]
        .flat()
        .flatMap((each) => each?.text ?? [])
        .join(', '),
      subject: subject ?? '',
      text: text ?? '',
      attachments: attachments.map(({ filename, size }) => ({ name: filename ?? '', bytes: size })),
    });
  }
  return messages;
}
