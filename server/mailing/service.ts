// Letters: a view link or a small delivery that is sent by mail, the address book, and what became of each.

import { randomUUID } from 'node:crypto';
import type { Logger } from 'pino';
import type { Mailbox } from '@stellin/core/mailing/addresses';
import {
  letterRequest,
  type Contact,
  type KeptMessage,
  type Letter,
  type LetterAbout,
  type LetterRequest,
  type MailWay,
} from '@stellin/contract/mailing';
import { ownOrAll, type Person } from '../catalogue/viewer';
import type { MailServer } from '../config';
import type { Database } from '../database/database';
import type { Deliveries } from '../delivering/service';
import { StellinError } from '../errors';
import type { EventHub } from '../events/hub';
import type { Secrets } from '../files/secrets';
import { repeating } from '../repeating';
import type { StandIn } from '../standIn';
import { keptMessages } from './kept';
import { letterSender } from './sender';
import { mailBoxStandIn } from './standIns/mailBox';
import * as store from './store';

export type Mailing = ReturnType<typeof mailingService>;

interface Parts {
  database: Database;
  deliveries: Pick<Deliveries, 'download' | 'show'>;
  /** The title of a view link that somebody may send; refuses an address that is not its own. */
  titleOfLink: (linkId: number, address: string, person: Person) => Promise<string>;
  personOf: (accountId: number) => Promise<Person>;
  secrets: Secrets;
  server: MailServer | undefined;
  /** Where the stand-in keeps what it is given. */
  boxFolder: string;
  events: EventHub;
  log: Logger;
}

/** How often is looked for letters whose turn it is. */
const LOOK_MS = 20_000;
const STAND_IN_FROM = 'Stellin <archive@stellin.example>';

export function mailingService(parts: Parts) {
  // One closure for what its functions share; each of them fits a screen.
  const { database, deliveries, titleOfLink, secrets, server, boxFolder, events, log } = parts;
  let standIn: Promise<StandIn> | undefined;
  const sender = letterSender({
    ...parts,
    server: async () => {
      if (server) return server;
      standIn ??= mailBoxStandIn(boxFolder);
      // One that did not start is started with the next letter.
      standIn.catch(() => (standIn = undefined));
      return { url: `smtp://127.0.0.1:${(await standIn).port}`, from: STAND_IN_FROM };
    },
    warn: (why) => log.warn(why),
  });
  const looking = repeating('mail', LOOK_MS, () => sender.run(), log);
  let stopFollowing: (() => void) | undefined;

  /** What a letter is about, as it is kept. Refuses what somebody may not send. */
  const subjectOf = async (
    about: LetterAbout,
    person: Person,
  ): Promise<Pick<store.NewLetter, 'title' | 'linkId' | 'linkAddress' | 'deliveryId'>> => {
    if (about.kind === 'link') {
      const title = await titleOfLink(about.linkId, about.address, person);
      return { title, linkId: about.linkId, linkAddress: await secrets.seal(about.address), deliveryId: null };
    }
    const { title, download } = await deliveries.show(about.deliveryId, person);
    if (!download)
      throw new StellinError('badRequest', { problem: 'only what is downloaded can go along with a letter' });
    return { title, linkId: null, linkAddress: null, deliveryId: about.deliveryId };
  };

  const insert = (letter: store.NewLetter, recipients: readonly Mailbox[]): Promise<number> =>
    store.insertLetter(
      database,
      letter,
      recipients.map((each) => ({ ...each, messageId: `<${randomUUID()}@stellin>` })),
    );

  return {
    contacts: (): Promise<Contact[]> => store.listContacts(database),

    keepContact: (given: Mailbox): Promise<void> => store.keepContacts(database, [given]),

    removeContacts: (ids: readonly number[]): Promise<void> => store.removeContacts(database, ids),

    /** Lets a letter be sent; who gets it is in the address book from then on. */
    async send(given: LetterRequest, person: Person): Promise<number> {
      const { about, subject, text, recipients } = letterRequest.parse(given);
      const people = [...new Map(recipients.map((each) => [each.address.toLowerCase(), each])).values()];
      const kept = await subjectOf(about, person);
      await store.keepContacts(database, people);
      return insert({ accountId: person.accountId, subject, text, ...kept }, people);
    },

    /** How many a view link was sent to. */
    toldOf: async (linkId: number): Promise<number> => (await store.toldOfLink(database, linkId)).length,

    /** Tells those to whom a view link was sent something about it; its address is not known any more. */
    async tell(
      linkId: number,
      accountId: number,
      said: { title: string; subject: string; text: string },
    ): Promise<void> {
      const people = await store.toldOfLink(database, linkId);
      if (people.length > 0) await insert({ accountId, linkId, linkAddress: null, deliveryId: null, ...said }, people);
    },

    /** Lets a plain letter be sent: with nothing along. */
    async write(letter: { accountId: number; title: string; text: string; to: string }): Promise<void> {
      const { accountId, title, text, to } = letter;
      // What is told may hold braces, which would be placeholders.
      const plain = (said: string) => said.replaceAll('{', '(').replaceAll('}', ')');
      await insert(
        {
          accountId,
          title,
          subject: plain(title),
          text: plain(text),
          linkId: null,
          linkAddress: null,
          deliveryId: null,
        },
        [{ name: '', address: to }],
      );
    },

    async list(person: Person): Promise<{ letters: Letter[]; way: MailWay }> {
      const way = { server: server ? new URL(server.url).host : null, from: server?.from ?? STAND_IN_FROM };
      return { letters: await store.listLetters(database, ownOrAll(person)), way };
    },

    async retry(ids: readonly number[], person: Person): Promise<void> {
      if (!(await store.retry(database, ids, ownOrAll(person)))) throw new StellinError('notFound', NO_LETTER);
    },

    async stop(ids: readonly number[], person: Person): Promise<void> {
      if (!(await store.stop(database, ids, ownOrAll(person)))) throw new StellinError('notFound', NO_LETTER);
    },

    /** What the stand-in was given of the letters that somebody sees. */
    async box(person: Person): Promise<KeptMessage[]> {
      return keptMessages(boxFolder, (ids) => store.messagesOf(database, ids, ownOrAll(person)));
    },

    /** Sends what is due, now. */
    sendDue: (): Promise<void> => sender.run(),

    /** From here on this process sends what is due. */
    start(): void {
      stopFollowing = events.subscribe(({ topics }) => {
        if (topics.includes('mail'))
          void sender.run().catch((error: unknown) => log.warn(error, 'letters were not sent'));
      });
      looking.start();
    },

    async close(): Promise<void> {
      stopFollowing?.();
      await looking.close();
      await sender.close();
      await (await standIn?.catch(() => undefined))?.close();
    },
  };
}

const NO_LETTER = { what: 'such letter that waits or did not get through' };
