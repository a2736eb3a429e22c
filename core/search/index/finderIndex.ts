// The finder index: what searches look at, of every photo, in columns and lists in memory. It is made from the catalogue, can
// be thrown away at any time, and says what core/search/evaluate.ts says.

import { DossierNames, type NamedDossier } from '../../dossiers/naming';
import type { NumberId, State } from '../criteria';
import { measuredOf, positionOf, saidOf } from '../said';
import { ListColumn, MeasureColumn, ValueColumn, type SavedLists } from './columns';
import { Folders } from './folders';
import { FinderTerms } from './finderTerms';
import { ListedTexts, type ListedId } from './listedTexts';
import { PhotoSet } from './photoSet';
import { OrdinalLists, SetStorage } from './remembering';
import { STATE_BITS, type ChangePart, type FolderFacts, type RowPart, type TextPart } from './records';
import { SingleTexts } from './singleTexts';
import { StringTable } from './strings';
import { WordLists } from './wordLists';

/** Texts of which a photo has one at most, and whether many photos share one. */
const SINGLE = { name: false, caption: false, camera: true, lens: true, mark: true, kind: true } as const;
export type SingleId = keyof typeof SINGLE;

const LIVE = 1 << 20;
const NOT_SHOWN = STATE_BITS.trashed | STATE_BITS.removed;

/** What belongs together of the index. */
interface IndexPart {
  columns?: (ValueColumn | MeasureColumn)[];
  lists?: ListColumn[];
  texts?: StringTable[];
  maps?: Map<unknown, unknown>[];
}

interface SavedPart {
  columns?: (Int32Array | Float64Array)[];
  lists?: SavedLists[];
  texts?: string[][];
  maps?: Map<unknown, unknown>[];
}

const NO_LISTS: SavedLists = { offsets: new Int32Array(1), values: new Int32Array(0) };

export class FinderIndex {
  /** Raised with every change; what was found before may no longer be so. */
  version = 0;
  /** Ordinals below it are in use. */
  size = 0;

  readonly ids = new ValueColumn();
  readonly single = Object.fromEntries(
    Object.entries(SINGLE).map(([id, isShared]) => [id, new SingleTexts(isShared)]),
  ) as Record<SingleId, SingleTexts>;
  /** All other texts. */
  readonly listed = new ListedTexts();
  readonly words = new WordLists();
  readonly measures = new Map<NumberId, MeasureColumn>();
  readonly taken = { from: new MeasureColumn(), until: new MeasureColumn() };
  readonly added = new MeasureColumn();
  readonly changed = new MeasureColumn();
  readonly changers = { column: new ListColumn(), texts: new StringTable() };
  readonly position = { latitude: new MeasureColumn(), longitude: new MeasureColumn() };
  readonly folder = new ValueColumn();
  readonly flags = new ValueColumn();
  readonly disagreeing = new ValueColumn();
  /** 1 where a caption is so long that words of it may not be among the words. */
  readonly longCaption = new ValueColumn();
  readonly foldedInto = new ValueColumn();
  readonly bundle = new ValueColumn();
  readonly picture = { column: new ValueColumn(), texts: new StringTable() };
  readonly termIds = new ListColumn();
  readonly dossierIds = new ListColumn();
  readonly folders = new Folders();
  dossiers = new DossierNames([]);
  terms = FinderTerms.none();

  /** The memory of the sets that are found in the index. */
  readonly sets = new SetStorage();
  /** Facets ask for the same ordinals one after the other: those of results, and those of all photos that are not in a result. */
  readonly ordinalsOf = { results: new OrdinalLists(3), others: new OrdinalLists(2) };
  private readonly ordinals = new ValueColumn();
  /** Photos that may stand elsewhere in orders than when this was last asked for; undefined: too many to tell. */
  private moved: Set<number> | undefined = new Set();

  /**
   * What the index says of photos, as parts that can be cloned or written down; `restore` takes them. Each is a copy, which later
   * changes leave as it is. Folders, dossiers and the vocabulary are not among them: they are read anew.
   */
  *saved(): Generator<readonly [name: string, part: unknown]> {
    for (const [name, { columns, lists, texts, maps }] of Object.entries(this.parts())) {
      yield [
        name,
        {
          columns: columns?.map((column) => column.saved(this.size)),
          lists: lists?.map((list) => list.saved()),
          texts: texts?.map((table) => table.saved()),
          maps: maps?.map((map) => new Map<unknown, unknown>(map)),
        },
      ] as const;
    }
  }

  /** Takes what `saved` gave, into an index of which nothing is known yet. */
  restore(saved: ReadonlyMap<string, unknown>): void {
    const measures = (saved.get('measureNames') as { maps: Map<NumberId, number>[] } | undefined)?.maps[0];
    for (const id of measures?.keys() ?? []) this.measures.set(id, new MeasureColumn());
    const listed = (saved.get('listedNames') as { maps: Map<ListedId, number>[] } | undefined)?.maps[0];
    for (const id of listed?.keys() ?? []) this.listed.of(id);
    for (const [name, { columns, lists, texts, maps }] of Object.entries(this.parts())) {
      const part = saved.get(name) as SavedPart | undefined;
      if (!part) throw new Error(`what was kept of the index lacks ${name}`);
      columns?.forEach((column, i) => column.restore(part.columns?.[i] as never));
      lists?.forEach((list, i) => list.restore(part.lists?.[i] ?? NO_LISTS));
      texts?.forEach((table, i) => table.restore(part.texts?.[i] ?? []));
      maps?.forEach((map, i) => part.maps?.[i]?.forEach((value, key) => map.set(key, value)));
    }
    for (const texts of Object.values(this.single)) texts.restored();
    this.size = this.ids.values.length;
    for (let ordinal = 0; ordinal < this.size; ordinal++) this.ordinals.set(this.ids.get(ordinal), ordinal);
    this.version++;
  }

  /** All that is kept of photos, by name. */
  private parts(): Record<string, IndexPart> {
    const { single, words, changers, picture, taken, position, measures } = this;
    const listed = this.listed.entries();
    return {
      measureNames: { maps: [new Map([...measures.keys()].map((id) => [id, 0] as const))] },
      listedNames: { maps: [new Map(listed.map(([id]) => [id, 0] as const))] },
      ...Object.fromEntries(
        listed.map(([id, list]) => [
          `listed ${id}`,
          { lists: [list.column], texts: [list.texts], maps: [list.written] },
        ]),
      ),
      ...Object.fromEntries(
        Object.entries(single).map(([id, { column, texts, written }]) => [
          id,
          { columns: [column], texts: [texts], maps: [written] },
        ]),
      ),
      ...Object.fromEntries([...measures].map(([id, column]) => [`measure ${id}`, { columns: [column] }])),
      words: { lists: [words.column], texts: [words.letters, words.digits] },
      changers: { lists: [changers.column], texts: [changers.texts] },
      picture: { columns: [picture.column], texts: [picture.texts] },
      times: { columns: [taken.from, taken.until, this.added, this.changed] },
      position: { columns: [position.latitude, position.longitude] },
      numbers: {
        columns: [this.ids, this.folder, this.flags, this.disagreeing, this.longCaption, this.foldedInto, this.bundle],
      },
      terms: { lists: [this.termIds, this.dossierIds] },
    };
  }

  /** The ordinal of a photo, -1 when the index does not have it. */
  ordinalOf(id: number): number {
    return this.ordinals.get(id);
  }

  /** Gives photos their ordinals before anything is said of them: so lists are filled in their order, whichever part comes first. */
  reserve(ids: Iterable<number>): void {
    for (const id of ids) this.place(id);
  }

  setRow(id: number, row: RowPart): void {
    const ordinal = this.place(id);
    const isNew = this.flags.get(ordinal) < 0;
    const before = isNew ? '' : this.orderedBy(ordinal);
    this.single.name.set(ordinal, row.name);
    this.single.kind.set(ordinal, row.kind);
    this.single.mark.set(ordinal, row.mark);
    this.folder.set(ordinal, row.folderId);
    this.taken.from.set(ordinal, row.takenFrom);
    this.taken.until.set(ordinal, row.takenFrom === undefined ? undefined : (row.takenUntil ?? row.takenFrom + 1));
    this.added.set(ordinal, row.added);
    const { rating, accession, width, height, size } = row;
    this.setMeasure('rating', ordinal, rating);
    this.setMeasure('accession', ordinal, accession);
    this.setMeasure('width', ordinal, width);
    this.setMeasure('height', ordinal, height);
    this.setMeasure('size', ordinal, size);
    const sized = width !== undefined && height !== undefined && height > 0;
    this.setMeasure('pixels', ordinal, sized ? (width * height) / 1e6 : undefined);
    this.setMeasure('aspect', ordinal, sized ? width / height : undefined);
    this.flags.set(ordinal, row.states | LIVE);
    this.foldedInto.set(ordinal, row.foldedInto ?? -1);
    this.bundle.set(ordinal, row.bundle ?? -1);
    this.picture.column.set(ordinal, row.pictureHash === '' ? -1 : this.picture.texts.add(row.pictureHash));
    this.version++;
    if (isNew || before !== this.orderedBy(ordinal)) this.noteMoved(ordinal);
  }

  setTexts(id: number, { caption, fields, facts, keywords, words, disagreeing, people }: TextPart): void {
    const ordinal = this.place(id);
    const { camera, lens, ...said } = saidOf(fields, facts, people);
    this.single.caption.set(ordinal, caption);
    this.longCaption.set(ordinal, this.single.caption.lengthOf(ordinal) > LONG ? 1 : 0);
    this.single.camera.set(ordinal, camera?.[0] ?? '');
    this.single.lens.set(ordinal, lens?.[0] ?? '');
    this.listed.set(ordinal, {
      ...said,
      keyword: keywords,
      ...(facts.flashFired === undefined ? {} : { flash: [facts.flashFired ? 'yes' : 'no'] }),
    });
    this.words.set(ordinal, words);
    this.disagreeing.set(ordinal, disagreeing ? 1 : 0);
    const measured = measuredOf(fields, facts, people);
    for (const number of [
      'faces',
      'unnamed',
      'iso',
      'aperture',
      'exposure',
      'focal',
      'bitDepth',
      'duration',
      'altitude',
    ] as const)
      this.setMeasure(number, ordinal, measured[number]);
    const position = positionOf(facts);
    this.position.latitude.set(ordinal, position?.latitude);
    this.position.longitude.set(ordinal, position?.longitude);
    this.version++;
  }

  setTerms(id: number, termIds: readonly number[]): void {
    const ordinal = this.place(id);
    this.termIds.set(ordinal, termIds);
    this.version++;
  }

  /** A term that was given to photos. */
  giveTerm(ids: readonly number[], termId: number): void {
    for (const id of ids) {
      const ordinal = this.place(id);
      const known = this.termIds.get(ordinal);
      if (!known.includes(termId)) this.termIds.set(ordinal, [...known, termId]);
    }
    this.version++;
  }

  /** A term that was taken from photos. */
  takeTerm(ids: readonly number[], termId: number): void {
    for (const id of ids) {
      const ordinal = this.ordinalOf(id);
      if (ordinal < 0) continue;
      const known = this.termIds.get(ordinal);
      if (known.includes(termId)) {
        this.termIds.set(
          ordinal,
          known.filter((each) => each !== termId),
        );
      }
    }
    this.version++;
  }

  setDossiers(id: number, dossierIds: readonly number[]): void {
    const ordinal = this.place(id);
    this.dossierIds.set(ordinal, dossierIds);
    this.version++;
  }

  setChanges(id: number, { by, at }: ChangePart): void {
    const ordinal = this.place(id);
    this.changed.set(ordinal, at);
    this.changers.column.set(
      ordinal,
      by.map((name) => this.addChanger(name)),
    );
    this.version++;
  }

  /** Photos that somebody has changed once more; nobody by name if the program did. */
  noteChange(ids: readonly number[], by: string | undefined, at: number): void {
    const changer = by === undefined ? undefined : this.addChanger(by);
    for (const id of ids) {
      const ordinal = this.place(id);
      const before = this.changed.get(ordinal);
      if (!(before >= at)) this.changed.set(ordinal, at);
      if (changer === undefined) continue;
      const known = this.changers.column.get(ordinal);
      if (!known.includes(changer)) this.changers.column.set(ordinal, [...known, changer]);
    }
    this.version++;
  }

  /** A photo that is no longer in the catalogue. */
  remove(id: number): void {
    const ordinal = this.ordinalOf(id);
    if (ordinal < 0) return;
    this.flags.set(ordinal, 0);
    this.version++;
  }

  setFolders(folders: Iterable<FolderFacts>): void {
    for (const folder of folders) this.folders.set(folder);
    this.version++;
  }

  setDossierFacts(dossiers: readonly NamedDossier[]): void {
    this.dossiers = new DossierNames(dossiers);
    this.version++;
  }

  setVocabulary(terms: FinderTerms): void {
    this.terms = terms;
    this.version++;
  }

  /** Which photos may stand elsewhere in orders since this was last asked; undefined for more than is worth telling. */
  takeMoved(): ReadonlySet<number> | undefined {
    const { moved } = this;
    this.moved = new Set();
    return moved;
  }

  /** A set for what is found, see `SetStorage`. */
  empty(): PhotoSet {
    return this.sets.empty(this.size);
  }

  /** All photos of the catalogue. */
  live(): PhotoSet {
    return this.kept('live', () => this.withFlags(LIVE, 0));
  }

  /** Those that are neither in the trash nor taken out. */
  shown(): PhotoSet {
    return this.kept('shown', () => this.withFlags(LIVE, NOT_SHOWN));
  }

  /** Those that stand behind the lead of a closed bundle. */
  folded(): PhotoSet {
    return this.kept('folded', () => this.foldedInto.havingAny(new PhotoSet(this.size)));
  }

  inState(state: State): PhotoSet {
    return this.kept(state, () => {
      if (state === 'away') return this.inFoldersMeeting(({ away }) => away, new PhotoSet(this.size));
      if (state === 'double') return this.doubles();
      if (state === 'disagreeing') return this.whose((ordinal) => this.disagreeing.get(ordinal) === 1);
      return this.withFlags(LIVE | STATE_BITS[state], 0);
    });
  }

  /** The photos in some folders. */
  inFolders(ids: readonly number[], found = this.empty()): PhotoSet {
    return this.folder.having(ids, found);
  }

  /** The photos in folders that meet a test. */
  inFoldersMeeting(test: (folder: FolderFacts) => boolean, found = this.empty()): PhotoSet {
    const ids: number[] = [];
    for (const folder of this.folders.all()) if (test(folder)) ids.push(folder.id);
    return this.inFolders(ids, found);
  }

  private doubles(): PhotoSet {
    const seen = new Int32Array(this.picture.texts.size);
    const shown = this.shown();
    shown.forEach((ordinal) => {
      const picture = this.picture.column.get(ordinal);
      if (picture >= 0) seen[picture] = (seen[picture] ?? 0) + 1;
    });
    return this.whose((ordinal) => (seen[this.picture.column.get(ordinal)] ?? 0) > 1);
  }

  /** The photos whose ordinal meets a test. */
  private whose(test: (ordinal: number) => boolean): PhotoSet {
    const found = new PhotoSet(this.size);
    for (let ordinal = 0; ordinal < this.size; ordinal++) if (test(ordinal)) found.add(ordinal);
    return found;
  }

  /** Photos that have all of some flags and none of others. */
  private withFlags(all: number, none: number): PhotoSet {
    const found = new PhotoSet(this.size);
    const { values } = this.flags;
    const mask = all | none;
    for (let ordinal = 0; ordinal < this.size; ordinal++) {
      const flags = values[ordinal] ?? 0;
      if (flags > 0 && (flags & mask) === all) found.add(ordinal);
    }
    return found;
  }

  /** What is made once until something changes, by name. It is not to be altered. */
  kept<Value>(name: string, make: () => Value): Value {
    if (this.keptVersion !== this.version) {
      this.keptVersion = this.version;
      this.keptValues.clear();
    }
    if (!this.keptValues.has(name)) this.keptValues.set(name, make());
    // What a name stands for is always made by the same function.
    return this.keptValues.get(name) as Value;
  }

  private readonly keptValues = new Map<string, unknown>();
  private keptVersion = -1;

  private place(id: number): number {
    const known = this.ordinalOf(id);
    if (known >= 0) return known;
    const ordinal = this.size++;
    this.ids.set(ordinal, id);
    this.ordinals.set(id, ordinal);
    return ordinal;
  }

  private addChanger(name: string): number {
    return this.changers.texts.add(name);
  }

  private setMeasure(id: NumberId, ordinal: number, value: number | undefined): void {
    let column = this.measures.get(id);
    if (!column) {
      if (value === undefined) return;
      column = new MeasureColumn();
      this.measures.set(id, column);
    }
    column.set(ordinal, value);
  }

  /** What decides the places of a photo in orders. */
  private orderedBy(ordinal: number): string {
    const { name, kind } = this.single;
    const measured = [
      this.taken.from.get(ordinal),
      this.measures.get('rating')?.get(ordinal),
      this.measures.get('size')?.get(ordinal),
    ];
    return `${name.column.get(ordinal)} ${kind.column.get(ordinal)} ${this.folder.get(ordinal)} ${this.bundle.get(ordinal)} ${this.flags.get(ordinal) & STATE_BITS.lead} ${measured.join(' ')}`;
  }

  private noteMoved(ordinal: number): void {
    if (this.moved && this.moved.size < MOST_MOVED) this.moved.add(ordinal);
    else this.moved = undefined;
  }
}

/** PostgreSQL keeps no words that are longer. */
const LONG = 500;

/** Beyond so many it is quicker to sort anew. */
const MOST_MOVED = 200_000;
