import { z } from 'zod';

/** What has changed; the browser reads anew what it shows of it. */
export const TOPICS = [
  'photos',
  'vocabulary',
  'searches',
  'dossiers',
  'describing',
  'marks',
  'people',
  'drives',
  'jobs',
  'writeBack',
  'ledger',
  'accessions',
] as const;
export type Topic = (typeof TOPICS)[number];

export const liveEvent = z.object({ topics: z.array(z.enum(TOPICS)), sequence: z.number().optional() });
export type LiveEvent = z.infer<typeof liveEvent>;

/** Served as server-sent events of the schema above. */
export const EVENTS_PATH = '/api/events';
