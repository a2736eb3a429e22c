// One photo whose files are to be written: what changes in them, and, opened, block by block; or a conflict to be settled.

import { useQuery } from '@tanstack/react-query';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { useState } from 'react';
import { fieldLabel } from '@stellin/core/describing/targets';
import { fieldText } from '@stellin/core/metadata/fieldText';
import { FIELDS, type FieldValue } from '@stellin/core/metadata/fields';
import { sameValue } from '@stellin/core/metadata/values';
import { writeBackRoutes, type PendingWrite, type WritePreview } from '@stellin/contract/writeback';
import { call } from '../foundation/api';
import { DataTable, type Column } from '../parts/DataTable';
import { RowPicture } from '../parts/RowPicture';
import { useChange } from '../foundation/changes';
import { useMayCall } from '../foundation/session';
import { BLOCKS } from '../parts/blocks';
import { Button } from '../parts/Button';

const LOOKS: Record<PendingWrite['state'], string> = {
  waiting: 'bg-amber-pale text-amber',
  conflict: 'bg-red-pale text-red',
  failed: 'bg-red-pale text-red',
};

export function PendingRow({ write }: { write: PendingWrite }) {
  // Conflicts stand open by themselves.
  const [wanted, setWanted] = useState<boolean | null>(null);
  const open = wanted ?? write.state === 'conflict';
  const conflicts = write.fields.filter((field) => field.conflicts);
  return (
    <li className="px-3 py-1.5">
      <div className="flex items-center gap-3">
        <button
          type="button"
          aria-expanded={open}
          aria-label={`What the write of ${write.name} does`}
          className="text-ink-3 hover:text-ink"
          onClick={() => setWanted(!open)}
        >
          {open ? <ChevronDown size={14} /> : <ChevronRight size={14} />}
        </button>
        <RowPicture
          photoId={write.photoId}
          previewVersion={write.previewVersion}
          className={write.attached ? '' : 'opacity-55'}
        />
        <span className="w-72 min-w-0 shrink-0">
          <span className="block truncate font-mono text-[12px]">{write.name}</span>
          <span className="block truncate text-[11px] text-ink-2">
            {write.driveLabel}
            {write.folderPath && ` › ${write.folderPath.replaceAll('/', ' › ')}`}
          </span>
        </span>
        <span className={`w-18 shrink-0 rounded px-1.5 text-center text-[11px] ${LOOKS[write.state]}`}>
          {write.state}
        </span>
        <Summary write={write} />
      </div>
      {open && (
        <div className="mt-1.5 ml-7 rounded border border-line">
          {conflicts.length > 0 ? <ConflictTable write={write} /> : <Blocks photoId={write.photoId} />}
        </div>
      )}
    </li>
  );
}

function Summary({ write }: { write: PendingWrite }) {
  return (
    <span className="flex min-w-0 flex-1 flex-wrap gap-x-2 text-[12px]">
      {write.message && <span className="text-red">{write.message}</span>}
      {write.add.map((keyword) => (
        <span key={keyword} className="whitespace-nowrap text-spruce">
          + {keyword}
        </span>
      ))}
      {write.remove.map((keyword) => (
        <span key={keyword} className="whitespace-nowrap text-red line-through">
          {keyword}
        </span>
      ))}
      {write.rating && (
        <span className="whitespace-nowrap text-ink-2">
          rating {write.rating.before} → {write.rating.after}
        </span>
      )}
      {write.mark && (
        <span className="whitespace-nowrap text-ink-2">
          mark {write.mark.before || 'none'} → {write.mark.after || 'none'}
        </span>
      )}
      {write.fields
        .filter(({ conflicts }) => !conflicts)
        .map(({ field, before, after }) => (
          <span key={field} className="max-w-full truncate text-ink-2" title={`${said(before)} → ${said(after)}`}>
            {fieldLabel(field)}: {said(before)} → <span className="text-ink">{said(after)}</span>
          </span>
        ))}
    </span>
  );
}

/** Side by side what was read last, what the catalogue says, what the file says, and which is to stand. */
function ConflictTable({ write }: { write: PendingWrite }) {
  const mayChange = useMayCall(writeBackRoutes.run);
  const change = useChange();
  const settle = (keep: 'catalogue' | 'file', field: string) =>
    change.mutate({
      kind: 'settleConflicts',
      selection: { query: null, plus: [write.photoId] },
      field,
      keep,
    });
  const columns: readonly Column<PendingWrite['fields'][number]>[] = [
    {
      id: 'field',
      title: 'Field',
      width: 'w-36',
      headsRow: true,
      className: 'text-ink-2',
      cell: ({ field }) => fieldLabel(field),
    },
    { id: 'before', title: 'At last reading', className: 'break-words', cell: ({ before }) => said(before) },
    { id: 'after', title: 'Catalogue', className: 'font-semibold break-words', cell: ({ after }) => said(after) },
    {
      id: 'file',
      title: 'File',
      className: 'font-semibold break-words',
      cell: ({ before, file, conflicts }) => said(conflicts ? file : before),
    },
    {
      id: 'keep',
      title: 'Keep',
      width: 'w-52',
      cell: ({ field, conflicts }) =>
        !conflicts ? (
          <span className="text-spruce">merged: only the catalogue changed it</span>
        ) : (
          mayChange && (
            <span className="flex gap-1.5">
              {(['catalogue', 'file'] as const).map((keep) => (
                <Button
                  key={keep}
                  className="!h-6 !px-2 text-[12px]"
                  disabled={change.isPending}
                  onClick={() => settle(keep, field)}
                >
                  {keep === 'catalogue' ? 'Catalogue' : 'File'}
                </Button>
              ))}
            </span>
          )
        ),
    },
  ];
  return <DataTable label="Conflict" small rows={write.fields} keyOf={({ field }) => field} columns={columns} />;
}

const WAYS: Record<WritePreview['way'], string> = {
  'in place': 'The file is written to where it stands; nothing in it moves.',
  anew: 'The file is written anew beside the old one, proven, and put in its place.',
  sidecar: 'The description goes into the sidecar that is there.',
  'new sidecar': 'The description goes into a new sidecar.',
  nothing: 'The file says it all already.',
};

interface BlockChange {
  block: string;
  label: string;
  before: FieldValue | undefined;
  after: FieldValue | undefined;
}

const BLOCK_COLUMNS: readonly Column<BlockChange>[] = [
  { id: 'block', title: 'Block', width: 'w-20', cell: ({ block }) => block },
  { id: 'field', title: 'Field', width: 'w-36', className: 'text-ink-2', cell: ({ label }) => label },
  { id: 'before', title: 'Now in the file', className: 'break-words', cell: ({ before }) => said(before ?? null) },
  {
    id: 'after',
    title: 'After the write',
    className: 'font-semibold break-words',
    cell: ({ after }) => said(after ?? null),
  },
];

/** What each block says now and will say, where that differs. */
function Blocks({ photoId }: { photoId: number }) {
  const { data, error } = useQuery({
    queryKey: ['writeBack', 'preview', photoId],
    queryFn: () => call(writeBackRoutes.previewWrite, { params: { id: photoId } }),
    retry: false,
  });
  if (error) return <p className="px-2 py-1 text-amber">{error.message}</p>;
  if (!data) return <p className="px-2 py-1 text-ink-2">Reading the file …</p>;
  const rows = BLOCKS.flatMap(([name, label]) =>
    FIELDS.flatMap((field) => {
      const [before, after] = [data.before[name]?.[field.id], data.after[name]?.[field.id]];
      return sameValue(before, after) ? [] : [{ block: label, label: field.label, before, after }];
    }),
  );
  return (
    <>
      <p className="px-2 py-1 text-[12px] text-ink-2">
        {WAYS[data.way]}
        {data.cuts.length > 0 &&
          ` IIM cuts ${data.cuts.map(({ field, maxBytes }) => `${fieldLabel(field)} at ${maxBytes} bytes`).join(', ')}; XMP keeps it whole.`}
      </p>
      {rows.length > 0 && (
        <DataTable
          label="What the write does"
          small
          rows={rows}
          keyOf={({ block, label }) => `${block} ${label}`}
          columns={BLOCK_COLUMNS}
        />
      )}
    </>
  );
}

function said(value: FieldValue | null): string {
  return value === null || value === '' ? 'nothing' : fieldText(value);
}
