// Where nothing is chosen yet: what could be delivered.

import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { deskLink } from '../parts/deskLink';
import { sizeText } from '@stellin/contract/sizeText';
import { countText } from '@stellin/contract/wording';
import { useDossiers } from '../dossiers/queries';
import { Button } from '../parts/Button';
import { TextField } from '../parts/Field';
import { Queried } from '../parts/Queried';
import { useSearches } from '../search/queries';
import { BarChart } from '../parts/BarChart';
import { deliverLink } from './draft';
import { useDeliveries } from './queries';

const DELIVERIES_DRAWN = 12;
/** More letters have no room beside the bars. */
const LONGEST_LABEL = 32;

export function Sources() {
  const dossiers = useDossiers();
  const searches = useSearches();
  const navigate = useNavigate();
  const [query, setQuery] = useState('');
  return (
    <div className="space-y-5 p-5">
      <p>
        Choose photos on the{' '}
        <Link className="text-slate underline" to={deskLink('')}>
          Desk
        </Link>{' '}
        and press <b>Deliver …</b> there, or take all of one of these.
      </p>
      <form
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void navigate(deliverLink(query, 'taken'));
        }}
      >
        <TextField
          label="Or what a query finds"
          className="flex-1"
          boxClass="h-8 font-mono text-[12px]"
          spellCheck={false}
          value={query}
          onChange={(event) => setQuery(event.target.value)}
        />
        <Button type="submit">Take these</Button>
      </form>
      <Queried query={dossiers}>
        {(data) => (
          <List
            title="Dossiers"
            empty="There is no dossier yet."
            rows={data.map(({ id, path, query: asks, photos }) => ({
              key: id,
              label: path,
              count: photos,
              to: deliverLink(asks, 'hand'),
            }))}
          />
        )}
      </Queried>
      <Queried query={searches}>
        {(data) => (
          <List
            title="Saved searches"
            empty="There is no saved search yet."
            rows={data.map(({ id, name, asks, sort, count }) => ({
              key: id,
              label: name,
              count,
              to: deliverLink(asks, sort),
            }))}
          />
        )}
      </Queried>
      <Sizes />
    </div>
  );
}

/** The latest deliveries by their size. */
function Sizes() {
  const deliveries = useDeliveries();
  const bars = (deliveries.data?.deliveries ?? [])
    .filter(({ bytes }) => bytes > 0)
    .slice(0, DELIVERIES_DRAWN)
    .map(({ id, title, bytes }) => ({
      label: title.length > LONGEST_LABEL ? `${title.slice(0, LONGEST_LABEL)} …` : title,
      value: bytes,
      said: sizeText(bytes),
      link: `/deliver?shown=${id}`,
    }));
  if (bars.length < 2) return null;
  return (
    <section>
      <h2 className="mb-1 text-[12px] font-semibold text-ink-2">How much left</h2>
      <BarChart label="Deliveries by size" bars={bars} />
    </section>
  );
}

interface ListProps {
  title: string;
  empty: string;
  rows: readonly { key: number; label: string; count: number; to: string }[];
}

function List({ title, empty, rows }: ListProps) {
  return (
    <section>
      <h2 className="mb-1 text-[12px] font-semibold text-ink-2">{title}</h2>
      {rows.length === 0 && <p className="text-ink-2">{empty}</p>}
      <ul className="divide-y divide-line rounded border border-line">
        {rows.map(({ key, label, count, to }) => (
          <li key={key}>
            <Link to={to} className="flex gap-3 px-3 py-1.5 hover:bg-sheet">
              <span className="min-w-0 truncate">{label}</span>
              <span className="figures ml-auto text-ink-2">{countText(count, 'photo')}</span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
