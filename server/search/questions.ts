// What can be asked of the thread that holds the finder index.

import type { TextId } from '@stellin/core/query/criteria';
import type { FacetId } from '@stellin/core/search/facets';
import type { FoundEvent, Stretch } from '@stellin/core/search/index/calendar';
import type { ValueCount } from '@stellin/core/search/index/facets';
import type { Asked, FacetCounts, Order } from '@stellin/core/search/index/finder';
import type { MapCell, MapView, OnMap } from '@stellin/core/search/index/mapCells';
import type { Viewpoint } from '@stellin/core/search/viewpoint';
import type { SearchablePhoto } from '@stellin/core/search/photo';
import type { Query } from '@stellin/core/query/query';
import type { GroupBy } from '@stellin/core/search/sorts';

/** What the photos of a choice have, each photo counted for itself. */
export interface ChoiceDescription {
  photos: number;
  terms: [id: number, photos: number][];
  /** With narrower ones. */
  within: [id: number, photos: number][];
  keywords: { keyword: string; photos: number }[];
  drives: { id: string; label: string; away: boolean; photos: number }[];
}

export interface SeenPhoto {
  photo: SearchablePhoto;
  /** In the trash or out of the catalogue. */
  setAside: boolean;
  /** The name of the lead it stands behind. */
  lead: string | null;
}

/** By name; `from` says when and for whom it is asked. Saved searches in the queries are opened already. */
export interface Questions {
  /** Nothing but to have seen all that is committed by now. */
  follow: (given: object) => { photos: number };
  counts: (given: { queries: Query[]; from: Viewpoint }) => { photos: number; folded: number }[];
  /** How many photos a query narrowed by each of some parts shows. */
  countParts: (given: { query: Query; parts: Query[]; from: Viewpoint }) => number[];
  page: (given: { asked: Asked; order: Order; offset: number; limit: number; from: Viewpoint }) => number[];
  position: (given: { id: number; asked: Asked; order: Order; from: Viewpoint }) => number | undefined;
  groups: (given: {
    asked: Asked;
    order: Order;
    by: GroupBy;
    from: Viewpoint;
  }) => { key: string | null; count: number }[];
  facets: (given: {
    facets: { id: Exclude<FacetId, 'term'>; query: Query }[];
    limit: number;
    /** Folded; only values whose label has it. */
    containing: string;
    from: Viewpoint;
  }) => FacetCounts[];
  /** What photos say of a criterion of texts, the most frequent first. */
  texts: (given: {
    query: Query;
    criterion: TextId;
    containing: string;
    limit: number;
    from: Viewpoint;
  }) => ValueCount[];
  /** How many photos have each of some terms or a narrower one, in the order of the ids. */
  terms: (given: { query: Query; ids: number[]; from: Viewpoint }) => { counts: number[]; missing: number };
  /** What of a choice lies in a view of the map. */
  onMap: (given: { asked: Asked; view: MapView; from: Viewpoint }) => Omit<OnMap, 'cells'> & {
    cells: (MapCell & { id: number })[];
  };
  /** Which of some photos meet a query. */
  matching: (given: { query: Query; ids: number[]; from: Viewpoint }) => boolean[];
  describe: (given: { asked: Asked; mostKeywords: number; from: Viewpoint }) => ChoiceDescription;
  /** How many photos of a choice meet each of some queries, and the ids of the first. */
  within: (given: {
    asked: Asked;
    queries: Query[];
    most: number;
    from: Viewpoint;
  }) => { photos: number; first: number[] }[];
  timeSpan: (given: { query: Query; from: Viewpoint }) => { from: number; until: number } | undefined;
  overTime: (given: { query: Query; bounds: number[]; from: Viewpoint }) => { counts: number[]; missing: number };
  /** How many photos may be of each page of the calendar, and one of them; -1 for none. */
  calendar: (given: { query: Query; bounds: number[]; from: Viewpoint }) => { photos: number; id: number }[];
  /** The last events that begin in a stretch of time and have at least so many photos. */
  events: (given: { query: Query; stretch: Stretch; least: number; most: number; from: Viewpoint }) => (FoundEvent & {
    id: number;
  })[];
  /** A photo as searches see it, read anew; undefined when there is none, or none for who asks. */
  photo: (given: { id: number; from: Viewpoint }) => Promise<SeenPhoto | undefined>;
}

export type QuestionName = keyof Questions;

/** A question on its way to the thread, and its answer on the way back. */
export interface Ask {
  number: number;
  name: QuestionName;
  given: unknown;
}
export type Answer = { number: number; answer: unknown } | { number: number; failure: string };
