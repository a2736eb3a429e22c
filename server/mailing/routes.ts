// The routes of letters and of the address book.

import type { FastifyInstance } from 'fastify';
import { mailingRoutes } from '@stellin/contract/mailing';
import { serve } from '../serve';
import type { Mailing } from './service';

const DONE = { done: true as const };

export function mailingRoutesFor(app: FastifyInstance, mailing: Mailing): void {
  serve(app, mailingRoutes.listContacts, async () => ({ contacts: await mailing.contacts() }));
  serve(app, mailingRoutes.keepContact, async ({ body }) => {
    await mailing.keepContact(body);
    return DONE;
  });
  serve(app, mailingRoutes.removeContacts, async ({ body }) => {
    await mailing.removeContacts(body.ids);
    return DONE;
  });
  serve(app, mailingRoutes.sendLetter, async ({ body, person }) => ({ id: await mailing.send(body, person) }), {
    records: 'mailed',
  });
  serve(app, mailingRoutes.listLetters, ({ person }) => mailing.list(person));
  serve(app, mailingRoutes.retryLetters, async ({ body, person }) => {
    await mailing.retry(body.ids, person);
    return DONE;
  });
  serve(app, mailingRoutes.stopLetters, async ({ body, person }) => {
    await mailing.stop(body.ids, person);
    return DONE;
  });
  serve(app, mailingRoutes.mailBox, async ({ person }) => ({ messages: await mailing.box(person) }));
}
