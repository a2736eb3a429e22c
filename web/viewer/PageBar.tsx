// Which page of a document, or picture of an animation, is looked at, and the way to the others.

import { ChevronLeft, ChevronRight } from 'lucide-react';
import { numberText } from '@stellin/contract/wording';
import { shownKey } from '../foundation/keys';
import { useKeys } from '../foundation/useKeys';
import { Button } from '../parts/Button';
import { Tooltip } from '../parts/Tooltip';

interface Props {
  page: number;
  pages: number;
  onPage: (page: number) => void;
}

export function PageBar({ page, pages, onPage }: Props) {
  const step = (by: number) => () => onPage(Math.max(1, Math.min(pages, page + by)));
  useKeys({ pageOn: step(1), pageBack: step(-1) });
  return (
    <div
      data-not-printed
      className="absolute bottom-3 left-1/2 flex -translate-x-1/2 items-center gap-2 rounded border border-line bg-card/95 px-2 py-1"
      onPointerDown={(event) => event.stopPropagation()}
      onDoubleClick={(event) => event.stopPropagation()}
    >
      <Tooltip text="Page before" keyName={shownKey('pageBack')}>
        <Button aria-label="Page before" className="!h-7 !px-1.5" disabled={page === 1} onClick={step(-1)}>
          <ChevronLeft size={15} />
        </Button>
      </Tooltip>
      <span className="figures text-[12px] whitespace-nowrap" role="status">
        Page {numberText(page)} of {numberText(pages)}
      </span>
      <Tooltip text="Next page" keyName={shownKey('pageOn')}>
        <Button aria-label="Next page" className="!h-7 !px-1.5" disabled={page === pages} onClick={step(1)}>
          <ChevronRight size={15} />
        </Button>
      </Tooltip>
    </div>
  );
}
