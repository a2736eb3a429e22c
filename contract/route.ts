// What a route is: the one description that the server serves, the interface calls and OpenAPI shows.

import { z } from 'zod';
import type { Permission } from '@stellin/core/accounts/permissions';

/** Who may call a route: everybody, whoever is signed in, or who has a permission. */
export type Access = 'public' | 'signedIn' | Permission;

/**
 * What of the catalogue an answer may speak of, or a call may touch.
 * `nothing`: no photo, person or file; `seen`: only what exists for who asks, who may have the permission in a part of the
 * catalogue; `all`: anything, so that only those may call it for whom everything exists.
 */
export type Shows = 'nothing' | 'seen' | 'all';

export interface Route<
  Params extends z.ZodType = z.ZodType,
  Query extends z.ZodType = z.ZodType,
  Body extends z.ZodType = z.ZodType,
  Response extends z.ZodType = z.ZodType,
> {
  method: 'GET' | 'POST' | 'DELETE';
  /** With `:name` for parameters. */
  path: string;
  access: Access;
  shows: Shows;
  summary: string;
  params: Params;
  query: Query;
  body: Body;
  response: Response;
}

const nothing = z.object({}).nullish();
type Nothing = typeof nothing;
/** The response of a route that has nothing to say. */
export const done = z.object({ done: z.literal(true) });

interface Definition<
  Params extends z.ZodType,
  Query extends z.ZodType,
  Body extends z.ZodType,
  Response extends z.ZodType,
> {
  method: Route['method'];
  path: string;
  access: Access;
  /** `all`, where nothing is said. */
  shows?: Shows;
  summary: string;
  params?: Params;
  query?: Query;
  body?: Body;
  response: Response;
}

/** Completes a route's description: parts left out take nothing. */
export function route<
  Response extends z.ZodType,
  Params extends z.ZodType = Nothing,
  Query extends z.ZodType = Nothing,
  Body extends z.ZodType = Nothing,
>(definition: Definition<Params, Query, Body, Response>): Route<Params, Query, Body, Response> {
  const { params, query, body, shows = 'all' } = definition;
  return {
    ...definition,
    shows,
    params: (params ?? nothing) as Params,
    query: (query ?? nothing) as Query,
    body: (body ?? nothing) as Body,
  };
}

/** Every error the API answers with. */
export const errorBody = z.object({
  error: z.object({
    code: z.string().describe('Stable, for programs'),
    message: z.string().describe('A sentence for a person'),
    details: z.unknown().optional(),
  }),
});

/** The largest number that PostgreSQL counts rows with (integer). */
const MAX_ID = 2 ** 31 - 1;
/** The number of a row. */
export const id = z.coerce.number().int().min(1).max(MAX_ID);
/** The same in a form, where it is a number already. */
export const chosenId = z.number().int().min(1).max(MAX_ID);
/** A place in a list, or how many rows. */
export const rowCount = z.coerce.number().int().min(0).max(MAX_ID);
/** A text that somebody gives. PostgreSQL has no text with a zero character, and halves of characters are none: both go. */
export const text = z.string().overwrite((given) => given.replaceAll('\0', '').toWellFormed());
/** A day of the calendar. */
export const day = text.regex(/^\d{4}-\d{2}-\d{2}$/);
export const idParams = z.object({ id });
export const isoTime = z.string().describe('ISO 8601 with zone');

/** A day as a person types it, or none: `2026-06-14`. */
export const dayOrNone = text.trim().regex(/^(\d{4}-\d{2}-\d{2})?$/, 'Write a day: 2026-06-14.');
