// Calling the routes of the contract. Answers are checked against the contract; errors are those the server words.

import type { z } from 'zod';
import { errorBody, type Route } from '@stellin/contract/route';

/** An error that the server answered with, or that it could not be reached. */
export class ApiError extends Error {
  constructor(
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}

type Part<Name extends string, Schema extends z.ZodType> =
  undefined extends z.input<Schema> ? { [Key in Name]?: z.input<Schema> } : { [Key in Name]: z.input<Schema> };
type Input<R extends Route> = Part<'params', R['params']> & Part<'query', R['query']> & Part<'body', R['body']>;

/** Calls a route with its parameters, query and body. */
export async function call<R extends Route>(route: R, input: Input<R>): Promise<z.output<R['response']>> {
  const { params, query, body } = input as {
    params?: Record<string, unknown>;
    query?: Record<string, unknown>;
    body?: unknown;
  };
  const path = route.path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(String(params?.[name])));
  const given = Object.entries(query ?? {}).filter(([, value]) => value !== undefined);
  const search = new URLSearchParams(given.map(([name, value]) => [name, String(value)])).toString();
  const response = await reach(search ? `${path}?${search}` : path, {
    method: route.method,
    ...(body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
  });
  return route.response.parse(await answerOf(response)) as z.output<R['response']>;
}

/** Sends a file as it is: it may be far larger than what is held in memory. Gives what the server answers. */
export async function upload(path: string, file: File): Promise<unknown> {
  return answerOf(
    await reach(path, { method: 'PUT', headers: { 'content-type': 'application/octet-stream' }, body: file }),
  );
}

/** Asks for a file, with a body that says which. Throws an ApiError when the server refuses. */
export async function fetchFile(path: string, body: unknown): Promise<Blob> {
  const headers = { 'content-type': 'application/json' };
  const response = await reach(path, { method: 'POST', headers, body: JSON.stringify(body) });
  if (!response.ok) await answerOf(response);
  return response.blob();
}

/** What a response says. Throws an ApiError when it refuses. */
async function answerOf(response: Response): Promise<unknown> {
  const answer: unknown = await response.json().catch(() => undefined);
  if (response.ok) return answer;
  const parsed = errorBody.safeParse(answer);
  throw parsed.success
    ? new ApiError(parsed.data.error.code, parsed.data.error.message)
    : new ApiError('unexpected', `The server answered with ${response.status}.`);
}

async function reach(path: string, init: RequestInit): Promise<Response> {
  try {
    return await fetch(path, init);
  } catch {
    throw new ApiError('unreachable', 'The server can’t be reached. Is Stellin still running?');
  }
}

/** The address of a photo's large picture, or of all its pixels; of several pages that of one, from 1. */
export function pictureUrl(photoId: number, version: number, size: 'large' | 'full', page = 1): string {
  return `/api/photos/${photoId}/picture?size=${size}&page=${page}&v=${version}`;
}

/** The address of a small picture of a face; with the version of its photo’s preview it is kept for long. */
export function faceUrl(faceId: number, version?: number): string {
  return `/api/faces/${faceId}/picture${version === undefined ? '' : `?v=${version}`}`;
}

/** The address of a photo's preview; a new version is a new address. */
export function previewUrl(photoId: number, version: number): string {
  return `/api/photos/${photoId}/preview?v=${version}`;
}
