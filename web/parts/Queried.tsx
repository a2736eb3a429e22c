// What is read from the server, in its three states: pending, failed (with the way to try again) and there. A query that
// failed is never an empty place.

import { RotateCw } from 'lucide-react';
import type { ReactNode } from 'react';
import { Button } from './Button';

interface FailureProps {
  error: Error;
  onRetry: () => void;
  className?: string;
}

/** Why something could not be read, and the way to try again. */
export function Failure({ error, onRetry, className = '' }: FailureProps) {
  return (
    <p
      role="alert"
      className={`flex flex-wrap items-center gap-3 rounded bg-red-pale px-2.5 py-1.5 text-red ${className}`}
    >
      {error.message}
      <Button onClick={onRetry}>
        <RotateCw size={14} /> Try again
      </Button>
    </p>
  );
}

interface FailedProps {
  query: { data: unknown; error: Error | null; refetch: () => Promise<unknown> };
  className?: string;
}

/** What a query could not bring, where the rest of the place stands without it; nothing while it is there or on its way. */
export function Failed({ query: { data, error, refetch }, className = 'mt-3' }: FailedProps) {
  return error && data === undefined ? (
    <Failure error={error} onRetry={() => void refetch()} className={className} />
  ) : null;
}

interface Props<Data> {
  query: { data: Data | undefined; error: Error | null; refetch: () => Promise<unknown> };
  /** Shown until it is there; nothing if not given, for what comes at once. */
  pending?: ReactNode;
  className?: string;
  children: (data: Data) => ReactNode;
}

/** Shows what a query brings; what was read before stays while it is read anew, also when that fails. */
export function Queried<Data>({ query, pending = null, className = 'm-3', children }: Props<Data>) {
  const { data, error, refetch } = query;
  if (data !== undefined) return <>{children(data)}</>;
  return error ? <Failure error={error} onRetry={() => void refetch()} className={className} /> : <>{pending}</>;
}
