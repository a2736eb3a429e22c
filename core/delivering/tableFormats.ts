// The formats that tables go out in.

interface TableFormatFacts {
  label: string;
  extension: string;
  mediaType: string;
}

export const TABLE_FORMATS = {
  csv: { label: 'CSV', extension: '.csv', mediaType: 'text/csv; charset=utf-8' },
  tsv: { label: 'TSV', extension: '.tsv', mediaType: 'text/tab-separated-values; charset=utf-8' },
  xlsx: {
    label: 'XLSX',
    extension: '.xlsx',
    mediaType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  },
  jsonl: { label: 'JSON Lines', extension: '.jsonl', mediaType: 'application/jsonl; charset=utf-8' },
} as const satisfies Record<string, TableFormatFacts>;

export type TableFormat = keyof typeof TABLE_FORMATS;
export const TABLE_FORMAT_IDS = Object.keys(TABLE_FORMATS) as [TableFormat, ...TableFormat[]];
