// Where the shown folder is: each step of its path leads there, arrows lead to the folders beside it.

import { ChevronLeft, ChevronRight } from 'lucide-react';
import { toast } from 'sonner';
import { criterion } from '@stellin/core/query/query';
import { folderAsked, steppedTo, type Direction } from '@stellin/core/stepping/stepping';
import { steppingRoutes } from '@stellin/contract/stepping';
import { call } from '../foundation/api';
import { showError } from '../foundation/changes';
import { Tooltip } from '../parts/Tooltip';
import { wholeStep } from './stepKeys';

interface Props {
  query: string;
  show: (change: { query: string }) => void;
}

export function Breadcrumb({ query, show }: Props) {
  const place = folderAsked(query);
  if (!place) return null;
  const names = place.path.split('/');
  const step = async (direction: Direction) => {
    const { to } = await call(steppingRoutes.step, { query: { kind: 'folder', direction, query } });
    if (to) show({ query: to.query });
    else toast(direction === 'next' ? 'This is the last folder here.' : 'This is the first folder here.');
  };
  const goTo = (path: string) =>
    show({ query: steppedTo(query, 'folder', criterion(place.deep ? 'within' : 'folder', path)) });
  return (
    <nav
      aria-label="Folder"
      className="flex h-7 shrink-0 items-center gap-1 border-b border-line bg-sheet px-3 text-[12px]"
    >
      <Beside direction="before" onStep={step} />
      <Beside direction="next" onStep={step} />
      <ol className="flex min-w-0 items-center">
        {names.map((name, i) => {
          const path = names.slice(0, i + 1).join('/');
          const isHere = i === names.length - 1;
          return (
            <li key={path} className="flex min-w-0 items-center">
              {i > 0 && <ChevronRight size={12} aria-hidden className="shrink-0 text-ink-3" />}
              <button
                type="button"
                {...(isHere ? { 'aria-current': 'location' as const } : {})}
                className={`truncate rounded px-1.5 py-0.5 hover:bg-ground ${isHere ? 'font-semibold' : 'text-slate'}`}
                onClick={() => goTo(path)}
              >
                {name}
              </button>
            </li>
          );
        })}
      </ol>
    </nav>
  );
}

function Beside({ direction, onStep }: { direction: Direction; onStep: (direction: Direction) => Promise<void> }) {
  const label = direction === 'next' ? 'Next folder' : 'Folder before';
  const Icon = direction === 'next' ? ChevronRight : ChevronLeft;
  return (
    <Tooltip text={label} keyName={wholeStep('folder', direction)}>
      <button
        type="button"
        aria-label={label}
        className="rounded border border-line bg-card p-0.5 text-ink-2 hover:border-ink-3"
        onClick={() => void onStep(direction).catch(showError)}
      >
        <Icon size={14} />
      </button>
    </Tooltip>
  );
}
