// The thread that holds the finder index: takes questions, answers each from an index that is up to date.

import { parentPort, workerData } from 'node:worker_threads';
import { Client } from 'pg';
import { messageOf } from '../errors';
import { answersOf } from './answers';
import type { FinderData } from './finder';
import { IndexFollower } from './indexFollower';
import type { Answer, Ask } from './questions';

/** While nobody asks, a snapshot is written from time to time: a process that is killed then has not much to read anew. */
const IDLE_MS = 60_000;
const SNAPSHOT_INTERVAL_MS = 30 * 60_000;

const data = workerData as FinderData;
const client = new Client({ connectionString: data.url, application_name: 'stellin finder' });
client.on('error', () => process.exit(1));
const connected = client.connect();
const follower = new IndexFollower(client, data);
let askedAt = 0;

async function answer({ number, name, given }: Ask): Promise<Answer> {
  askedAt = Date.now();
  try {
    await connected;
    await follower.upToDate();
    follower.finder.settle();
    const ask = answersOf(follower)[name] as (given: unknown) => unknown;
    return { number, answer: await ask(given) };
  } catch (error) {
    return { number, failure: error instanceof Error ? error.message : String(error) };
  }
}

/** It can be made anew at any time: that the disk is full, for instance, is told and does no harm. */
function writeSnapshot(): Promise<void> {
  return follower.writeSnapshot().catch((error: unknown) => {
    process.emitWarning(`the snapshot of the index was not written: ${messageOf(error)}`);
  });
}

setInterval(() => {
  const now = Date.now();
  const writtenAt = follower.snapshotWrittenAt;
  if (now - askedAt > IDLE_MS && (writtenAt === 0 || now - writtenAt > SNAPSHOT_INTERVAL_MS)) void writeSnapshot();
}, IDLE_MS).unref();

parentPort?.on('message', (message: Ask | 'close') => {
  if (message !== 'close') {
    void answer(message).then((reply) => parentPort?.postMessage(reply));
    return;
  }
  void writeSnapshot()
    // What was being written when it was closed may lack the last changes.
    .then(writeSnapshot)
    .then(() => client.end())
    .catch(() => undefined)
    .finally(() => process.exit(0));
});
