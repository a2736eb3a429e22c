// What became of a delivery: to whom, why, how, and each of its files.

import { useState } from 'react';
import type { DeliveryFile } from '@stellin/contract/delivering';
import { handoverRoutes } from '@stellin/contract/handover';
import { sizeText } from '@stellin/contract/sizeText';
import { numberText } from '@stellin/contract/wording';
import { useMayCall } from '../foundation/session';
import { HandoverLine } from '../handover/HandoverLine';
import { ReturnedFiles } from '../handover/ReturnedFiles';
import { LetterDialog } from '../mailing/LetterDialog';
import { Button } from '../parts/Button';
import { DataTable, type Column } from '../parts/DataTable';
import { FilterButton } from '../parts/FilterButton';
import { dateTimeText } from '../parts/dateTimeText';
import { JobProgress } from '../parts/JobProgress';
import { Queried } from '../parts/Queried';
import { pathColumn, PICTURE_COLUMN } from './FileCells';
import { Pager } from '../parts/Pager';
import { download, useDelivery, useDeliveryFiles, useRetry } from './queries';

const FILES_PER_PAGE = 100;
const STATE_LABELS: Record<DeliveryFile['state'], string> = {
  open: 'not yet',
  written: 'delivered',
  skipped: 'left out: the name was there',
  failed: 'failed',
};
const STATE_LOOKS: Record<DeliveryFile['state'], string> = {
  open: 'text-amber',
  written: '',
  skipped: 'text-ink-2',
  failed: 'text-red',
};

const COLUMNS: readonly Column<DeliveryFile>[] = [
  PICTURE_COLUMN,
  pathColumn('Delivered as'),
  {
    id: 'size',
    title: 'Size',
    isNumber: true,
    width: 'w-24',
    cell: ({ bytes }) => (bytes === null ? '' : sizeText(bytes)),
  },
  {
    id: 'state',
    title: 'What became of it',
    width: 'w-64',
    cell: ({ state, problem }) => <span className={STATE_LOOKS[state]}>{problem ?? STATE_LABELS[state]}</span>,
  },
];

export function Report({ id, onClose }: { id: string; onClose: () => void }) {
  const delivery = useDelivery(id);
  const [filter, setFilter] = useState<DeliveryFile['state'] | undefined>(undefined);
  const [offset, setOffset] = useState(0);
  const files = useDeliveryFiles(id, { ...(filter ? { state: filter } : {}), offset });
  const retry = useRetry();
  const [back, setBack] = useState(true);
  const [isWriting, setWriting] = useState(false);
  const mayTakeIn = useMayCall(handoverRoutes.listReturned);
  const only = (state: DeliveryFile['state'] | undefined) => {
    setFilter(state);
    setOffset(0);
  };
  return (
    <Queried query={delivery}>
      {({ title, at, by, recipient, reason, target, preset, presetVersion, job, ...of }) => {
        const left = of.failed > 0 || job?.state === 'failed' || job?.state === 'cancelled';
        const counts = [
          ['written', of.written],
          ['skipped', of.skipped],
          ['failed', of.failed],
        ] as const;
        return (
          <div className="flex h-full flex-col">
            {isWriting && (
              <LetterDialog
                about={{ kind: 'delivery', deliveryId: id }}
                title={title}
                onClose={() => setWriting(false)}
              />
            )}
            <div className="space-y-1.5 border-b border-line bg-card p-4">
              <div className="flex items-center gap-3">
                <h1 className="min-w-0 truncate font-title text-[19px] font-semibold">{title}</h1>
                <span className="ml-auto flex gap-2">
                  {of.download && <Button onClick={() => setWriting(true)}>Send by mail …</Button>}
                  {of.download && <Button onClick={() => download(id)}>Download once more</Button>}
                  {!of.download && left && <Button onClick={() => retry.mutate(id)}>Try again</Button>}
                  <Button look="quiet" onClick={onClose}>
                    Close
                  </Button>
                </span>
              </div>
              <p className="text-ink-2">
                {dateTimeText(at)} by {by}, to {target}
                {recipient && `, for ${recipient}`}
                {preset &&
                  `, with the preset “${preset}”${presetVersion === null ? '' : ` (version ${presetVersion})`}`}
                {of.bytes > 0 && `, ${sizeText(of.bytes)}`}
              </p>
              {reason && <p>{reason}</p>}
              {of.handover && (
                <HandoverLine handover={of.handover} isOut={of.written + of.skipped + of.failed === of.photos} />
              )}
              <p className="figures flex gap-4 text-[12px]">
                <FilterButton isOn={filter === undefined} onClick={() => only(undefined)}>
                  {numberText(of.photos)} in all
                </FilterButton>
                {counts.map(([state, count]) => (
                  <FilterButton key={state} isOn={filter === state} disabled={count === 0} onClick={() => only(state)}>
                    {numberText(count)}{' '}
                    {state === 'written' ? 'delivered' : state === 'skipped' ? 'left out' : 'failed'}
                  </FilterButton>
                ))}
              </p>
              {job && job.state !== 'done' && <JobProgress job={job} />}
              {of.handover && mayTakeIn && (
                <p className="flex gap-4">
                  <FilterButton isOn={!back} onClick={() => setBack(false)}>
                    Went out
                  </FilterButton>
                  <FilterButton isOn={back} onClick={() => setBack(true)}>
                    Came back: {numberText(of.handover.back)}
                  </FilterButton>
                </p>
              )}
            </div>
            <div role="region" aria-label="What became of it" tabIndex={0} className="min-h-0 flex-1 overflow-y-auto">
              {of.handover && mayTakeIn && back ? (
                <ReturnedFiles id={id} handover={of.handover} />
              ) : (
                <Queried query={files}>
                  {({ files: rows, total }) => (
                    <>
                      <DataTable
                        label="Files of the delivery"
                        rows={rows}
                        keyOf={({ position }) => position}
                        columns={COLUMNS}
                        empty={<p className="p-4 text-ink-2">None.</p>}
                      />
                      <Pager offset={offset} page={FILES_PER_PAGE} total={total} onMove={setOffset} />
                    </>
                  )}
                </Queried>
              )}
            </div>
          </div>
        );
      }}
    </Queried>
  );
}
