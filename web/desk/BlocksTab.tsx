// The Blocks tab: what EXIF, IIM, XMP and the sidecar of the photo in focus each say, read from the file now.

import { FIELDS, type FieldId } from '@stellin/core/metadata/fields';
import { fieldText } from '@stellin/core/metadata/fieldText';
import { BLOCKS } from '../parts/blocks';
import { useBlocks } from './queries';

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
  return (
    <table className="w-full text-[12px]">
      <thead className="sticky top-0 bg-card text-left text-ink-2 shadow-[0_1px_0_var(--line)]">
        <tr>
          <th className="px-3 py-1 font-semibold">Field</th>
          <th className="px-3 py-1 font-semibold">Taken as</th>
          {present.map(([name, label]) => (
            <th key={name} className="px-3 py-1 font-semibold">
              {label}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(({ id, label }) => {
          const differs = data.disagreements.includes(id);
          return (
            <tr key={id} className={`border-t border-line/60 align-top ${differs ? 'bg-amber-pale' : ''}`}>
              <th scope="row" className="px-3 py-1 text-left font-normal whitespace-nowrap text-ink-2">
                {label}
                {differs && <span className="ml-1.5 font-semibold text-amber">differs</span>}
              </th>
              <td className="px-3 py-1 font-semibold break-words">{text(data.fields, id)}</td>
              {present.map(([name]) => (
                <td key={name} className="px-3 py-1 break-words">
                  {text(data.blocks[name], id)}
                </td>
              ))}
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
