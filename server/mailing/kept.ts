// What the stand-in for a mail server was given, as it can be read.

import { simpleParser, type ParsedMail } from 'mailparser';
import type { KeptMessage } from '@stellin/contract/mailing';
import { keptFiles, readKept, type KeptFile } from '../files/keep';

/** Messages that are looked at, the latest. */
const SHOWN = 50;
const ENDING = '.eml';

/** The latest messages of the folder, the latest first; of these `ofTheirs` gives the message ids of those that somebody sees. */
export async function keptMessages(
  folder: string,
  ofTheirs: (ids: readonly string[]) => Promise<ReadonlySet<string>>,
): Promise<KeptMessage[]> {
  const files = (await keptFiles(folder)).filter(({ name }) => name.endsWith(ENDING));
  const latest = files.sort((a, b) => b.name.localeCompare(a.name)).slice(0, SHOWN);
  const read: { file: KeptFile; mail: ParsedMail }[] = [];
  // One after the other: each may be as large as a letter can be.
  for (const file of latest) read.push({ file, mail: await simpleParser(await readKept(file.path)) });
  const theirs = await ofTheirs(read.flatMap(({ mail }) => mail.messageId ?? []));
  return read.flatMap(({ file, mail }) => (theirs.has(mail.messageId ?? '') ? [shown(file, mail)] : []));
}

function shown({ name, usedMs }: KeptFile, { from, to, subject, text, attachments }: ParsedMail): KeptMessage {
  return {
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
  };
}
