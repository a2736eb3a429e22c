// Terms that the chosen photos might get: narrower ones of the one given last, those that photos like them have, those one
// gave lately.

import type { Selection } from '@stellin/contract/photos';
import { useColumn } from '../parts/terms/queries';
import type { GivenState } from './CheckMark';
import { useRecentTerms, useSuggestedTerms } from './queries';

interface Props {
  selection: Selection;
  givenLast: number | null;
  stateOf: (id: number) => GivenState;
  onGive: (id: number) => void;
}

interface Offered {
  id: number;
  label: string;
  path?: readonly string[];
  why?: string;
}

const MAX_NARROWER = 14;

export function OfferedTerms({ selection, givenLast, stateOf, onGive }: Props) {
  const { data: suggested = [] } = useSuggestedTerms(selection);
  const { data: recent = [] } = useRecentTerms();
  return (
    <>
      {givenLast !== null && <Narrower id={givenLast} stateOf={stateOf} onGive={onGive} />}
      <Offers
        title="Photos like these have"
        terms={suggested.map(({ why, share, ...term }) => ({
          ...term,
          why: `${Math.round(share * 100)} in 100 ${why}`,
        }))}
        stateOf={stateOf}
        onGive={onGive}
      />
      <Offers title="Given lately" terms={recent} stateOf={stateOf} onGive={onGive} />
    </>
  );
}

function Narrower({ id, ...rest }: { id: number } & Pick<Props, 'stateOf' | 'onGive'>) {
  const { data: narrower = [], isPlaceholderData } = useColumn(id);
  const offered = narrower.filter(({ heading, deprecated }) => !heading && !deprecated);
  return <Offers title="Narrower" terms={isPlaceholderData ? [] : offered.slice(0, MAX_NARROWER)} {...rest} />;
}

function Offers({
  title,
  terms,
  stateOf,
  onGive,
}: { title: string; terms: readonly Offered[] } & Pick<Props, 'stateOf' | 'onGive'>) {
  const offered = terms.filter(({ id }) => stateOf(id) !== 'all');
  if (offered.length === 0) return null;
  return (
    <section className="mt-2.5">
      <h3 className="mb-1 text-[12px] font-semibold text-ink-2">{title}</h3>
      <ul className="flex flex-wrap gap-1" aria-label={title}>
        {offered.map(({ id, label, path = [], why }) => (
          <li key={id} className="max-w-full">
            <button
              type="button"
              title={[[...path, label].join(' › '), why].filter(Boolean).join(' – ')}
              className="flex h-6 max-w-full items-center gap-1.5 rounded border border-line bg-card px-2 hover:border-spruce"
              onClick={() => onGive(id)}
            >
              <span className="truncate">{label}</span>
              {why && <span className="text-[11px] whitespace-nowrap text-ink-2">{why}</span>}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
