// The client of all queries and changes.

import { QueryClient } from '@tanstack/react-query';
import { ApiError } from './api';

/** `retries` is how often what could not reach the server is asked again before it is said. */
export function makeClient(retries = 2): QueryClient {
  return new QueryClient({
    defaultOptions: {
      // The server is on this machine or in the house: whether the browser believes in a network says nothing about it.
      queries: {
        networkMode: 'always',
        staleTime: 30_000,
        retry: (failures, error) => failures < retries && error instanceof ApiError && error.code === 'unreachable',
      },
      mutations: { networkMode: 'always' },
    },
  });
}
