// Damaged files, each with what is wrong and the copies that could take its place.

import type { DamagedFile } from '@stellin/contract/fixity';
import { MOST_DAMAGED } from '@stellin/contract/fixity';
import { useChange } from '../foundation/changes';
import { useMayChange } from '../foundation/session';
import { Button } from '../parts/Button';
import { Queried } from '../parts/Queried';
import { RowPicture } from '../parts/RowPicture';
import { useAcceptFile, useDamagedFiles } from './queries';

export function DamagedFiles() {
  const damaged = useDamagedFiles();
  return (
    <section aria-labelledby="damaged-files" className="mt-5">
      <h3 id="damaged-files" className="mb-2 font-title text-[15px] font-semibold">
        Damaged files
      </h3>
      <Queried query={damaged}>
        {({ files }) => (
          <>
            <ul className="flex flex-col gap-2">
              {files.map((file) => (
                <Damaged key={file.photoId} file={file} />
              ))}
            </ul>
            {files.length === MOST_DAMAGED && (
              <p className="mt-2 text-ink-2">The first {MOST_DAMAGED}; the others follow as these are settled.</p>
            )}
          </>
        )}
      </Queried>
    </section>
  );
}

function Damaged({
  file: { photoId, previewVersion, path, problem, copies, comingBack, away },
}: {
  file: DamagedFile;
}) {
  const change = useChange();
  const accept = useAcceptFile();
  const may = useMayChange('putCopyBack') && !comingBack && !away;
  return (
    <li className="flex items-start gap-3 rounded border border-line bg-card p-2">
      <RowPicture photoId={photoId} previewVersion={previewVersion} />
      <div className="min-w-0 flex-1">
        <p className="font-semibold break-all">{path}</p>
        <p className="text-red">{comingBack ? 'A good copy is being put in its place' : problem}</p>
        {copies.length === 0 && <p className="text-ink-2">No other file holds this picture.</p>}
        <ul>
          {copies.map((copy) => (
            <li key={copy.photoId} className="mt-1 flex flex-wrap items-center gap-2">
              <span className="min-w-0 break-all text-ink-2">
                {copy.path}
                {copy.away && ' · away'}
              </span>
              {may && !copy.away && (
                <Button
                  className="!h-7"
                  disabled={change.isPending}
                  onClick={() => change.mutate({ kind: 'putCopyBack', photoId, copyId: copy.photoId })}
                >
                  Put this copy in its place
                </Button>
              )}
            </li>
          ))}
        </ul>
      </div>
      {may && (
        <Button
          className="!h-7"
          disabled={accept.isPending}
          title="Somebody has changed the picture on purpose: the file as it is now is the right one"
          onClick={() => accept.mutate(photoId)}
        >
          It is right as it is
        </Button>
      )}
    </li>
  );
}
