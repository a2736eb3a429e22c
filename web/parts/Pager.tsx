// Stepping through the pages of a long table.

import { numberText } from '@stellin/contract/wording';
import { Button } from './Button';

interface Props {
  offset: number;
  page: number;
  total: number;
  onMove: (offset: number) => void;
}

export function Pager({ offset, page, total, onMove }: Props) {
  if (total <= page) return null;
  return (
    <p className="flex items-center justify-center gap-3 p-3 text-[12px] text-ink-2">
      <Button disabled={offset === 0} onClick={() => onMove(Math.max(0, offset - page))}>
        Before
      </Button>
      <span className="figures">
        {numberText(offset + 1)} to {numberText(Math.min(total, offset + page))} of {numberText(total)}
      </span>
      <Button disabled={offset + page >= total} onClick={() => onMove(offset + page)}>
        Next
      </Button>
    </p>
  );
}
