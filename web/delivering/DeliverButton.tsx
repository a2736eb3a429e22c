// From the chosen photos to the place where they are delivered.

import { useNavigate } from 'react-router';
import type { Sort } from '@stellin/core/search/sorts';
import { deliveringRoutes } from '@stellin/contract/delivering';
import type { Selection } from '@stellin/contract/photos';
import { shownKey } from '../foundation/keys';
import { useMayCall } from '../foundation/session';
import { useKeys } from '../foundation/useKeys';
import { Tooltip } from '../parts/Tooltip';
import { leavingState } from './draft';

interface Props {
  selection: Selection | null;
  sort: Sort;
}

export function DeliverButton({ selection, sort }: Props) {
  const navigate = useNavigate();
  const may = useMayCall(deliveringRoutes.deliver);
  const open = () => {
    if (selection && may) void navigate('/deliver', { state: leavingState(selection, sort) });
  };
  useKeys({ deliver: open });
  if (!may) return null;
  return (
    <Tooltip text="Deliver the chosen photos" keyName={shownKey('deliver')}>
      <button
        type="button"
        disabled={!selection}
        className="rounded border border-line bg-card px-2.5 py-0.5 hover:border-ink-3 disabled:opacity-50"
        onClick={open}
      >
        Deliver …
      </button>
    </Tooltip>
  );
}
