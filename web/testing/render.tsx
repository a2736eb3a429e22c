// Renders a part of the interface in a test, with a client of queries of its own and an address to be at. What it asks of the
// server is answered by a table of routes, held to the contract on both ways.

import { QueryClientProvider, type QueryClient } from '@tanstack/react-query';
import { configure, render, screen, type RenderResult } from '@testing-library/react';
import userEvent, { type UserEvent } from '@testing-library/user-event';
import { Tooltip } from 'radix-ui';
import type { ReactNode } from 'react';
import { MemoryRouter } from 'react-router';
import { PRESET_ROLES, type PresetRole } from '@stellin/core/accounts/permissions';
import type { SignedIn } from '@stellin/contract/accounts';
import { api } from '@stellin/contract/index';
import type { Route } from '@stellin/contract/route';
import { makeClient } from '../foundation/client';
import { KeysProvider } from '../foundation/useKeys';
import { PersonContext } from '../foundation/session';

// Machines that run several things at once may take their time.
configure({ asyncUtilTimeout: 10_000 });

/** What the server would answer, by the name of the route: a value, or what makes one of the request. */
export type Answers = Readonly<Partial<Record<keyof typeof api, unknown>>>;

export interface Asked {
  name: string;
  params: unknown;
  query: unknown;
  body: unknown;
}

/** Answers requests of the interface until the test ends; every request is kept in `asked`. */
export function answering(answers: Answers): Asked[] {
  const asked: Asked[] = [];
  globalThis.fetch = async (input, init) => {
    const url = new URL(String(input), 'http://localhost');
    const method = init?.method ?? 'GET';
    const fitting = Object.entries<Route>(api).flatMap(([name, route]) => {
      const values = new RegExp(`^${route.path.replace(/:(\w+)/g, '(?<$1>[^/]+)')}$`).exec(url.pathname);
      return route.method === method && values ? [{ name, route, params: values.groups }] : [];
    });
    // As the server does: an address as it stands goes before one with parameters.
    const found = fitting.find(({ route }) => route.path === url.pathname) ?? fitting[0];
    if (!found) throw new Error(`no route answers ${method} ${url.pathname}`);
    const { name, route } = found;
    const request = {
      name,
      params: route.params.parse(found.params),
      query: route.query.parse(Object.fromEntries(url.searchParams)),
      body: route.body.parse(typeof init?.body === 'string' ? JSON.parse(init.body) : undefined),
    };
    asked.push(request);
    if (!(name in answers))
      return respond(404, { error: { code: 'notFound', message: `The test does not answer ${name}.` } });
    const answer = answers[name as keyof Answers];
    const value: unknown =
      typeof answer === 'function' ? await (answer as (request: Asked) => unknown)(request) : answer;
    return value instanceof Refused
      ? respond(value.status, { error: { code: value.code, message: value.message } })
      : respond(200, route.response.parse(value));
  };
  return asked;
}

/** The changes that were asked for. */
export function changesIn(asked: readonly Asked[]): unknown[] {
  return asked.flatMap(({ name, body }) => (name === 'apply' ? [(body as { change: unknown }).change] : []));
}

/** An answer that refuses. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}

function respond(status: number, body: unknown): Response {
  return {
    ok: status < 400,
    status,
    json: () => Promise.resolve(body),
    text: () => Promise.resolve(JSON.stringify(body)),
  } as Response;
}

interface Stage {
  /** The address one is at. */
  at?: string;
  /** Who is signed in. */
  role?: PresetRole;
  /** In which language they like to read. */
  language?: string;
}

const personOf = (role: PresetRole): SignedIn => ({
  id: 1,
  name: role,
  displayName: role,
  role: PRESET_ROLES[role].label,
  permissions: [...PRESET_ROLES[role].permissions],
  everywhere: [...PRESET_ROLES[role].permissions],
  rights: '1',
  seesAll: role !== 'viewer',
  theme: null,
  language: null,
});

/** Renders with all that parts of the interface stand in. */
export function show(
  children: ReactNode,
  { at = '/', role = 'keeper', language }: Stage = {},
): RenderResult & { user: UserEvent; client: QueryClient } {
  const client = makeClient(0);
  const user = userEvent.setup();
  const person = { ...personOf(role), language: language ?? null };
  const shown = render(
    <QueryClientProvider client={client}>
      <Tooltip.Provider>
        <PersonContext value={person}>
          <MemoryRouter initialEntries={[at]}>
            <KeysProvider>{children}</KeysProvider>
          </MemoryRouter>
        </PersonContext>
      </Tooltip.Provider>
    </QueryClientProvider>,
  );
  return { ...shown, user, client };
}

/** Chooses by its label from a list that opens. */
export async function choose(user: UserEvent, list: HTMLElement, option: string): Promise<void> {
  await user.click(list);
  await user.click(await screen.findByRole('option', { name: option }));
}
