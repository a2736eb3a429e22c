// The finder index: what searches look at, of every photo, in columns and lists in memory. It is made from the catalogue, can
// be thrown away at any time, and says what core/search/evaluate.ts says.

import { DossierNames, type NamedDossier } from '../../dossiers/naming';
import type { State } from '../../query/criteria';
import { measuredOf, PEOPLE_TEXTS, pointOf, publicPeopleOf, saidOf } from '../said';
import { ListColumn, MeasureColumn, ValueColumn, type Part } from './columns';
import { Folders } from './folders';
import { FinderTerms } from './finderTerms';
import { ListedTexts, TextList, type ListedId } from './listedTexts';
import { PhotoSet } from './photoSet';
import { OrdinalLists, SetStorage } from './cache';
import { STATE_BITS, type ChangePart, type FolderFacts, type RowPart, type TextPart } from './records';
import { SingleTexts } from './singleTexts';
import { WordLists } from './wordLists';

/** Texts of which a photo has one at most, and whether many photos share one. */
const SINGLE = { name: false, caption: false, camera: true, lens: true, mark: true, kind: true, fixity: true } as const;
export type SingleId = keyof typeof SINGLE;

const LIVE = 1 << 20;
const NOT_SHOWN = STATE_BITS.trashed | STATE_BITS.removed;

/** Numbers that a photo’s texts and facts say, and all that are held; the hour is made of the time. */
const MEASURED = [
  'faces',
  'unnamed',
  'iso',
  'aperture',
  'exposure',
  'focal',
  'bitDepth',
  'duration',
  'pages',
  'frameRate',
  'bitRate',
  'channels',
  'sampleRate',
  'altitude',
] as const;
const MEASURES = ['rating', 'accession', 'width', 'height', 'pixels', 'aspect', 'size', ...MEASURED] as const;
type MeasureId = (typeof MEASURES)[number];

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
  readonly listed = new ListedTexts((id) => id in SINGLE);
  /** What photos say of people, without private persons. */
  readonly publicPeople = new ListedTexts(() => false);
  readonly words = new WordLists();
  readonly measures = Object.fromEntries(MEASURES.map((id) => [id, new MeasureColumn()])) as Record<
    MeasureId,
    MeasureColumn
  >;
  readonly taken = { from: new MeasureColumn(), until: new MeasureColumn() };
  readonly added = new MeasureColumn();
  readonly changed = new MeasureColumn();
  readonly changers = new TextList();
  readonly position = { latitude: new MeasureColumn(), longitude: new MeasureColumn() };
  readonly folder = new ValueColumn();
  readonly flags = new ValueColumn();
  readonly disagreeing = new ValueColumn();
  /** 1 where a caption is so long that words of it may not be among the words. */
  readonly longCaption = new ValueColumn();
  readonly foldedInto = new ValueColumn();
  readonly bundle = new ValueColumn();
  /** Tells pictures apart. */
  readonly picture = new SingleTexts(true);
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
   * What the index says of photos, as parts that can be cloned or written down. Each is a copy, which later changes leave as it is.
   * Folders, dossiers and the vocabulary are not among them: they are read anew.
   */
  *saved(): Generator<readonly [name: string, part: unknown]> {
    for (const [name, part] of Object.entries(this.parts())) yield [name, part.saved(this.size)] as const;
  }

  /** Takes what `saved` gave of photos that are not in the index yet; they come behind those that are. */
  append(saved: ReadonlyMap<string, unknown>): void {
    const at = this.size;
    for (const [name, part] of Object.entries(this.parts())) {
      if (!saved.has(name)) throw new Error(`what was kept of the index lacks ${name}`);
      part.append(saved.get(name), at);
    }
    this.size = at + (saved.get('ids') as Int32Array).length;
    this.moved = undefined;
    for (let ordinal = at; ordinal < this.size; ordinal++) this.ordinals.set(this.ids.get(ordinal), ordinal);
    this.version++;
  }

  /** All that is held of photos, by name. */
  private parts(): Record<string, Part<unknown>> {
    const { taken, position, ids, folder, flags, disagreeing, longCaption, foldedInto, bundle } = this;
    const { words, listed, publicPeople, changers, picture, added, changed, termIds, dossierIds } = this;
    return {
      ...this.single,
      ...this.measures,
      ...{ words, listed, publicPeople, changers, picture, termIds, dossierIds, added, changed },
      ...{ takenFrom: taken.from, takenUntil: taken.until, latitude: position.latitude, longitude: position.longitude },
      ...{ ids, folder, flags, disagreeing, longCaption, foldedInto, bundle },
    };
  }

  /** The ordinal of a photo, -1 when the index does not have it. */
  ordinalOf(id: number): number {
    return this.ordinals.get(id);
  }

  /** What photos say of a criterion, to somebody for whom private persons exist or do not. */
  textsOf(criterion: ListedId, knowsPrivate: boolean): TextList {
    const isOfPeople = (PEOPLE_TEXTS as readonly ListedId[]).includes(criterion);
    return (isOfPeople && !knowsPrivate ? this.publicPeople : this.listed).of(criterion);
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
    this.single.fixity.set(ordinal, row.fixity);
    this.single.mark.set(ordinal, row.mark);
    this.folder.set(ordinal, row.folderId);
    this.taken.from.set(ordinal, row.takenFrom);
    this.taken.until.set(ordinal, row.takenFrom === undefined ? undefined : (row.takenUntil ?? row.takenFrom + 1));
    this.added.set(ordinal, row.added);
    const { rating, accession, width, height, size } = row;
    this.measures.rating.set(ordinal, rating);
    this.measures.accession.set(ordinal, accession);
    this.measures.width.set(ordinal, width);
    this.measures.height.set(ordinal, height);
    this.measures.size.set(ordinal, size);
    const sized = width !== undefined && height !== undefined && height > 0;
    this.measures.pixels.set(ordinal, sized ? (width * height) / 1e6 : undefined);
    this.measures.aspect.set(ordinal, sized ? width / height : undefined);
    this.flags.set(ordinal, row.states | LIVE);
    this.foldedInto.set(ordinal, row.foldedInto ?? -1);
    this.bundle.set(ordinal, row.bundle ?? -1);
    this.picture.set(ordinal, row.pictureHash);
    this.version++;
    if (isNew || before !== this.orderedBy(ordinal)) this.noteMoved(ordinal);
  }

  setTexts(id: number, part: TextPart): void {
    const { caption, fields, facts, keywords, words, disagreeing, people, plans, done } = part;
    const ordinal = this.place(id);
    const said: Partial<Record<ListedId, readonly string[]>> = saidOf(fields, facts, people);
    this.single.caption.set(ordinal, caption);
    this.longCaption.set(ordinal, this.single.caption.lengthOf(ordinal) > MAX_WORD_LETTERS ? 1 : 0);
    this.single.camera.set(ordinal, said.camera?.[0] ?? '');
    this.single.lens.set(ordinal, said.lens?.[0] ?? '');
    said.keyword = keywords;
    said.plan = plans;
    said.done = done;
    if (facts.flashFired !== undefined) said.flash = [facts.flashFired ? 'yes' : 'no'];
    this.listed.set(ordinal, said);
    this.publicPeople.set(ordinal, publicPeopleOf(fields, people));
    this.words.set(ordinal, words);
    this.disagreeing.set(ordinal, disagreeing ? 1 : 0);
    const measured = measuredOf(fields, facts, people);
    for (const number of MEASURED) this.measures[number].set(ordinal, measured[number]);
    const position = pointOf(fields);
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
    this.changers.set(ordinal, by);
    this.version++;
  }

  /** Photos that somebody has changed once more; nobody by name if the program did. */
  noteChange(ids: readonly number[], by: string | undefined, at: number): void {
    for (const id of ids) {
      const ordinal = this.place(id);
      if (!(this.changed.get(ordinal) >= at)) this.changed.set(ordinal, at);
      if (by !== undefined) this.changers.add(ordinal, by);
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

  /** All photos, or those that are shown: which of them stand by themselves, and which behind the lead of a closed bundle. */
  apart(all: boolean): { alone: PhotoSet; behind: PhotoSet } {
    return this.kept(`apart ${all}`, () => {
      const set = all ? this.live() : this.shown();
      return { alone: set.copy().takeOut(this.folded()), behind: set.copy().keepOnly(this.folded()) };
    });
  }

  inState(state: State): PhotoSet {
    return this.kept(state, () => {
      if (state === 'away') return this.inFoldersMeeting(({ away }) => away, new PhotoSet(this.size));
      if (state === 'double') return this.doublesAmong(this.shown());
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

  /** The photos whose picture some photos have more than once. */
  doublesAmong(photos: PhotoSet): PhotoSet {
    const times = new Int32Array(this.picture.texts.table.size);
    photos.forEach((ordinal) => {
      const picture = this.picture.column.get(ordinal);
      if (picture >= 0) times[picture] = (times[picture] ?? 0) + 1;
    });
    return this.whose((ordinal) => (times[this.picture.column.get(ordinal)] ?? 0) > 1);
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

  /** What decides the places of a photo in orders. */
  private orderedBy(ordinal: number): string {
    const { name, kind } = this.single;
    const measured = [this.taken.from.get(ordinal), this.measures.rating.get(ordinal), this.measures.size.get(ordinal)];
    return `${name.column.get(ordinal)} ${kind.column.get(ordinal)} ${this.folder.get(ordinal)} ${this.bundle.get(ordinal)} ${this.flags.get(ordinal) & STATE_BITS.lead} ${measured.join(' ')}`;
  }

  private noteMoved(ordinal: number): void {
    if (this.moved && this.moved.size < MAX_MOVED) this.moved.add(ordinal);
    else this.moved = undefined;
  }
}

/** PostgreSQL keeps no words that are longer. */
const MAX_WORD_LETTERS = 500;

/** From this many moved photos on, an order is sorted from scratch: quicker than moving each. */
const MAX_MOVED = 200_000;
