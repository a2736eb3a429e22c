// What was taken in before: each accession with its counts, which open the photos concerned.

import type { ReactNode } from 'react';
import { Link } from 'react-router';
import type { Accession } from '@stellin/contract/intake';
import { numberText } from '@stellin/contract/wording';
import { dateTimeText } from '../parts/dateTimeText';
import { deskLink } from '../parts/deskLink';
import { useAccessions } from './queries';

interface Column {
  title: string;
  count: (accession: Accession) => number;
  /** A number above zero asks for a look. */
  alarming?: boolean;
  /** The photos that are counted, where a search finds them. */
  query?: (accession: Accession) => string;
}

const COLUMNS: readonly Column[] = [
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

export function Accessions() {
  const { data: accessions = [] } = useAccessions();
  if (accessions.length === 0) return null;
  return (
    <section>
      <h2 className="mb-2 font-title text-[16px] font-semibold">Accessions</h2>
      <div className="overflow-x-auto">
        <table className="w-full border border-line bg-card">
          <thead className="border-b border-line text-left text-[12px] text-ink-2">
            <tr>
              {['No.', 'Drive', 'When', 'By'].map((title) => (
                <th key={title} className="px-3 py-1.5 font-semibold">
                  {title}
                </th>
              ))}
              {COLUMNS.map(({ title }) => (
                <th key={title} className="px-2 py-1.5 text-right font-semibold whitespace-nowrap">
                  {title}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {accessions.map((accession) => (
              <Row key={accession.id} accession={accession} />
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

function Row({ accession }: { accession: Accession }) {
  return (
    <tr className="border-b border-line/60">
      <td className="figures px-3 py-1.5">
        <Link className="text-slate underline" to={deskLink(`accession:${accession.id}`)}>
          {accession.id}
        </Link>
      </td>
      <td className="px-3">
        {accession.driveLabel}
        {accession.folder && <span className="font-mono text-[12px] text-ink-2"> /{accession.folder}</span>}
        {accession.source && <span className="text-ink-2">, copied from {accession.source}</span>}
      </td>
      <td className="figures px-3 whitespace-nowrap">
        {dateTimeText(accession.startedAt)}
        {accession.finishedAt === null && <span className="text-amber"> · not finished</span>}
      </td>
      <td className="px-3 whitespace-nowrap">{accession.by}</td>
      {COLUMNS.map(({ title, count, alarming, query }) => {
        const number = count(accession);
        return (
          <td
            key={title}
            className={`figures px-2 text-right ${number === 0 ? 'text-ink-3' : alarming ? 'text-red' : ''}`}
          >
            <Count number={number}>
              {number > 0 && query && (
                <Link className="underline decoration-line underline-offset-2" to={deskLink(query(accession))}>
                  {numberText(number)}
                </Link>
              )}
            </Count>
          </td>
        );
      })}
    </tr>
  );
}

function Count({ number, children }: { number: number; children: ReactNode }) {
  return children || numberText(number);
}
