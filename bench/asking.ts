// Asking a running server over HTTP as somebody signed in, and timing it.

import { BENCH_ACCOUNT } from './catalogue';

/** Asks a path, or posts to it; gives the milliseconds until the whole answer was there. */
export type Ask = (path: string, body?: unknown) => Promise<number>;

export async function signedIn(
  url: string,
  { name, password }: { name: string; password: string } = BENCH_ACCOUNT,
): Promise<Ask> {
  const answer = await fetch(`${url}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name, password }),
  });
  const cookie = answer.headers.get('set-cookie')?.split(';')[0] ?? '';
  return async (path, body) => {
    const began = performance.now();
    const response = await fetch(url + path, {
      headers: { cookie, 'content-type': 'application/json' },
      ...(body === undefined ? {} : { method: 'POST', body: JSON.stringify(body) }),
    });
    const text = await response.text();
    if (!response.ok) throw new Error(`${path} answered with ${response.status}: ${text.slice(0, 200)}`);
    return performance.now() - began;
  };
}
