// Live changes: the server tells which topics have changed, and what is shown of them is read anew. Query keys begin with
// the name of their topic.

import type { QueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { SESSION_KEY } from './session';
import { EVENTS_PATH, liveEvent, TOPICS } from '@stellin/contract/events';

/** Keeps what is shown up to date while signed in. */
export function useLiveChanges(client: QueryClient): void {
  useEffect(() => {
    const source = new EventSource(EVENTS_PATH);
    let lost = false;
    source.onmessage = ({ data }: MessageEvent<string>) => {
      const event = liveEvent.safeParse(JSON.parse(data));
      if (!event.success) return;
      for (const topic of event.data.topics) void client.invalidateQueries({ queryKey: [topic] });
      if (event.data.topics.includes('accounts')) void client.invalidateQueries({ queryKey: SESSION_KEY });
    };
    source.onerror = () => {
      lost = true;
      // It may have ended because the session has.
      void client.invalidateQueries({ queryKey: SESSION_KEY });
    };
    source.onopen = () => {
      // What happened while the connection was lost is not known.
      if (lost) for (const topic of TOPICS) void client.invalidateQueries({ queryKey: [topic] });
      lost = false;
    };
    return () => source.close();
  }, [client]);
}
