// Dossiers as a wall of pictures to skim: those of one level, with the way down and up.

import { ChevronRight } from 'lucide-react';
import { Link, useSearchParams } from 'react-router';
import type { Dossier } from '@stellin/contract/dossiers';
import { countText } from '@stellin/contract/wording';
import { Queried } from '../parts/Queried';
import { resultLink } from '../photos/result';
import { Skim } from '../photos/Skim';
import { ColourDot } from './ColourDot';
import { useDossiers } from './queries';

const WALL = '/dossiers';
const wallOf = (id: number | null) => (id === null ? WALL : `${WALL}?in=${id}`);

export function WallScreen() {
  const [params] = useSearchParams();
  const within = Number(params.get('in')) || null;
  return (
    <div className="h-full overflow-y-auto p-6">
      <h1 className="font-title text-[22px] font-semibold">Dossiers</h1>
      <Queried query={useDossiers()} className="mt-3">
        {(dossiers) => <Wall dossiers={dossiers} within={within} />}
      </Queried>
    </div>
  );
}

function Wall({ dossiers, within }: { dossiers: readonly Dossier[]; within: number | null }) {
  const shown = dossiers.filter(({ parentId }) => parentId === within);
  const above: Dossier[] = [];
  for (let at = dossiers.find(({ id }) => id === within); at; at = dossiers.find(({ id }) => id === at?.parentId))
    above.unshift(at);
  return (
    <>
      <nav aria-label="Where this is" className="mt-1 flex items-center gap-1 text-[13px]">
        {above.length > 0 && (
          <Link to={WALL} className="text-slate hover:underline">
            All
          </Link>
        )}
        {above.map(({ id, name }) => (
          <span key={id} className="flex items-center gap-1">
            <ChevronRight size={12} aria-hidden className="text-ink-3" />
            {id === within ? (
              <b aria-current="page">{name}</b>
            ) : (
              <Link to={wallOf(id)} className="text-slate hover:underline">
                {name}
              </Link>
            )}
          </span>
        ))}
      </nav>
      {shown.length === 0 && <p className="mt-3 text-ink-2">There are no dossiers here.</p>}
      <ul className="mt-4 grid grid-cols-[repeat(auto-fill,minmax(220px,1fr))] gap-4">
        {shown.map((dossier) => (
          <Card
            key={dossier.id}
            dossier={dossier}
            below={dossiers.filter(({ parentId }) => parentId === dossier.id).length}
          />
        ))}
      </ul>
    </>
  );
}

function Card({ dossier, below }: { dossier: Dossier; below: number }) {
  const { id, name, note, colour, cover, photos, query } = dossier;
  const to = resultLink({ query, sort: 'hand' });
  return (
    <li className="min-w-0">
      <Skim query={query} sort="hand" cover={cover} label={`Look at ${name}`} to={to} />
      <p className="mt-1.5 flex items-center gap-2">
        {colour && <ColourDot colour={colour} />}
        <b className="min-w-0 truncate">{name}</b>
        <span className="figures ml-auto text-[12px] whitespace-nowrap text-ink-2">{countText(photos, 'photo')}</span>
      </p>
      {note && <p className="truncate text-[12px] text-ink-2">{note}</p>}
      {below > 0 && (
        <Link to={wallOf(id)} className="text-[12px] text-slate hover:underline">
          {countText(below, 'dossier')} in it
        </Link>
      )}
    </li>
  );
}
