// The dialogs about many photos: matching them with tracks, names from positions, positions from names.

import type { ReactNode } from 'react';
import type { Selection } from '@stellin/contract/photos';
import { MatchDialog } from './MatchDialog';
import { NamesDialog } from './NamesDialog';
import { PositionsDialog } from './PositionsDialog';

export type Asking = 'match' | 'names' | 'positions';

interface Props {
  asking: Asking;
  selection: Selection;
  trackIds: number[];
  onClose: () => void;
}

export function Asked({ asking, selection, trackIds, onClose }: Props) {
  const dialogs: Record<Asking, () => ReactNode> = {
    match: () => <MatchDialog {...{ selection, trackIds, onClose }} />,
    names: () => <NamesDialog {...{ selection, onClose }} />,
    positions: () => <PositionsDialog {...{ selection, onClose }} />,
  };
  return dialogs[asking]();
}
