// The threads of a process, by what they do. Those that know one catalogue only, its index and its faces, belong to the services.

import { planner, type Planner } from './describing/planner';
import { spreadsheetWriter, type SpreadsheetWriter } from './delivering/spreadsheets';
import { filePlacer, type FilePlacer } from './files/placing';
import { fileWriter, type FileWriter } from './files/writer';
import { fileReader, type FileReader } from './catalogue/reader';
import { faceLooker, type Looker } from './people/looking';
import { gazetteerClient, type GazetteerClient } from './places/gazetteer';
import { trackReader, type TrackReader } from './places/trackReader';
import { tableReader, type TableReader } from './incomingTables/reading';
import { thinker, type Thinker } from './vocabulary/thinking';

export interface Threads {
  reader: FileReader;
  writer: FileWriter;
  planning: Planner;
  thinking: Thinker;
  looker: Looker;
  gazetteer: GazetteerClient;
  trackReading: TrackReader;
  tableReading: TableReader;
  spreadsheets: SpreadsheetWriter;
  placer: FilePlacer;
  close(): Promise<void>;
}

/** All of them start with their first task. `lookers` limits how many pictures are looked at side by side. */
export function openThreads(lookers?: number): Threads {
  const threads = {
    reader: fileReader(),
    writer: fileWriter(),
    planning: planner(),
    thinking: thinker(),
    looker: faceLooker(lookers),
    gazetteer: gazetteerClient(),
    trackReading: trackReader(),
    tableReading: tableReader(),
    spreadsheets: spreadsheetWriter(),
    placer: filePlacer(),
  };
  return {
    ...threads,
    close: async () => void (await Promise.all(Object.values(threads).map((each) => each.close()))),
  };
}
