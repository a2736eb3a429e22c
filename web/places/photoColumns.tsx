// The columns that say which photo a row is about.

import type { Column } from '../parts/DataTable';
import { RowPicture } from '../parts/RowPicture';

interface PhotoRow {
  photoId: number;
  name: string;
  previewVersion: number;
}

export const PHOTO_COLUMNS: readonly Column<PhotoRow>[] = [
  {
    id: 'picture',
    title: '',
    cell: ({ photoId, previewVersion }) => <RowPicture photoId={photoId} previewVersion={previewVersion} />,
  },
  { id: 'name', title: 'Photo', headsRow: true, cell: ({ name }) => <span className="font-mono">{name}</span> },
];
