// A card with a chart, and the same as a table: each figure leads to its photos on the Desk.

import { useId, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import type { FigureCount } from '@stellin/contract/holdings';
import { numberText } from '@stellin/contract/wording';
import { deskLink } from '../parts/deskLink';
import { FilterButton } from '../parts/FilterButton';

interface Props {
  title: string;
  /** Stands behind the title. */
  said?: string;
  chart: ReactNode;
  table: ReactNode;
}

export function Card({ title, said, chart, table }: Props) {
  const id = useId();
  const [asTable, setAsTable] = useState(false);
  return (
    <section aria-labelledby={id} className="min-w-0 rounded border border-line bg-card px-3 py-2">
      <div className="flex items-baseline gap-2">
        <h3 id={id} className="font-semibold">
          {title}
        </h3>
        {said && <span className="text-[12px] text-ink-2">{said}</span>}
        <span className="ml-auto">
          <FilterButton isOn={asTable} onClick={() => setAsTable(!asTable)}>
            Table
          </FilterButton>
        </span>
      </div>
      {asTable ? <div className="mt-1 max-h-80 overflow-auto">{table}</div> : chart}
    </section>
  );
}

/** Figures one below the other, with further columns where there are any. */
export function FigureTable({
  head,
  rows,
  more,
}: {
  head: readonly string[];
  rows: readonly FigureCount[];
  more?: (row: FigureCount, i: number) => ReactNode;
}) {
  return (
    <table className="w-full text-[13px]">
      <thead>
        <tr className="text-left text-[12px] text-ink-2">
          {head.map((name, i) => (
            <th key={name} className={`py-1 font-normal ${i === 0 ? '' : 'text-right'}`}>
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row, i) => (
          <tr key={row.query} className="border-t border-line">
            <th className="py-0.5 text-left font-normal">
              <Link to={deskLink(row.query)} className="text-slate hover:underline">
                {row.label}
              </Link>
            </th>
            <td className="figures py-0.5 text-right">{numberText(row.photos)}</td>
            {more?.(row, i)}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
