// What the server tells browsers as it happens: which topics have changed.

import { z } from 'zod';

interface TopicFacts {
  /** Whether a change of the ledger may touch it. */
  changes: boolean;
}

/** What the browser shows, by topic: told of one, it reads anew what it shows of it. */
const TOPIC_FACTS = {
  photos: { changes: true },
  vocabulary: { changes: true },
  searches: { changes: true },
  dossiers: { changes: true },
  describing: { changes: true },
  marks: { changes: true },
  accounts: { changes: false },
  onlookers: { changes: false },
  people: { changes: true },
  places: { changes: true },
  plans: { changes: true },
  writeBack: { changes: true },
  ledger: { changes: true },
  drives: { changes: false },
  jobs: { changes: false },
  accessions: { changes: false },
  backups: { changes: false },
  fixity: { changes: true },
  deliveries: { changes: true },
  mail: { changes: false },
  workLists: { changes: false },
} satisfies Record<string, TopicFacts>;

export type Topic = keyof typeof TOPIC_FACTS;
export const TOPICS = Object.keys(TOPIC_FACTS) as [Topic, ...Topic[]];
/** Those that a change of the ledger may touch. */
export const CHANGED_TOPICS: readonly Topic[] = TOPICS.filter((topic) => TOPIC_FACTS[topic].changes);

export const liveEvent = z.object({ topics: z.array(z.enum(TOPICS)), sequence: z.number().optional() });
export type LiveEvent = z.infer<typeof liveEvent>;

/** Served as server-sent events of the schema above. */
export const EVENTS_PATH = '/api/events';
