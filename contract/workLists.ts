// Work lists: what waits for somebody, walked through one by one, and given to people.

import { z } from 'zod';
import { LIST_GROUPS, THING_LIST_IDS } from '@stellin/core/workLists/lists';
import { photo, queryTextSchema } from './photos';
import { chosenId, dayOrNone, done, id, idParams, isoTime, route, text } from './route';

const listId = text.min(1).max(300);
const scope = queryTextSchema.default('').describe('Only photos that this finds');

/** How many photos a walk takes along at once. */
export const MAX_WALKED = 300;

const workList = z.object({
  id: z.string(),
  label: z.string(),
  note: z.string(),
  group: z.enum(LIST_GROUPS),
  query: z.string().describe('What finds what is left of it, within what is looked at'),
  photos: z.number(),
  done: z.number().describe('On it and done with'),
  trend: z.number().nullable().describe('By how many it has grown within a week; null: not known'),
});
export type WorkList = z.infer<typeof workList>;

const thingList = z.object({
  id: z.enum(THING_LIST_IDS),
  things: z.number(),
  trend: z.number().nullable(),
});
export type ThingList = z.infer<typeof thingList>;

export const giving = z.object({
  list: listId,
  query: queryTextSchema.describe('Within what; empty: the whole catalogue'),
  accountId: chosenId.describe('Who gets it'),
  note: text.trim().max(1000),
  due: dayOrNone.describe('Empty: no day is said'),
});
export type Giving = z.infer<typeof giving>;

const givenList = giving.extend({
  id: z.number(),
  label: z.string(),
  to: z.string(),
  mine: z.boolean().describe('Given to who asks'),
  by: z.string().nullable(),
  givenAt: isoTime,
  before: z.number().describe('How many were on it then'),
  left: z.number().nullable().describe('Null: the list is no longer there, or is done'),
  late: z.boolean(),
  doneAt: isoTime.nullable(),
});
export type GivenList = z.infer<typeof givenList>;

/** What becomes of a photo on a list. */
export const OUTCOMES = ['done', 'later', 'open'] as const;
export type Outcome = (typeof OUTCOMES)[number];

export const workListRoutes = {
  showWorkLists: route({
    method: 'GET',
    path: '/api/work-lists',
    access: 'see',
    shows: 'seen',
    summary: 'Lists of photos that wait for something, with how many',
    query: z.object({ query: scope }),
    response: z.object({ lists: z.array(workList) }),
  }),
  showThingLists: route({
    method: 'GET',
    path: '/api/work-lists/things',
    access: 'see',
    shows: 'seen',
    summary: 'What else waits for somebody: keywords, names, groups, doubts …, of what is theirs to settle',
    response: z.object({ lists: z.array(thingList) }),
  }),
  walkList: route({
    method: 'GET',
    path: '/api/work-lists/walk',
    access: 'see',
    shows: 'seen',
    summary: 'The photos of a list that are not done with, nor put off by who asks, the earliest taken first',
    query: z.object({
      list: listId,
      query: scope,
      limit: z.coerce.number().int().min(1).max(MAX_WALKED).default(MAX_WALKED),
    }),
    response: z.object({
      label: z.string(),
      query: z.string().describe('What finds the photos of the list, done with or not, within what is looked at'),
      photos: z.array(photo),
      left: z.number(),
      later: z.number().describe('Put off by who asks'),
    }),
  }),
  settleListed: route({
    method: 'POST',
    path: '/api/work-lists/photos',
    access: 'describe',
    shows: 'seen',
    summary: 'Say that a photo is done with on a list, put it off for oneself until tomorrow, or neither any more',
    body: z.object({ list: listId, photoId: id, outcome: z.enum(OUTCOMES) }),
    response: done,
  }),
  showGiven: route({
    method: 'GET',
    path: '/api/work-lists/given',
    access: 'see',
    shows: 'seen',
    summary: 'Lists that were given to who asks, or by them: what is open by its day, then what was done lately',
    response: z.object({ given: z.array(givenList), doneInAll: z.number().describe('Of those given to who asks') }),
  }),
  listWorkers: route({
    method: 'GET',
    path: '/api/work-lists/people',
    access: 'describe',
    shows: 'nothing',
    summary: 'To whom a list can be given',
    response: z.object({ people: z.array(z.object({ id: z.number(), name: z.string() })) }),
  }),
  giveList: route({
    method: 'POST',
    path: '/api/work-lists/given',
    access: 'describe',
    shows: 'seen',
    summary: 'Give a list to somebody',
    body: giving,
    response: done,
  }),
  endGiven: route({
    method: 'POST',
    path: '/api/work-lists/given/:id',
    access: 'see',
    shows: 'nothing',
    summary: 'Say that a list given to oneself, or by oneself, is done, or not; or take it back',
    params: idParams,
    body: z.object({ as: z.enum(['done', 'open', 'gone']) }),
    response: done,
  }),
};
