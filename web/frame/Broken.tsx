// A screen that broke: what happened in words, and the ways on. The rest of the application goes on.

import { ErrorBoundary, type FallbackProps } from 'react-error-boundary';
import { useLocation } from 'react-router';
import type { ReactNode } from 'react';
import { Button } from '../parts/Button';

/** Catches what goes wrong while a screen is shown; going elsewhere begins anew. */
export function ScreenBoundary({ children }: { children: ReactNode }) {
  const { pathname } = useLocation();
  return (
    <ErrorBoundary FallbackComponent={Broken} resetKeys={[pathname]}>
      {children}
    </ErrorBoundary>
  );
}

function Broken({ error, resetErrorBoundary }: FallbackProps) {
  return (
    <div role="alert" className="m-8 max-w-140 rounded-md border border-line bg-card p-5">
      <h1 className="mb-2 font-title text-[19px] font-semibold">This screen broke</h1>
      <p>Nothing that was saved is lost. Try it again, or load the page anew; the other places go on working.</p>
      <p className="mt-2 font-mono text-[12px] break-words text-ink-2">
        {error instanceof Error ? error.message : String(error)}
      </p>
      <p className="mt-4 flex gap-2">
        <Button look="primary" onClick={resetErrorBoundary}>
          Try again
        </Button>
        <Button onClick={() => location.reload()}>Load the page anew</Button>
      </p>
    </div>
  );
}
