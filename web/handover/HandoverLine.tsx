// Where files were handed over, and what became of the program.

import { toast } from 'sonner';
import type { Handover } from '@stellin/contract/handover';
import { Button } from '../parts/Button';

interface Props {
  handover: Handover;
  /** Everything went out. */
  isOut: boolean;
}

export function HandoverLine({ handover: { folder, program, outcome, closed }, isOut }: Props) {
  const copy = () =>
    navigator.clipboard.writeText(folder).then(
      () => toast('Path copied'),
      () => toast.error('The browser did not let the path be copied.'),
    );
  return (
    <p className="flex min-w-0 items-center gap-2">
      <span className="min-w-0 truncate font-mono text-[12px]" title={folder}>
        {folder}
      </span>
      <Button look="quiet" className="shrink-0" onClick={() => void copy()}>
        Copy path
      </Button>
      {closed && <span className="shrink-0 text-ink-2">ended</span>}
      {program !== '' && isOut && (
        <span
          className={`min-w-0 truncate ${outcome?.includes('error') || outcome?.includes('not') ? 'text-red' : 'text-ink-2'}`}
        >
          “{program}” {outcome ?? 'was started'}
        </span>
      )}
    </p>
  );
}
