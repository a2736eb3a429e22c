// A photo as searches see it, put together from the parts that the finder index is told.

import type { State } from '../query/criteria';
import {
  STATE_BITS,
  type ChangePart,
  type FolderFacts,
  type RowPart,
  type RowState,
  type TextPart,
} from './index/records';
import { KIND_FACTS, type FileKind } from '../metadata/containers/kinds';
import { calendarOf, folderText, shapeOf, type SearchablePhoto, type TimeSpan } from './photo';
import { measuredOf, pointOf, saidOf } from './said';

const ROW_STATES = Object.keys(STATE_BITS) as RowState[];

export interface PhotoParts {
  id: number;
  row: RowPart;
  texts: TextPart;
  changes: ChangePart;
  terms: SearchablePhoto['terms'];
  dossiers: SearchablePhoto['dossiers'];
  folder: Pick<FolderFacts, 'drive' | 'path' | 'away'>;
  /** Whether another photo that is shown is the same picture. */
  double: boolean;
  /** Its texts as words are looked for in them, each on its own. */
  searched: readonly string[];
  /** Whether private persons exist for who asks; they do, where nothing is said. */
  knowsPrivate?: boolean;
}

export function searchableOf({
  id,
  row,
  texts,
  changes,
  terms,
  dossiers,
  folder,
  double,
  searched,
  knowsPrivate = true,
}: PhotoParts): SearchablePhoto {
  const states = new Set<State>(ROW_STATES.filter((state) => (row.states & STATE_BITS[state]) !== 0));
  if (texts.disagreeing) states.add('disagreeing');
  if (folder.away) states.add('away');
  if (double) states.add('double');
  const taken = spanOf(row.takenFrom, row.takenUntil);
  const added = spanOf(row.added, undefined);
  const changed = spanOf(changes.at, undefined);
  const calendar = taken ? calendarOf(taken) : {};
  const { rating, accession, width, height, size } = row;
  const sides = width && height ? { width, height } : undefined;
  const position = pointOf(texts.fields);
  const { flashFired } = texts.facts;
  return {
    id,
    texts: searched,
    said: present({
      ...saidOf(texts.fields, texts.facts, knowsPrivate ? texts.people : { ...texts.people, ...texts.people.public }),
      name: [row.name],
      kind: [row.kind],
      media: mediaOfKind(row.kind),
      fixity: [row.fixity],
      keyword: texts.keywords,
      plan: texts.plans.length ? texts.plans : undefined,
      done: texts.done.length ? texts.done : undefined,
      drive: [folder.drive],
      path: [folderText(folder.drive, folder.path)],
      caption: texts.caption ? [texts.caption] : undefined,
      mark: row.mark ? [row.mark] : undefined,
      changedBy: changes.by.length ? changes.by : undefined,
      flash: flashFired === undefined ? undefined : [flashFired ? 'yes' : 'no'],
      shape: sides && [shapeOf(sides.width, sides.height)],
      weekday: calendar.weekday === undefined ? undefined : [calendar.weekday],
      month: calendar.month === undefined ? undefined : [calendar.month],
    }),
    numbers: present({
      ...measuredOf(texts.fields, texts.facts, texts.people),
      rating,
      accession,
      width,
      height,
      size,
      pixels: sides && (sides.width * sides.height) / 1e6,
      aspect: sides && sides.width / sides.height,
      hour: calendar.hour,
    }),
    dates: present({ taken, added, changed }),
    terms,
    dossiers,
    ...(position ? { position } : {}),
    drive: folder.drive,
    folder: folder.path,
    states,
  };
}

function mediaOfKind(kind: string): string[] | undefined {
  return kind in KIND_FACTS ? [KIND_FACTS[kind as FileKind].media] : undefined;
}

function present<Values extends object>(values: Values): { [Key in keyof Values]?: Exclude<Values[Key], undefined> } {
  return Object.fromEntries(Object.entries(values).filter(([, value]) => value !== undefined)) as {
    [Key in keyof Values]?: Exclude<Values[Key], undefined>;
  };
}

function spanOf(from: number | undefined, until: number | undefined): TimeSpan | undefined {
  if (from === undefined) return undefined;
  return { from: timeText(from), ...(until === undefined ? {} : { until: timeText(until) }) };
}

function timeText(seconds: number): string {
  return new Date(seconds * 1000).toISOString().slice(0, 19);
}
