// Before and after of the photos that rows are about.

import { useState } from 'react';
import type { FieldValue } from '@stellin/core/metadata/fields';
import type { IncomingTable } from '@stellin/contract/incomingTables';
import { BEFORE_COLUMN, FIELD_COLUMN, PHOTO_COLUMN, shownValue } from '../parts/changeColumns';
import { DataTable, type Column } from '../parts/DataTable';
import { Pager } from '../parts/Pager';
import { Queried } from '../parts/Queried';
import { ROWS_SHOWN, useTablePreview } from './queries';

interface Row {
  photoId: number;
  name: string;
  previewVersion: number;
  label: string;
  before: FieldValue | null;
  after: FieldValue | null;
}

const COLUMNS: readonly Column<Row>[] = [
  PHOTO_COLUMN,
  FIELD_COLUMN,
  BEFORE_COLUMN,
  {
    id: 'after',
    title: 'After',
    className: 'break-words whitespace-pre-wrap',
    cell: ({ label, after }) => (label === '' ? <span className="text-ink-3">stays as it is</span> : shownValue(after)),
  },
];

export function ChangesTab({ table }: { table: IncomingTable }) {
  const [offset, setOffset] = useState(0);
  const preview = useTablePreview(table, offset);
  return (
    <Queried query={preview} pending={<p className="p-4 text-ink-2">What would change is being worked out …</p>}>
      {({ photos, total }) => {
        const rows = photos.flatMap(({ fields, ...photo }) =>
          fields.length > 0
            ? fields.map(({ label, before, after }): Row => ({ ...photo, label, before, after }))
            : [{ ...photo, label: '', before: null, after: null }],
        );
        return (
          <>
            <DataTable
              label="Before and after"
              rows={rows}
              keyOf={({ photoId, label }) => `${photoId} ${label}`}
              columns={COLUMNS}
              rowClass={() => 'align-top'}
              empty={
                <p className="p-4 text-ink-2">
                  No row is about one photo yet. Under Columns, say which column finds the photo.
                </p>
              }
            />
            <Pager offset={offset} page={ROWS_SHOWN} total={total} onMove={setOffset} />
          </>
        );
      }}
    </Queried>
  );
}
