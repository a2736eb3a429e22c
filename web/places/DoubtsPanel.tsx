// Doubts about places, one after the other: each is shown on the map and in the strip, to be put right there.

import { X } from 'lucide-react';
import type { PlaceDoubts } from '@stellin/contract/places';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { useMayChange } from '../foundation/session';
import { Button } from '../parts/Button';
import { PlaceFinder } from '../parts/PlaceFinder';
import { RowPicture } from '../parts/RowPicture';
import { DOUBT_HELP, DOUBT_LABELS, DOUBT_TEXTS, type DoubtKind } from './doubtText';
import type { OwnPlaceTask } from './OwnPlaceDialog';
import { useNaming } from './useNaming';

interface Props {
  kind: DoubtKind;
  doubts: PlaceDoubts;
  /** What the map shows. */
  query: string;
  onShow: (query: string) => void;
  onTask: (task: OwnPlaceTask) => void;
  onClose: () => void;
}

export function DoubtsPanel({ kind, doubts, query, onShow, onTask, onClose }: Props) {
  const { found, rows } = doubts[kind];
  return (
    <section aria-labelledby="doubts" className="flex w-80 shrink-0 flex-col border-l border-line bg-card">
      <div className="flex items-start gap-2 px-3 pt-2">
        <h2 id="doubts" className="font-title text-[16px] font-semibold">
          {DOUBT_LABELS[kind]}
        </h2>
        <Button aria-label="Close the list" className="ml-auto" onClick={onClose}>
          <X size={14} />
        </Button>
      </div>
      <p className="px-3 pb-2 text-[12px] text-ink-2">{DOUBT_HELP[kind]}</p>
      {rows.length === 0 ? (
        <p className="px-3 text-ink-2">Nothing is doubtful.</p>
      ) : (
        <ul className="min-h-0 flex-1 overflow-y-auto">
          {kind === 'unknownNames'
            ? doubts.unknownNames.rows.map((row) => (
                <Row key={row.query} {...{ row, query, onShow }} texts={DOUBT_TEXTS.unknownNames(row)}>
                  <Settling row={row} onTask={onTask} />
                </Row>
              ))
            : kind === 'jumps'
              ? doubts.jumps.rows.map((row) => (
                  <Row key={row.query} {...{ row, query, onShow }} texts={DOUBT_TEXTS.jumps(row)} />
                ))
              : doubts.contradictions.rows.map((row) => (
                  <Row key={row.query} {...{ row, query, onShow }} texts={DOUBT_TEXTS.contradictions(row)} />
                ))}
        </ul>
      )}
      {found > rows.length && (
        <p className="border-t border-line px-3 py-1 text-[12px] text-ink-2">
          The first {rows.length} of {found} are listed.
        </p>
      )}
    </section>
  );
}

interface RowProps {
  row: { query: string; photos: number; photoId: number; previewVersion: number };
  texts: [string, string];
  query: string;
  onShow: (query: string) => void;
  children?: React.ReactNode;
}

function Row({ row, texts: [first, second], query, onShow, children }: RowProps) {
  const isShown = row.query === query;
  return (
    <li className={`border-t border-line px-3 py-1.5 ${isShown ? 'bg-spruce-pale' : ''}`}>
      <div className="flex items-center gap-2">
        <RowPicture photoId={row.photoId} previewVersion={row.previewVersion} />
        <div className="min-w-0 flex-1">
          <button
            type="button"
            aria-pressed={isShown}
            className="block max-w-full truncate text-left text-slate hover:underline"
            onClick={() => onShow(row.query)}
          >
            {first}
          </button>
          <p className="text-[12px] text-ink-2">
            {[second, countText(row.photos, 'photo')].filter(Boolean).join(' · ')}
          </p>
        </div>
      </div>
      {isShown && children}
    </li>
  );
}

/** What names that no place knows can become. */
function Settling({
  row,
  onTask,
}: {
  row: PlaceDoubts['unknownNames']['rows'][number];
  onTask: (task: OwnPlaceTask) => void;
}) {
  const mayAdd = useMayChange('saveOwnPlace');
  const change = useChange();
  const { alsoCalled, rewrite } = useNaming(row);
  const name = row.names.sublocation || row.names.city;
  if (!mayAdd) return null;
  return (
    <div className="mt-1.5 flex flex-col gap-1.5">
      <PlaceFinder
        label={`“${name}” is`}
        onPick={(place) => (place.ownId === null ? rewrite(place) : alsoCalled(place.ownId, name))}
      />
      <p className="text-[12px] text-ink-2">
        An own place is called so from now on, too. A town of the gazetteer is written in its place.
      </p>
      <div className="flex gap-2">
        <Button
          onClick={() =>
            onTask({ kind: 'add', parent: null, name, placeKind: row.names.sublocation ? 'spot' : 'town' })
          }
        >
          A new place …
        </Button>
        <Button
          disabled={change.isPending}
          onClick={() => change.mutate({ kind: 'leavePlaceNames', names: row.names })}
        >
          Right as it is
        </Button>
      </div>
    </div>
  );
}
