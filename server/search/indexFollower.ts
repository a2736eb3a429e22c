// The finder index of a catalogue: read from a snapshot on disk or from the tables, and kept up to what is committed. Works in
// a thread of its own (finder.worker.ts), but knows nothing of threads.

import { Client } from 'pg';
import { Finder } from '@stellin/core/search/index/finder';
import { FinderIndex } from '@stellin/core/search/index/finderIndex';
import { FinderTerms } from '@stellin/core/search/index/finderTerms';
import { loadVocabularies, type Snapshot as VocabularySnapshot } from '../catalogue/vocabularySnapshot';
import { rowsOver } from '../database/rowsOver';
import { currentSnapshot, deleteOldChanges, readChanges, type CommittedChange } from './changeFeed';
import type { FinderData } from './finder';
import { loadDossiers, loadFolders, loadIds, loadPart, type PartName, type PartOf } from './indexStore';
import { readSnapshot, writeSnapshot } from './snapshot';

/** Change rows older than this are deleted; an index that was idle for longer than an hour is rebuilt from the tables. */
const CHANGES_KEPT_HOURS = 2;
const MAX_IDLE_MS = 60 * 60 * 1000;
/** Parts of more photos than this are read over connections of their own, side by side. */
const PARALLEL_READ_THRESHOLD = 5000;
/** A part of more photos than this, and of more than half of them, is read whole. */
const FULL_RELOAD_THRESHOLD = 300_000;

/** Reads a part of some photos, or of all, into the index. */
type Take = (ids: readonly number[] | undefined, from: Client) => Promise<void>;

export class IndexFollower {
  index = new FinderIndex();
  finder = new Finder(this.index);

  /** What was committed before it is in the index, as PostgreSQL writes snapshots. */
  private snapshot: string | undefined;
  private vocabularyVersion = -1;
  private followedAt = 0;
  /** When a snapshot was written last; 0: never. */
  private writtenAt = 0;
  private hasChangedSince = false;
  /** The work that is under way, and the look after it that others wait for. */
  private busyWith: Promise<void> | undefined;
  private nextLook: Promise<void> | undefined;
  private writing: Promise<void> | undefined;

  /** `client` is connected and belongs to the index alone. */
  constructor(
    readonly client: Client,
    private readonly data: FinderData,
  ) {}

  /** When a snapshot was written last, in milliseconds since 1970; 0: never. */
  get snapshotWrittenAt(): number {
    return this.writtenAt;
  }

  /** Follows what was committed before the call: one who asks while others are being served waits for the next look. */
  upToDate(): Promise<void> {
    if (!this.busyWith) return this.busy(() => this.follow());
    return (this.nextLook ??= this.busyWith.then(() => {
      this.nextLook = undefined;
      return this.upToDate();
    }));
  }

  /**
   * Writes a snapshot of the index to disk, unless it is quick to make anew or the last one says the same. Who asks meanwhile
   * does not wait for the disk. Errors of the disk are passed on; the index goes on all the same.
   */
  writeSnapshot(): Promise<void> {
    return (this.writing ??= this.writeCopy().finally(() => (this.writing = undefined)));
  }

  private readonly takes: Record<PartName, Take> = {
    row: this.taking(
      'row',
      (id, row) => this.index.setRow(id, row),
      (id) => this.index.remove(id),
    ),
    texts: this.taking(
      'texts',
      (id, texts) => this.index.setTexts(id, texts),
      () => undefined,
    ),
    terms: this.taking(
      'terms',
      (id, terms) => this.index.setTerms(id, terms),
      (id) => this.index.setTerms(id, []),
    ),
    dossiers: this.taking(
      'dossiers',
      (id, dossiers) => this.index.setDossiers(id, dossiers),
      (id) => this.index.setDossiers(id, []),
    ),
    changes: this.taking(
      'changes',
      (id, changes) => this.index.setChanges(id, changes),
      (id) => this.index.setChanges(id, { by: [], at: undefined }),
    ),
  };

  /** Reads a part of photos; those that were asked for and have none lack it. */
  private taking<Name extends PartName>(
    name: Name,
    set: (id: number, part: PartOf<Name>) => void,
    lacks: (id: number) => void,
  ): Take {
    return async (ids, from) => {
      const seen = new Set<number>();
      await loadPart(from, name, ids, (id, part) => {
        set(id, part);
        if (ids) seen.add(id);
      });
      for (const id of ids ?? []) if (!seen.has(id) && this.index.ordinalOf(id) >= 0) lacks(id);
    };
  }

  private begin(): void {
    this.index = new FinderIndex();
    this.finder = new Finder(this.index);
    this.vocabularyVersion = -1;
  }

  /** Brings the index up to what is committed now. */
  private async follow(): Promise<void> {
    const isTooOld = this.snapshot !== undefined && Date.now() - this.followedAt > MAX_IDLE_MS;
    if (isTooOld || (!this.snapshot && !(await this.takeSnapshot()))) await this.rebuild();
    const startedAt = Date.now();
    const now = await readChanges(this.client, this.snapshot);
    if (now.vocabularyVersion !== this.vocabularyVersion) await this.takeVocabularies();
    await this.takeChanged(this.withoutDeltas(now.changes));
    this.snapshot = now.snapshot;
    this.followedAt = startedAt;
    this.hasChangedSince ||= now.changes.length > 0;
  }

  /** Fills the index from the snapshot on disk, if there is one that fits the catalogue as it is. */
  private async takeSnapshot(): Promise<boolean> {
    this.begin();
    const found = this.data.snapshot && (await readSnapshot(this.client, this.data.snapshot, this.index));
    if (!found) return false;
    this.index.setFolders(await loadFolders(this.client, undefined));
    this.index.setDossierFacts(await loadDossiers(this.client));
    this.snapshot = found.snapshot;
    this.writtenAt = Date.now();
    this.hasChangedSince = false;
    return true;
  }

  /** Reads all of the catalogue. */
  private async rebuild(): Promise<void> {
    this.begin();
    const snapshot = await currentSnapshot(this.client);
    this.index.setFolders(await loadFolders(this.client, undefined));
    this.index.setDossierFacts(await loadDossiers(this.client));
    this.index.reserve(await loadIds(this.client));
    await this.takeSideBySide(Object.values(this.takes).map((take) => [take, undefined]));
    // The order of the Desk is sorted before anybody waits for it.
    this.finder.page({ query: { kind: 'everything' } }, { id: 'taken', descending: true }, 0, 1, {
      today: '',
      sight: null,
      knowsPrivate: true,
    });
    this.snapshot = snapshot;
    this.hasChangedSince = true;
    await deleteOldChanges(this.client, CHANGES_KEPT_HOURS);
  }

  private async takeVocabularies(): Promise<void> {
    const { version, tree, names } = await this.readVocabularies();
    this.index.setVocabulary(new FinderTerms(tree, names()));
    this.vocabularyVersion = version;
  }

  private async readVocabularies(): Promise<VocabularySnapshot> {
    await this.client.query('begin isolation level repeatable read, read only');
    try {
      return await loadVocabularies(rowsOver(this.client));
    } finally {
      await this.client.query('commit');
    }
  }

  /** Takes over the changes that say all there is to know; returns what of the others has to be read, by part. */
  private withoutDeltas(changes: readonly CommittedChange[]): Map<CommittedChange['part'], Set<number>> {
    const left = new Map<CommittedChange['part'], Set<number>>();
    for (const change of changes) {
      if (this.takeDelta(change)) continue;
      const ids = left.get(change.part) ?? new Set<number>();
      for (const id of change.ids) ids.add(id);
      left.set(change.part, ids);
    }
    return left;
  }

  /** Takes over a change that says all there is to know; returns whether it does. */
  private takeDelta({ part, ids, termId, entry }: CommittedChange): boolean {
    if (part === 'given' && termId !== null) this.index.giveTerm(ids, termId);
    else if (part === 'taken' && termId !== null) this.index.takeTerm(ids, termId);
    else if (part === 'changes' && entry) this.index.noteChange(ids, entry.by ?? undefined, entry.at);
    else return false;
    return true;
  }

  /** Reads anew what has changed. It is at least as new as what the change feed told by itself. */
  private async takeChanged(changed: ReadonlyMap<CommittedChange['part'], ReadonlySet<number>>): Promise<void> {
    const { client, index } = this;
    if (changed.has('drives')) index.setFolders(await loadFolders(client, undefined));
    else if (changed.has('folders')) index.setFolders(await loadFolders(client, [...(changed.get('folders') ?? [])]));
    if (changed.has('dossierFacts')) index.setDossierFacts(await loadDossiers(client));
    const parts = Object.entries(this.takes).flatMap(([part, take]) => {
      const ids = changed.get(part as PartName);
      if (!ids) return [];
      const isWhole = ids.size > FULL_RELOAD_THRESHOLD && ids.size > index.size / 2;
      return [[take, isWhole ? undefined : [...ids]] as const];
    });
    if (parts.some(([, ids]) => !ids || ids.length > PARALLEL_READ_THRESHOLD)) await this.takeSideBySide(parts);
    else for (const [take, ids] of parts) await take(ids, client);
    for (const id of changed.get('gone') ?? []) index.remove(id);
  }

  /** Over several connections, so that the database works while what it gave is put in. */
  private async takeSideBySide(
    parts: readonly (readonly [take: Take, ids: readonly number[] | undefined])[],
  ): Promise<void> {
    const clients = await Promise.all(parts.map(() => this.connect()));
    try {
      await Promise.all(parts.map(([take, ids], i) => take(ids, clients[i] ?? this.client)));
    } finally {
      await Promise.all(clients.map((each) => each.end()));
    }
  }

  private async connect(): Promise<Client> {
    const client = new Client({ connectionString: this.data.url, application_name: 'stellin finder' });
    // Who asks over it is told by the answer; unheard it would end the thread.
    client.on('error', () => undefined);
    await client.connect();
    return client;
  }

  private async writeCopy(): Promise<void> {
    const target = this.data.snapshot;
    const copy = await this.alone(() => Promise.resolve(this.copyOfIndex()));
    if (!target || !copy) return;
    try {
      // A connection of its own, since others are in use for what is asked.
      const client = await this.connect();
      try {
        await writeSnapshot(client, target, copy.parts, copy);
        await deleteOldChanges(client, CHANGES_KEPT_HOURS);
      } finally {
        await client.end();
      }
    } catch (error) {
      this.hasChangedSince = true;
      throw error;
    }
  }

  /** What is to be written, and of which snapshot of the database it is. */
  private copyOfIndex() {
    const { snapshot: target } = this.data;
    if (!target || !this.snapshot || this.index.size < target.fromPhotos || !this.hasChangedSince) return undefined;
    this.writtenAt = Date.now();
    this.hasChangedSince = false;
    return { parts: [...this.index.saved()], snapshot: this.snapshot, at: new Date(this.followedAt) };
  }

  /** Whoever wants the index to follow waits for this work. */
  private busy<Result>(work: () => Promise<Result>): Promise<Result> {
    const result = work();
    const ended = () => {
      if (this.busyWith === running) this.busyWith = undefined;
    };
    // Whether it went well is told to the one who began it.
    const running: Promise<void> = result.then(ended, ended);
    this.busyWith = running;
    return result;
  }

  /** Does something while the index stays as it is. */
  private alone<Result>(work: () => Promise<Result>): Promise<Result> {
    const before = this.busyWith;
    return this.busy(async () => {
      await before;
      return work();
    });
  }
}
