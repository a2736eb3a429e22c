// View links: pictures for people who have no account.

import { z } from 'zod';
import { LOOK_IDS } from '@stellin/core/delivering/gallery';
import { ANSWER_KINDS } from '@stellin/core/sharing/answers';
import { COLUMN_IDS } from '@stellin/core/delivering/columns';
import { originOf } from '@stellin/core/sharing/embedding';
import { LINK_STATES, type LinkState } from '@stellin/core/sharing/links';
import { SORTS } from '@stellin/core/search/sorts';
import { queryTextSchema, selection } from './photos';
import { done, day, id, idParams, isoTime, route, text } from './route';

/** Pictures that one link shows at most. */
export const MAX_SHARED = 5000;
/** Where pages that nobody has to sign in for are: the secret part of the address follows. */
export const LINK_PATH = '/v/';

const sort = z.enum(SORTS).default('taken');
export const linkSource = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('fixed'), selection, sort }).describe('The photos that are meant now'),
  z
    .object({ kind: z.literal('following'), query: queryTextSchema, sort })
    .describe('What a query finds whenever somebody looks'),
]);
export type LinkSource = z.infer<typeof linkSource>;

export const linkSettings = z.object({
  title: text.trim().min(1).max(200).default('Pictures'),
  words: text.max(2000).default('').describe('Below the title'),
  look: z.enum(LOOK_IDS).default('paper'),
  columns: z.array(z.enum(COLUMN_IDS)).max(40).default([]).describe('What is said below a picture besides its caption'),
  people: z.boolean().default(false).describe('With the names of people; those of private persons never'),
  terms: z.boolean().default(false),
  longEdge: z.number().int().min(400).max(2048).default(1600).describe('Of large pictures, in pixels'),
  watermark: text.max(200).default(''),
  downloads: z.boolean().default(false).describe('Large pictures may be taken as files'),
  map: z.boolean().default(false).describe('With where pictures were taken, on a map'),
  embedOn: z
    .array(
      z
        .string()
        .refine(
          (typed) => originOf(typed) !== undefined,
          'An address like https://museum.example, and nothing behind it.',
        ),
    )
    .max(20)
    .default([])
    .describe('Pages of others that may show it in a frame: their origins'),
  iiif: z.boolean().default(false).describe('Viewers of other houses may have its pictures (IIIF)'),
  tellAfter: z
    .number()
    .int()
    .min(1)
    .max(MAX_SHARED)
    .nullable()
    .default(null)
    .describe('Of one that follows: those to whom it was sent by mail are told when so many new pictures are there'),
  answers: z.boolean().default(false).describe('Who looks may say something of a picture'),
});
export type LinkSettings = z.infer<typeof linkSettings>;

/** Whether nobody has to be let in: pages and viewers of others keep no cookies of ours. */
export const isOpenToAll = ({ embedOn, iiif }: Pick<LinkSettings, 'embedOn' | 'iiif'>): boolean =>
  embedOn.length > 0 || iiif;

export const linkRequest = z
  .object({
    source: linkSource,
    settings: linkSettings,
    forWhom: text.trim().max(200).default('').describe('For our own lists only'),
    password: text.min(1).max(200).nullable().default(null),
    endsOn: day.nullable().default(null).describe('The last day on which it can be viewed'),
    mostViews: z.number().int().min(1).max(1_000_000).nullable().default(null),
  })
  .refine(
    ({ settings, password, mostViews }) => !isOpenToAll(settings) || (password === null && mostViews === null),
    'What others may show has no password, and no limit of viewings.',
  )
  .refine(
    ({ source, settings }) => !settings.iiif || source.kind === 'fixed',
    'Only fixed links have a manifest (IIIF).',
  );
export type LinkRequest = z.input<typeof linkRequest>;

export const viewLink = z.object({
  id: z.number(),
  title: z.string(),
  forWhom: z.string(),
  by: z.string(),
  madeAt: isoTime,
  follows: z.string().nullable().describe('The query that it follows; null: its photos are fixed'),
  photos: z.number().nullable().describe('Of a fixed one: how many it was made for'),
  hasPassword: z.boolean(),
  endsAt: isoTime.nullable(),
  mostViews: z.number().nullable(),
  views: z.number(),
  viewedAt: isoTime.nullable(),
  state: z.enum(Object.keys(LINK_STATES) as [LinkState, ...LinkState[]]),
});
export type ViewLink = z.infer<typeof viewLink>;

export const linkAnswer = z.object({
  id: z.number(),
  link: z.string().describe('The title of the link'),
  kind: z.enum(ANSWER_KINDS),
  text: z.string(),
  sender: z.string().describe('As they said themselves'),
  at: isoTime,
  photoId: z.number(),
  name: z.string().describe('Of the photo'),
  previewVersion: z.number(),
});
export type LinkAnswer = z.infer<typeof linkAnswer>;

/** The only time that the address is told: nobody keeps it but who made the link. */
const made = z.object({
  id: z.number(),
  address: z.string().describe('Whole, where it is settled how this server is reached from outside; else its path'),
});

export const sharingRoutes = {
  listLinks: route({
    method: 'GET',
    path: '/api/links',
    access: 'deliver',
    shows: 'seen',
    summary: 'The view links that somebody made; all for who administers',
    response: z.object({ links: z.array(viewLink) }),
  }),
  makeLink: route({
    method: 'POST',
    path: '/api/links',
    access: 'deliver',
    shows: 'seen',
    summary: 'Makes a view link; its address is told once',
    body: linkRequest,
    response: made,
  }),
  renewLink: route({
    method: 'POST',
    path: '/api/links/:id/renew',
    access: 'deliver',
    shows: 'seen',
    summary: 'Gives a view link a new address; the old one shows nothing from then on',
    params: idParams,
    response: made,
  }),
  listAnswers: route({
    method: 'GET',
    path: '/api/links/answers',
    access: 'deliver',
    shows: 'seen',
    summary: 'What people who looked at the links of somebody said, and nobody has settled; all for who administers',
    response: z.object({ answers: z.array(linkAnswer) }),
  }),
  settleAnswers: route({
    method: 'POST',
    path: '/api/links/answers',
    access: 'deliver',
    shows: 'seen',
    summary: 'Notes that answers were accepted or refused; accepting them is a change of its own',
    body: z.object({ ids: z.array(id).min(1).max(1000), accepted: z.boolean() }),
    response: done,
  }),
  revokeLinks: route({
    method: 'POST',
    path: '/api/links/revoke',
    access: 'deliver',
    shows: 'seen',
    summary: 'Ends view links for good, at once',
    body: z.object({ ids: z.array(id).min(1).max(1000) }),
    response: done,
  }),
};
