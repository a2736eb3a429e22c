// What was taken in before: each accession with its counts, which open the photos concerned.

import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import type { Accession } from '@stellin/contract/intake';
import { numberText } from '@stellin/contract/wording';
import { ProvenanceDialog } from '../accessions/ProvenanceDialog';
import { DataTable, type Column } from '../parts/DataTable';
import { dateTimeText } from '../parts/dateTimeText';
import { deskLink } from '../parts/deskLink';
import { Queried } from '../parts/Queried';
import { useAccessions } from './queries';

interface Count {
  title: string;
  count: (accession: Accession) => number;
  /** A number above zero asks for a look. */
  alarming?: boolean;
  /** The photos that are counted, where a search finds them. */
  query?: (accession: Accession) => string;
}

const COUNTS: readonly Count[] = [
  { title: 'New', count: ({ photosNew }) => photosNew, query: ({ id }) => `accession:${id}` },
  { title: 'Changed', count: ({ photosChanged }) => photosChanged },
  { title: 'Moved', count: ({ photosMoved }) => photosMoved },
  { title: 'There again', count: ({ photosReturned }) => photosReturned },
  {
    title: 'Not found',
    count: ({ photosMissing }) => photosMissing,
    alarming: true,
    query: ({ driveLabel }) => `drive:"${driveLabel}" is:missing`,
  },
  {
    title: 'Blocks differ',
    count: ({ disagreeing }) => disagreeing,
    query: ({ id }) => `accession:${id} is:disagreeing`,
  },
  {
    title: 'Damaged',
    count: ({ damaged }) => damaged,
    alarming: true,
    query: ({ id }) => `accession:${id} is:damaged`,
  },
  { title: 'Problems', count: ({ failures }) => failures, alarming: true },
];

const columnsWith = (onOpen: (id: number) => void): readonly Column<Accession>[] => [
  ...COLUMNS,
  {
    id: 'from',
    title: 'Where from',
    sortBy: ({ number, donor }) => `${number} ${donor}`,
    cell: ({ id, number, donor }) => (
      <button
        type="button"
        aria-label={`Where accession ${id} comes from`}
        className="max-w-48 truncate text-slate hover:underline"
        onClick={() => onOpen(id)}
      >
        {[number, donor].filter(Boolean).join(' · ') || 'Say …'}
      </button>
    ),
  },
];

const COLUMNS: readonly Column<Accession>[] = [
  {
    id: 'number',
    title: 'No.',
    className: 'figures',
    sortBy: ({ id }) => id,
    cell: ({ id }) => (
      <Link className="text-slate underline" to={deskLink(`accession:${id}`)}>
        {id}
      </Link>
    ),
  },
  {
    id: 'drive',
    title: 'Drive',
    sortBy: ({ driveLabel, folder }) => `${driveLabel}/${folder}`,
    cell: ({ driveLabel, folder, source }) => (
      <>
        {driveLabel}
        {folder && <span className="font-mono text-[12px] text-ink-2"> /{folder}</span>}
        {source && <span className="text-ink-2">, copied from {source}</span>}
      </>
    ),
  },
  {
    id: 'when',
    title: 'When',
    className: 'figures whitespace-nowrap',
    sortBy: ({ startedAt }) => startedAt,
    cell: ({ startedAt, finishedAt }) => (
      <>
        {dateTimeText(startedAt)}
        {finishedAt === null && <span className="text-amber"> · not finished</span>}
      </>
    ),
  },
  { id: 'by', title: 'By', className: 'whitespace-nowrap', sortBy: ({ by }) => by, cell: ({ by }) => by },
  ...COUNTS.map(({ title, count, alarming, query }): Column<Accession> => ({
    id: title,
    title,
    isNumber: true,
    className: (accession) => (count(accession) === 0 ? 'text-ink-3' : alarming ? 'text-red' : ''),
    sortBy: count,
    cell: (accession) => {
      const number = count(accession);
      return number > 0 && query ? (
        <Link className="underline decoration-line underline-offset-2" to={deskLink(query(accession))}>
          {numberText(number)}
        </Link>
      ) : (
        numberText(number)
      );
    },
  })),
];

export function Accessions() {
  const [opened, setOpened] = useState<number | null>(null);
  const columns = useMemo(() => columnsWith(setOpened), []);
  return (
    <Queried query={useAccessions()} className="">
      {(accessions) =>
        accessions.length > 0 && (
          <section>
            <h2 className="mb-2 font-title text-[16px] font-semibold">Accessions</h2>
            <div className="overflow-x-auto border border-line bg-card">
              <DataTable label="Accessions" rows={accessions} keyOf={({ id }) => id} columns={columns} />
            </div>
            {opened !== null && <ProvenanceDialog accessionId={opened} onClose={() => setOpened(null)} />}
          </section>
        )
      }
    </Queried>
  );
}
