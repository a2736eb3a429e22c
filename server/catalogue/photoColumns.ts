// The columns of a photo and of its texts, and the tables that hang on a photo: the one list from which reading files,
// copying photos and the change feed of the finder index take theirs. A test holds it to the tables themselves.

interface PhotoColumn {
  /** As PostgreSQL writes it (format_type). */
  type: string;
  /** `replaced`: each reading of the file sets it. `merged`: the file brings it, and what was said of it here since may stay. */
  fromFile?: 'replaced' | 'merged';
  /** A copy of the photo has it as well. */
  copied?: true;
  /** Searches look at it: the finder index reads the photo again when it changes. */
  searched?: true;
}

/** Columns of the table `photo`. */
export const PHOTO_COLUMNS = {
  id: { type: 'integer' },
  drive_id: { type: 'uuid', searched: true },
  folder_id: { type: 'integer', fromFile: 'replaced', searched: true },
  accession_id: { type: 'integer', copied: true, searched: true },
  name: { type: 'text', fromFile: 'replaced', searched: true },
  kind: { type: 'text', fromFile: 'replaced', copied: true, searched: true },
  size_bytes: { type: 'bigint', fromFile: 'replaced', copied: true, searched: true },
  mtime_ms: { type: 'double precision', fromFile: 'replaced', copied: true },
  sidecar_mtime_ms: { type: 'double precision', fromFile: 'replaced', copied: true },
  width: { type: 'integer', fromFile: 'replaced', copied: true, searched: true },
  height: { type: 'integer', fromFile: 'replaced', copied: true, searched: true },
  orientation: { type: 'smallint', fromFile: 'replaced', copied: true, searched: true },
  taken_at: { type: 'timestamp without time zone', fromFile: 'replaced', copied: true, searched: true },
  taken_until: { type: 'timestamp without time zone', fromFile: 'replaced', copied: true, searched: true },
  rating: { type: 'smallint', fromFile: 'merged', copied: true, searched: true },
  rating_written: { type: 'smallint', copied: true },
  mark: { type: 'text', fromFile: 'merged', copied: true, searched: true },
  mark_folded: { type: 'text', fromFile: 'merged', copied: true },
  mark_written: { type: 'text', copied: true },
  private: { type: 'boolean', copied: true, searched: true },
  damaged: { type: 'boolean', fromFile: 'replaced', copied: true, searched: true },
  has_caption: { type: 'boolean', fromFile: 'replaced', copied: true },
  has_people: { type: 'boolean', fromFile: 'replaced', copied: true },
  has_location: { type: 'boolean', fromFile: 'replaced', copied: true },
  picture_hash: { type: 'bytea', copied: true, searched: true },
  likeness: { type: 'bigint', copied: true },
  preview_version: { type: 'integer' },
  preview_state: { type: 'smallint' },
  preview_orientation: { type: 'smallint' },
  sideways: { type: 'smallint', copied: true, searched: true },
  poster: { type: 'double precision', copied: true },
  preview_poster: { type: 'double precision' },
  written_at: { type: 'timestamp with time zone', copied: true, searched: true },
  missing_since: { type: 'timestamp with time zone', searched: true },
  trashed_from: { type: 'text', searched: true },
  removed: { type: 'boolean', searched: true },
  shown: { type: 'boolean' },
  bundle: { type: 'integer', searched: true },
  leads: { type: 'boolean', searched: true },
  folded_into: { type: 'integer', searched: true },
  unbundled: { type: 'boolean' },
  fixity: { type: 'smallint', searched: true },
} as const satisfies Record<string, PhotoColumn>;

/** Columns of the table `photo_text` besides the photo: all of them are read from the file. */
export const TEXT_COLUMNS = {
  caption: 'text',
  fields: 'jsonb',
  fields_folded: 'jsonb',
  facts: 'jsonb',
  issues: 'jsonb',
  disagreements: 'jsonb',
  name_folded: 'text',
  caption_folded: 'text',
  camera_folded: 'text',
  words: 'tsvector',
} as const;

/** What becomes of the rows of a table that belong to a photo when the photo is copied: these columns of them are copied, or none. */
interface PhotoTable {
  copied: readonly string[];
}

const NOT_COPIED: PhotoTable = { copied: [] };

/** Every table with rows that belong to a photo (by `photo_id`). */
export const PHOTO_TABLES = {
  photo_text: { copied: Object.keys(TEXT_COLUMNS) },
  photo_keyword: { copied: ['keyword', 'folded', 'position', 'in_file'] },
  photo_term: { copied: ['term_id', 'origin'] },
  written_keyword: { copied: ['keyword'] },
  field_in_file: { copied: ['field', 'value', 'conflicting'] },
  link_answer: NOT_COPIED,
  dossier_photo: { copied: ['dossier_id', 'position'] },
  photo_person: { copied: ['person_id'] },
  plan_photo: { copied: ['pin_id'] },
  // What is done with of one file says nothing of another; nor who puts it off.
  work_done: NOT_COPIED,
  work_later: NOT_COPIED,
  pocket_photo: NOT_COPIED,
  // The plan shows the photo itself.
  plan_picture: NOT_COPIED,
  incoming_name: { copied: ['name', 'folded'] },
  face: {
    copied: [
      ...['source', 'state', 'person_id', 'refused', 'box_left', 'box_top', 'box_width', 'box_height', 'vector'],
      ...['quality', 'sharpness', 'smile', 'eyes_open', 'yaw', 'pitch', 'roll', 'pixels'],
    ],
  },
  face_scan: { copied: ['model', 'picture_hash', 'faces', 'problem', 'at'] },
  photo_lettering: { copied: ['lines', 'text', 'orientation', 'picture_hash', 'problem', 'at'] },
  photo_look: { copied: ['recipe', 'look', 'sharpness'] },
  // A preview is made when somebody looks.
  photo_preview: NOT_COPIED,
  // What is still to be written follows from what is copied.
  write_back: NOT_COPIED,
  write_journal: NOT_COPIED,
  filing_step: NOT_COPIED,
  // The copy is read by itself.
  photo_fixity: NOT_COPIED,
  copy_back: NOT_COPIED,
  // What left was the photo itself, not its copy.
  delivery_file: NOT_COPIED,
  // It came back of the photo itself.
  returned_file: NOT_COPIED,
  // The row was about the photo itself.
  incoming_row: NOT_COPIED,
  // The past of the file that was copied is not that of the copy.
  metadata_version: NOT_COPIED,
  ledger_photo: NOT_COPIED,
  // It was said of these two pictures.
  told_apart: NOT_COPIED,
} as const satisfies Record<string, PhotoTable>;

type ColumnName = keyof typeof PHOTO_COLUMNS;
const COLUMNS = Object.entries(PHOTO_COLUMNS) as [ColumnName, PhotoColumn][];

function columnsWhere(isWanted: (column: PhotoColumn) => boolean): ColumnName[] {
  return COLUMNS.filter(([, column]) => isWanted(column)).map(([name]) => name);
}

/** Columns of a photo that its copy has as well. */
export const COPIED_COLUMNS: readonly string[] = columnsWhere(({ copied }) => copied === true);
/** Columns of a photo that each reading of its file sets. */
export const READ_COLUMNS: readonly string[] = columnsWhere(({ fromFile }) => fromFile === 'replaced');
/** Columns of a photo whose change the finder index follows. */
export const SEARCHED_COLUMNS: readonly string[] = columnsWhere(({ searched }) => searched === true);

/** A record of a file as jsonb_to_recordset is to read it: all that the file brings, by the names of the columns, and its keywords. */
export const RECORD_TYPE = `(${[
  ...COLUMNS.filter(([, { fromFile }]) => fromFile).map(([name, { type }]) => `${name} ${type}`),
  ...Object.entries(TEXT_COLUMNS).map(([name, type]) => `${name} ${type}`),
  'keywords jsonb',
].join(', ')})`;
