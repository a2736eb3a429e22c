// The file of one photo: downloaded, drawn out of the browser, or its path copied.

import { Copy, Download } from 'lucide-react';
import type { DragEvent } from 'react';
import { toast } from 'sonner';
import { deliveringRoutes, originalPath } from '@stellin/contract/delivering';
import type { PhotoDetails } from '@stellin/contract/photos';
import { useMayCall } from '../foundation/session';
import { Button } from '../parts/Button';

type Props = { photo: Pick<PhotoDetails, 'id' | 'name' | 'path' | 'driveLabel' | 'folderPath' | 'away' | 'missing'> };

export function FileActions({ photo }: Props) {
  const { id, name, path, driveLabel, folderPath, away, missing } = photo;
  const mayDeliver = useMayCall(deliveringRoutes.deliver);
  // While the drive is away nobody knows where it will be.
  const shown = path ?? [driveLabel, folderPath, name].filter(Boolean).join('/');
  const copy = () =>
    navigator.clipboard.writeText(shown).then(
      () => toast(`Copied: ${shown}`),
      () => toast.error(`The browser does not let it be copied: ${shown}`),
    );
  return (
    <p className="mt-2 flex flex-wrap gap-2">
      {mayDeliver && !away && !missing && (
        <a
          href={originalPath(id)}
          download={name}
          title="Download the original, or drag it to a folder or another program"
          className="inline-flex h-8 items-center gap-1.5 rounded border border-line bg-card px-3 whitespace-nowrap hover:border-ink-3"
          onDragStart={(event) => carryFile(event, name)}
        >
          <Download size={14} /> Original
        </a>
      )}
      <Button title={shown} onClick={() => void copy()}>
        <Copy size={14} /> Copy path
      </Button>
    </p>
  );
}

/** What is dropped elsewhere is the file, where the browser can do that (DownloadURL: type, name and address). */
function carryFile({ dataTransfer, currentTarget }: DragEvent<HTMLAnchorElement>, name: string): void {
  dataTransfer.setData('DownloadURL', `application/octet-stream:${name}:${currentTarget.href}`);
}
