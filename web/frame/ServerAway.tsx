// Said while something that is shown could not be read because the server is away or failed: no place is then empty without a
// word, and what was typed stays where it is.

import { useQueryClient, type Query } from '@tanstack/react-query';
import { useSyncExternalStore } from 'react';
import { ApiError } from '../foundation/api';
import { Failure } from '../parts/Queried';

const isAway = (query: Query) =>
  query.state.error instanceof ApiError && ['unreachable', 'unexpected'].includes(query.state.error.code);

export function ServerAway() {
  const client = useQueryClient();
  const cache = client.getQueryCache();
  const failed = () => cache.findAll({ type: 'active', predicate: isAway });
  const message = useSyncExternalStore(
    (changed) => cache.subscribe(changed),
    () => failed()[0]?.state.error?.message,
  );
  if (message === undefined) return null;
  return (
    <Failure
      error={new Error(`${message} What is shown may be old; what you typed is still there.`)}
      onRetry={() => void client.refetchQueries({ type: 'active', predicate: isAway })}
      className="rounded-none px-4"
    />
  );
}
