// Columns of tables that show before and after, a row a field: the photo is said but once.

import { fieldText } from '@stellin/core/metadata/fieldText';
import type { FieldValue } from '@stellin/core/metadata/fields';
import type { Column } from './DataTable';
import { RowPicture } from './RowPicture';

interface ChangedPhoto {
  photoId: number;
  name: string;
  previewVersion: number;
}

export const PHOTO_COLUMN: Column<ChangedPhoto> = {
  id: 'photo',
  title: 'Photo',
  width: 'w-56',
  className: 'truncate font-mono',
  cell: ({ photoId, previewVersion, name }, above) =>
    above?.photoId !== photoId && (
      <span title={name}>
        <RowPicture photoId={photoId} previewVersion={previewVersion} className="mr-2" />
        {name}
      </span>
    ),
};

export const FIELD_COLUMN: Column<{ label: string }> = {
  id: 'field',
  title: 'Field',
  width: 'w-28',
  className: 'truncate text-ink-2',
  cell: ({ label }) => label,
};

export const BEFORE_COLUMN: Column<{ before: FieldValue | null }> = {
  id: 'before',
  title: 'Before',
  className: 'break-words whitespace-pre-wrap',
  cell: ({ before }) => shownValue(before),
};

/** A value in a row of before and after. */
export function shownValue(value: FieldValue | null) {
  return value === null || (Array.isArray(value) && value.length === 0) ? (
    <span className="text-ink-3">nothing</span>
  ) : (
    fieldText(value)
  );
}
