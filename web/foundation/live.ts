// Live changes: the server tells which topics have changed, and what is shown of them is read anew. Query keys begin with
// the name of their topic.

import type { QueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { EVENTS_PATH, liveEvent, TOPICS } from '@stellin/contract/events';

/** Keeps what is shown up to date while signed in. */
export function useLiveChanges(client: QueryClient): void {
  useEffect(() => {
    const source = new EventSource(EVENTS_PATH);
    let lost = false;
    source.onmessage = ({ data }: MessageEvent<string>) => {
      const event = liveEvent.safeParse(JSON.parse(data));
      if (event.success) for (const topic of event.data.topics) void client.invalidateQueries({ queryKey: [topic] });
    };
    source.onerror = () => (lost = true);
    source.onopen = () => {
      // What happened while the connection was lost is not known.
      if (lost) for (const topic of TOPICS) void client.invalidateQueries({ queryKey: [topic] });
      lost = false;
    };
    return () => source.close();
  }, [client]);
}
