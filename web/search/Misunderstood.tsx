// What of a typed query is not understood: the place marked in the text, what was expected there, and the way to search for
// the words as they are.

import { asWords, type QueryError } from '@stellin/core/search/language';

interface Props {
  text: string;
  error: QueryError;
  /** It stands in the address and was asked already, as far as it is understood. */
  asked?: boolean;
  /** Searches for the words instead. */
  onWords: (query: string) => void;
}

export function Misunderstood({ text, error: { at, length, message }, asked = false, onWords }: Props) {
  const words = asWords(text);
  const place = text.slice(at, at + length);
  return (
    <p role="alert" className="mt-1 flex flex-wrap items-baseline gap-x-3 px-1 text-[12px] text-red">
      <span className="font-mono whitespace-pre-wrap" aria-hidden>
        {text.slice(0, at)}
        <mark className="rounded-sm bg-red-pale text-red underline decoration-wavy underline-offset-2">
          {place === '' ? '  ' : place}
        </mark>
        {text.slice(at + length)}
      </span>
      <span>
        Not understood: {message}. {asked ? 'What is shown is found by the rest.' : 'Nothing was searched.'}
      </span>
      {words !== '' && (
        <button
          type="button"
          className="text-slate underline"
          // The line would lose the focus, and with it a token that is edited.
          onMouseDown={(event) => event.preventDefault()}
          onClick={() => onWords(words)}
        >
          Search for it as words
        </button>
      )}
    </p>
  );
}
