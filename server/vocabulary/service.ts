// The vocabularies: columns, type-ahead, findings, and what changes to them would touch.

import {
  BY_USE,
  FINDING_KINDS,
  findingsOf,
  type Finding as Found,
  type FindingKind,
} from '@stellin/core/vocabulary/lint';
import { besideName, type Term } from '@stellin/core/vocabulary/term';
import type { TermTree } from '@stellin/core/vocabulary/tree';
import type { Change } from '@stellin/contract/ledger';
import type { Finding, FoundTerm, TermRow, Vocabulary as VocabularyFacts } from '@stellin/contract/vocabulary';
import type { Person, Viewer } from '../catalogue/viewer';
import type { Database, Transaction } from '../database/database';
import type { AfterChange } from '../ledger/service';
import type { Search } from '../search/service';
import type { WriteBack } from '../writeback/service';
import { cardOf, proposalsOf, usesOf, type TermCounter } from './card';
import { keepDerived } from './derived';
import { compareKept, keepImport, writeVocabulary } from './exchange';
import { impactOf } from './impact';
import { listIncoming, type PersonsCalled } from './incoming';
import { nameOf } from './naming';
import { listPads } from './pads';
import type { Snapshot, VocabularyIndex } from '../catalogue/vocabularySnapshot';
import { readVersion } from '../catalogue/terms';
import * as store from './store';
import { recentTerms, suggestTerms } from './suggesting';
import { givenByAnybody, termsByMonth } from './suggestingStore';
import type { Thinker } from './thinking';
import { historyOf, settledProposals } from './cardStore';
import { touchesTerms } from './derivedStore';
import { settleKnown } from './incomingStore';

const GROWTH_MONTHS = 12;
const GIVEN_TERMS = 12;

/** Findings about several terms of which one is to stay. */
const SORTED_BY_USE: ReadonlySet<FindingKind> = new Set(['near', 'alternative']);

export type Vocabulary = ReturnType<typeof vocabularyService>;

export function vocabularyService(
  database: Database,
  index: VocabularyIndex,
  search: Search,
  writeBack: WriteBack,
  thinker: Thinker,
  personsCalled: PersonsCalled,
) {
  // One closure for what its functions share; each of them fits a screen.
  /** Findings that follow from the terms alone, by the version they were made of. */
  const kept: { version: number; findings: ReturnType<Thinker['doubt']> } = {
    version: 0,
    findings: Promise.resolve(new Map()),
  };

  const findings = async (
    kind: FindingKind,
    snapshot: Snapshot,
    uses: ReadonlyMap<number, number>,
  ): Promise<readonly Found[]> => {
    const { tree, relations, version } = snapshot;
    if (BY_USE.has(kind)) return findingsOf(kind, { tree, relations, photos: uses });
    if (kept.version !== version) {
      kept.version = version;
      kept.findings = thinker.doubt([...tree.all()], relations);
      // Asked for again, it is tried again.
      kept.findings.catch(() => (kept.version = 0));
    }
    // The one that more photos have comes first: it most likely stays.
    const byUse = (ids: readonly number[]) => [...ids].sort((a, b) => (uses.get(b) ?? 0) - (uses.get(a) ?? 0) || a - b);
    const found = (await kept.findings).get(kind) ?? [];
    return SORTED_BY_USE.has(kind) ? found.map((one) => ({ ...one, termIds: byUse(one.termIds) })) : found;
  };

  return {
    incoming: (request: Parameters<typeof listIncoming>[2]) => listIncoming(database, index, request, personsCalled),
    /** Makes keywords known, so that changes can record them. */
    noteIncoming: (keywords: readonly string[], tx: Transaction) => store.noteIncoming(database, keywords, tx),
    /** Applies what was decided about incoming keywords to files that were just read. */
    afterReading: (photoIds: readonly number[], tx: Transaction) => settleKnown(database, photoIds, tx),
    /** Keeps what follows from the terms right after each change. */
    afterChange: ((entryId, tx) => keepDerived(database, writeBack, entryId, tx)) satisfies AfterChange,
    /** Keeps others from changing vocabularies while a change to them is taken back. */
    beforeReverse: (async (entryId, tx) => {
      if (await touchesTerms(database, entryId, tx)) await readVersion(database, tx, true);
    }) satisfies AfterChange,

    async overview(viewer: Viewer) {
      const snapshot = await index.current();
      const uses = await store.directUses(database);
      const counts: [FindingKind, number][] = [];
      // What is wrong with terms is found by their photos, too.
      for (const kind of viewer.sight === null ? FINDING_KINDS : [])
        counts.push([kind, (await findings(kind, snapshot, uses)).length]);
      return {
        vocabularies: factsOf(snapshot),
        findings: { ...NO_FINDINGS, ...Object.fromEntries(counts) },
        proposals: proposedIn(snapshot.tree),
      };
    },

    /** The terms directly below one (those elsewhere in the tree that it is a further broader term of at the end), or the top terms. */
    async column(parentId: number | null, viewer: Viewer): Promise<TermRow[]> {
      const { tree } = await index.current();
      const below = tree.narrower(parentId);
      const elsewhere = parentId === null ? [] : tree.alsoNarrower(parentId);
      const rows = await rowsOf(tree, [...below, ...elsewhere], viewer);
      return rows.map((row, i) => ({ ...row, elsewhere: i >= below.length }));
    },

    async find(text: string, assignable: boolean, limit: number, viewer: Viewer): Promise<FoundTerm[]> {
      const { tree, finder } = await index.current();
      const isMeant = (term: Term) => !assignable || (!term.heading && !term.deprecated);
      const found = finder().find(text, limit, isMeant);
      const rows = await rowsOf(
        tree,
        found.flatMap(({ termId }) => tree.get(termId) ?? []),
        viewer,
      );
      return rows.map((row, i) => {
        const { label, from, to } = found[i] ?? { label: row.label, from: 0, to: 0 };
        return { ...row, path: nameOf(tree, row.id).path, found: label, from, to };
      });
    },

    /** All terms with how often they are given, each before its narrower ones. For programs; screens ask by column. */
    async list(): Promise<(Term & { photos: number; photosWithin: number })[]> {
      const [{ tree }, counts] = await Promise.all([index.current(), store.allCounts(database)]);
      return tree.preOrder().map((term) => {
        const { photos = 0, photosWithin = 0 } = counts.get(term.id) ?? {};
        return { ...term, photos, photosWithin };
      });
    },

    async findings(kind: FindingKind, limit: number): Promise<Finding[]> {
      const snapshot = await index.current();
      const { tree } = snapshot;
      const found = (await findings(kind, snapshot, await store.directUses(database))).slice(0, limit);
      const counts = await store.countsOf(
        database,
        found.flatMap(({ termIds }) => termIds),
      );
      return found.map(({ what, termIds }) => ({
        kind,
        what,
        terms: termIds.map((id) => ({
          ...nameOf(tree, id),
          photos: counts.get(id)?.photos ?? 0,
          heading: tree.get(id)?.heading ?? false,
        })),
      }));
    },

    card: (id: number, viewer: Viewer) => cardOf(database, index, id, countsFor(viewer)),
    uses: (id: number) => usesOf(database, index, id),
    history: (id: number) => historyOf(database, id),
    /** How many terms are proposed. */
    async countProposals(): Promise<number> {
      return proposedIn((await index.current()).tree);
    },

    async proposals(accountId: number) {
      const snapshot = await index.current();
      const [proposals, settled] = await Promise.all([
        proposalsOf(database, snapshot),
        settledProposals(database, accountId),
      ]);
      return { proposals, settled };
    },
    impact: (change: Change, accountId: number) => impactOf({ database, index, search, writeBack }, change, accountId),
    pads: (person: Person) => listPads(database, index, person),
    /** How the vocabularies have grown, and the terms that anybody gave last. */
    async growth() {
      const { tree } = await index.current();
      const [months, given] = await Promise.all([
        termsByMonth(database, GROWTH_MONTHS),
        givenByAnybody(database, GIVEN_TERMS * 2),
      ]);
      const known = given.filter(({ id }) => tree.get(id) !== undefined).slice(0, GIVEN_TERMS);
      return { terms: tree.size, months, given: known.map(({ id, at }) => ({ ...nameOf(tree, id), at })) };
    },
    recent: (accountId: number) => recentTerms(database, index, accountId),
    suggest: (selection: Parameters<typeof suggestTerms>[2]) => suggestTerms(database, index, selection),
    readImport: (file: Parameters<typeof keepImport>[2], accountId: number) =>
      keepImport(database, thinker, file, accountId),
    compareImport: (request: Parameters<typeof compareKept>[2], accountId: number) =>
      compareKept(database, index, request, accountId),
    write: (id: number, format: Parameters<typeof writeVocabulary>[3]) => writeVocabulary(index, thinker, id, format),
    /** Terms by name, with the labels above them, in the order of the tree. */
    async names(ids: readonly number[]) {
      const { tree } = await index.current();
      return ids.map((id) => nameOf(tree, id));
    },
  };

  /** How often terms are given, as somebody sees it: what is kept of it counts all photos. */
  function countsFor(viewer: Viewer): TermCounter {
    if (viewer.sight === null) return { of: (ids) => store.countsOf(database, ids), seesAll: true };
    return { of: (ids) => store.seenCountsOf(database, viewer, ids), seesAll: false };
  }

  async function rowsOf(tree: TermTree, terms: readonly Term[], viewer: Viewer): Promise<TermRow[]> {
    const counts = await countsFor(viewer).of(terms.map(({ id }) => id));
    return terms.map(({ id, parentId, vocabularyId, label, otherLabels, heading, status, deprecated, colour }) => ({
      ...{ id, parentId, vocabularyId, label, heading, deprecated, colour },
      also: besideName(otherLabels, viewer.language),
      proposed: status === 'proposed',
      narrower: tree.narrower(id).length + tree.alsoNarrower(id).length,
      elsewhere: false,
      photos: counts.get(id)?.photos ?? 0,
      photosWithin: counts.get(id)?.photosWithin ?? 0,
    }));
  }
}

const NO_FINDINGS = Object.fromEntries(FINDING_KINDS.map((kind) => [kind, 0])) as Record<FindingKind, number>;

function proposedIn(tree: Snapshot['tree']): number {
  let proposed = 0;
  for (const { status } of tree.all()) if (status === 'proposed') proposed++;
  return proposed;
}

function factsOf({ vocabularies, tree }: Snapshot): VocabularyFacts[] {
  const facts = new Map(vocabularies.map((vocabulary) => [vocabulary.id, { ...vocabulary, terms: 0, levels: 0 }]));
  const open = tree.narrower(null).map(({ id, vocabularyId }) => ({ id, vocabularyId, level: 1 }));
  for (let at = open.pop(); at; at = open.pop()) {
    const { vocabularyId, level } = at;
    const fact = facts.get(vocabularyId ?? 0);
    if (fact) {
      fact.terms++;
      fact.levels = Math.max(fact.levels, level);
    }
    open.push(...tree.narrower(at.id).map(({ id }) => ({ id, vocabularyId, level: level + 1 })));
  }
  return [...facts.values()];
}
