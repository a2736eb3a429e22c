// How the files of a delivery stand in tables: the picture, and the name it leaves under above that of the original.

import type { Column } from '../parts/DataTable';
import { RowPicture } from '../parts/RowPicture';

interface FileRow {
  /** Null: the photo is no more. */
  photoId: number | null;
  previewVersion: number;
  path: string;
  original: string;
}

export const PICTURE_COLUMN: Column<Pick<FileRow, 'photoId' | 'previewVersion'>> = {
  id: 'picture',
  title: '',
  width: 'w-20',
  cell: ({ photoId, previewVersion }) =>
    photoId === null ? null : <RowPicture photoId={photoId} previewVersion={previewVersion} />,
};

export const pathColumn = (title: string): Column<Pick<FileRow, 'path' | 'original'>> => ({
  id: 'path',
  title,
  cell: ({ path, original }) => (
    <span className="block min-w-0">
      <span className="block truncate font-mono text-[12px]" title={path}>
        {path}
      </span>
      <span className="block truncate text-[12px] text-ink-2" title={original}>
        {original}
      </span>
    </span>
  ),
});
