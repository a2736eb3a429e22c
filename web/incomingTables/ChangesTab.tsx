// Before and after of the photos that rows are about.

import { useState } from 'react';
import { fieldText } from '@stellin/core/metadata/fieldText';
import type { FieldValue } from '@stellin/core/metadata/fields';
import type { IncomingTable } from '@stellin/contract/incomingTables';
import { DataTable, type Column } from '../parts/DataTable';
import { Pager } from '../parts/Pager';
import { Queried } from '../parts/Queried';
import { RowPicture } from '../parts/RowPicture';
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
  {
    id: 'photo',
    title: 'Photo',
    width: 'w-56',
    className: 'truncate font-mono text-[12px]',
    cell: ({ photoId, previewVersion, name }, above) =>
      above?.photoId !== photoId && (
        <span title={name}>
          <RowPicture photoId={photoId} previewVersion={previewVersion} className="mr-2" />
          {name}
        </span>
      ),
  },
  { id: 'field', title: 'Field', width: 'w-32', className: 'truncate text-ink-2', cell: ({ label }) => label },
  { id: 'before', title: 'Before', className: 'break-words whitespace-pre-wrap', cell: ({ before }) => shown(before) },
  { id: 'after', title: 'After', className: 'break-words whitespace-pre-wrap', cell: ({ after }) => shown(after) },
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

function shown(value: FieldValue | null) {
  return value === null || (Array.isArray(value) && value.length === 0) ? (
    <span className="text-ink-3">–</span>
  ) : (
    fieldText(value)
  );
}
