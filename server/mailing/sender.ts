// Sending what is due: one letter after the other, over the mail server that is settled or the stand-in.

import { createTransport, type Transporter } from 'nodemailer';
import { fillLetter, nextTry } from '@stellin/core/mailing/letters';
import { MAX_ATTACHED_BYTES } from '@stellin/contract/mailing';
import { sizeText } from '@stellin/contract/sizeText';
import type { Person } from '../catalogue/viewer';
import type { MailServer } from '../config';
import type { Database } from '../database/database';
import type { Deliveries } from '../delivering/service';
import { messageOf, StellinError } from '../errors';
import type { Secrets } from '../files/secrets';
import * as store from './store';

interface Parts {
  database: Database;
  deliveries: Pick<Deliveries, 'download'>;
  personOf: (accountId: number) => Promise<Person>;
  secrets: Secrets;
  /** Tells where mail goes, once there is something to send. */
  server: () => Promise<MailServer>;
  warn: (why: string) => void;
}

export type LetterSender = ReturnType<typeof letterSender>;

const CONNECTING_MS = 30_000;
const SILENT_MS = 60_000;

interface Attachment {
  filename: string;
  content: Buffer;
  contentType: string;
}

/** What a letter needs besides who gets it. */
interface Made {
  subject: string;
  text: string;
  facts: { sender: string; title: string; link: string };
  attachments: Attachment[];
}

export function letterSender({ database, deliveries, personOf, secrets, server, warn }: Parts) {
  // One closure for what its functions share; each of them fits a screen.
  let last: Promise<void> = Promise.resolve();
  let closed = false;
  let way: Promise<{ transport: Transporter; from: string }> | undefined;

  const open = () => {
    way ??= server().then(({ url, from }) => {
      const limits = { connectionTimeout: CONNECTING_MS, greetingTimeout: CONNECTING_MS, socketTimeout: SILENT_MS };
      return { transport: createTransport({ url, ...limits }), from };
    });
    // What could not be opened is tried again with the next letter.
    way.catch(() => (way = undefined));
    return way;
  };

  const make = async (letterId: number): Promise<Made> => {
    const letter = await store.findLetter(database, letterId);
    if (!letter) throw new StellinError('notFound', { what: 'such letter' });
    const person = await personOf(letter.accountId);
    const link = letter.linkAddress === null ? '' : await secrets.open(letter.linkAddress);
    if (link === undefined)
      throw new StellinError('badRequest', { problem: 'the address of its view link can’t be read on this machine' });
    const { subject, text, title, deliveryId } = letter;
    return {
      subject,
      text,
      facts: { sender: person.displayName, title, link },
      attachments: deliveryId === null ? [] : [await attachmentOf(deliveryId, person)],
    };
  };

  const attachmentOf = async (deliveryId: string, person: Person): Promise<Attachment> => {
    const { name, stream, mediaType } = await deliveries.download(deliveryId, person);
    const parts: Buffer[] = [];
    let bytes = 0;
    for await (const part of stream as AsyncIterable<Buffer>) {
      bytes += part.length;
      if (bytes > MAX_ATTACHED_BYTES)
        throw new StellinError('badRequest', {
          problem: `more than ${sizeText(MAX_ATTACHED_BYTES)} is too much for a letter: send a view link`,
        });
      parts.push(part);
    }
    return { filename: name, content: Buffer.concat(parts), contentType: mediaType };
  };

  const send = async (due: store.Due, { subject, text, facts, attachments }: Made): Promise<void> => {
    const { transport, from } = await open();
    const filled = { ...facts, name: due.name || due.address };
    await transport.sendMail({
      from,
      // As an object: names hold what they like.
      to: { name: due.name, address: due.address },
      subject: fillLetter(subject, filled),
      text: fillLetter(text, filled),
      attachments,
      messageId: due.messageId,
      disableFileAccess: true,
      disableUrlAccess: true,
    });
  };

  const sendDue = async (): Promise<void> => {
    let made: { of: number; letter: Promise<Made> } | undefined;
    // One at a time: whoever is taken is being sent, and is not taken for cut off because others before are slow.
    for (let due; !closed && (due = await store.takeDue(database)) !== undefined;) {
      const { letterId, tries, address } = due;
      const recipient = due;
      // Those of one letter come one after the other, and what goes along is made once.
      if (made?.of !== letterId) made = { of: letterId, letter: make(letterId) };
      const outcome = await made.letter
        .then((letter) => send(recipient, letter))
        .then(
          (): store.Outcome => ({ state: 'sent', problem: null, nextAt: null }),
          (error: unknown) => outcomeOf(error, tries, new Date()),
        );
      if (outcome.problem !== null) warn(`a letter to ${address} was not sent: ${outcome.problem}`);
      await store.noteOutcome(database, recipient, outcome);
    }
  };

  return {
    /** Sends what is due; runs follow one another. */
    run(): Promise<void> {
      last = last.catch(() => undefined).then(sendDue);
      return last;
    },

    /** Ends after the letters that are under way. */
    async close(): Promise<void> {
      closed = true;
      await last.catch(() => undefined);
      (await way?.catch(() => undefined))?.transport.close();
    },
  };
}

const HARD_REFUSAL = 500;
/** Errors of nodemailer that are about this recipient or this letter, not about the way to the server. */
const OF_THE_LETTER = new Set(['EENVELOPE', 'EMESSAGE']);

/** What becomes of a letter that was not taken: a server that refuses for good (RFC 5321, codes from 500) has spoken; all else is tried again. */
function outcomeOf(error: unknown, tries: number, now: Date): store.Outcome {
  const { code, responseCode = 0, response } = error as { code?: string; responseCode?: number; response?: string };
  const problem = response ?? messageOf(error);
  if (error instanceof StellinError) return { state: 'refused', problem, nextAt: null };
  if (responseCode >= HARD_REFUSAL && OF_THE_LETTER.has(code ?? '')) return { state: 'refused', problem, nextAt: null };
  const nextAt = nextTry(tries, now) ?? null;
  return { state: nextAt === null ? 'failed' : 'waiting', problem, nextAt };
}
