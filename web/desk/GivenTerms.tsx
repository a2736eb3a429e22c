// What the chosen photos have: terms as chips with how many have them, and the keywords their files brought along.

import { X } from 'lucide-react';
import type { Described } from './queries';

interface Props extends Pick<Described, 'terms' | 'keywords' | 'count'> {
  onReveal: (termId: number) => void;
  onSet: ((termId: number, given: boolean) => void) | undefined;
}

export function GivenTerms({ terms, keywords, count, onReveal, onSet }: Props) {
  return (
    <>
      <ul className="flex flex-wrap gap-1.5" aria-label="Terms of the chosen photos">
        {terms.map(({ id, label, path, photos }) => {
          const some = photos < count;
          const above = path.at(-1);
          return (
            <li
              key={id}
              className={`flex h-6 max-w-full items-center gap-1.5 rounded border bg-card pl-2 ${some ? 'border-dashed border-ink-3' : 'border-line bg-spruce-pale'}`}
            >
              <button
                type="button"
                className="truncate"
                title={[...path, label].join(' › ')}
                onClick={() => onReveal(id)}
              >
                {label}
                {above && <span className="ml-1.5 text-[11px] text-ink-2">{above}</span>}
              </button>
              {some && (
                <span className="figures text-[11px] whitespace-nowrap text-amber">
                  {photos} of {count}
                </span>
              )}
              {some && onSet && (
                <button
                  type="button"
                  aria-label={`Give ${label} to all chosen photos`}
                  title="Give to all chosen photos"
                  className="font-bold text-ink-3 hover:text-spruce"
                  onClick={() => onSet(id, true)}
                >
                  +
                </button>
              )}
              {onSet ? (
                <button
                  type="button"
                  aria-label={`Take ${label} off`}
                  title="Take off"
                  className="pr-1.5 text-ink-3 hover:text-red"
                  onClick={() => onSet(id, false)}
                >
                  <X size={12} />
                </button>
              ) : (
                <span className="w-1" />
              )}
            </li>
          );
        })}
        {terms.length === 0 && <li className="text-ink-2">No terms yet.</li>}
      </ul>
      {keywords.length > 0 && (
        <>
          <h3 className="mt-3 mb-1 text-[12px] font-semibold text-ink-2">Keywords that came with the files</h3>
          <p className="text-[12px] text-ink-2">
            {keywords.map(({ keyword, photos }, i) => (
              <span key={keyword}>
                {i > 0 && ' · '}
                {keyword}
                {photos < count && <span className="figures text-ink-3"> {photos}</span>}
              </span>
            ))}
          </p>
        </>
      )}
    </>
  );
}
