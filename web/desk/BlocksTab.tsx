// The Blocks tab: what EXIF, IIM, XMP and the sidecar of the photo in focus each say, read from the file now.

import { FIELDS, type FieldId } from '@stellin/core/metadata/fields';
import { fieldText } from '@stellin/core/metadata/fieldText';
import { BLOCKS } from '../parts/blocks';
import { DataTable, type Column } from '../parts/DataTable';
import { useBlocks } from '../photos/queries';

export function BlocksTab({ photoId }: { photoId: number | undefined }) {
  const { data, error, isPending } = useBlocks(photoId);
  if (photoId === undefined) return <p className="p-3 text-ink-2">Choose a photo to see what its file says.</p>;
  if (error) return <p className="p-3 text-red">{error.message}</p>;
  if (isPending || !data) return <p className="p-3 text-ink-2">Reading the file …</p>;
  const present = BLOCKS.filter(([name]) => data.blocks[name]);
  const rows = FIELDS.filter(({ id }) => present.some(([name]) => data.blocks[name]?.[id] !== undefined));
  if (rows.length === 0) return <p className="p-3 text-ink-2">The file says nothing of itself.</p>;
  const text = (values: Partial<Record<string, Parameters<typeof fieldText>[0]>> | undefined, id: FieldId) => {
    const value = values?.[id];
    return value === undefined ? '' : fieldText(value);
  };
  const columns: readonly Column<(typeof rows)[number]>[] = [
    {
      id: 'field',
      title: 'Field',
      headsRow: true,
      className: 'whitespace-nowrap text-ink-2',
      cell: ({ id, label }) => (
        <>
          {label}
          {data.disagreements.includes(id) && <span className="ml-1.5 font-semibold text-amber">differs</span>}
        </>
      ),
    },
    {
      id: 'taken',
      title: 'Taken as',
      className: 'font-semibold break-words',
      cell: ({ id }) => text(data.fields, id),
    },
    ...present.map(([name, label]): Column<(typeof rows)[number]> => ({
      id: name,
      title: label,
      className: 'break-words',
      cell: ({ id }) => text(data.blocks[name], id),
    })),
  ];
  return (
    <DataTable
      label="Blocks of the file"
      small
      rows={rows}
      keyOf={({ id }) => id}
      columns={columns}
      rowClass={({ id }) => `align-top ${data.disagreements.includes(id) ? 'bg-amber-pale' : ''}`}
    />
  );
}
