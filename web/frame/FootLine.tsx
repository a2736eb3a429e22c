// The line along the bottom: what is chosen, what waits, undo by name, the keys.

import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { writeBackRoutes } from '@stellin/contract/writeback';
import { numberText } from '@stellin/contract/wording';
import { call } from '../foundation/api';
import { useChosenSummary } from '../photos/selection';
import { useNextSteps, useRedo, useUndo } from '../foundation/changes';
import { shownKey } from '../foundation/keys';
import { useKeys } from '../foundation/useKeys';
import { OwnChanges } from '../ledger/OwnChanges';
import { KeysDialog } from './KeysDialog';
import { useMayCall, useMayChange } from '../foundation/session';

export function FootLine() {
  const [showsKeys, setShowsKeys] = useState(false);
  const mayChange = useMayChange('setRating');
  const mayWrite = useMayCall(writeBackRoutes.run);
  const { data: next } = useNextSteps();
  const undo = useUndo();
  const redo = useRedo();
  const chosen = useChosenSummary();
  useKeys(
    {
      keys: () => setShowsKeys(true),
      undo: () => mayChange && undo.mutate(undefined),
      redo: () => mayChange && redo.mutate(undefined),
    },
    'frame',
  );
  return (
    <footer className="flex h-7 shrink-0 items-center gap-5 border-t border-line bg-ground px-3 text-[12px] text-ink-2">
      {chosen && <span>{chosen}</span>}
      {mayWrite && <WriteBackLine />}
      <span className="ml-auto" />
      {mayChange && next?.undo && (
        <FootButton title={shownKey('undo')} onClick={() => undo.mutate(undefined)}>
          Undo: {next.undo.title}
        </FootButton>
      )}
      {mayChange && next?.redo && (
        <FootButton title={shownKey('redo')} onClick={() => redo.mutate(undefined)}>
          Redo: {next.redo.title}
        </FootButton>
      )}
      {mayChange && <OwnChanges className={FOOT_BUTTON} />}
      <FootButton title="?" onClick={() => setShowsKeys(true)}>
        Keys
      </FootButton>
      <KeysDialog open={showsKeys} onOpenChange={setShowsKeys} />
    </footer>
  );
}

const FOOT_BUTTON =
  'max-w-96 truncate text-slate underline-offset-2 hover:text-ink hover:underline disabled:opacity-50';

function FootButton({ children, ...props }: React.ComponentProps<'button'>) {
  return (
    <button type="button" {...props} className={FOOT_BUTTON}>
      {children}
    </button>
  );
}

function WriteBackLine() {
  const { data } = useQuery({ queryKey: ['writeBack', 'overview'], queryFn: () => call(writeBackRoutes.overview, {}) });
  if (!data) return null;
  const sum = (state: 'waiting' | 'conflict' | 'failed') =>
    data.drives.reduce((total, drive) => total + drive[state], 0);
  const parts = [
    `${numberText(sum('waiting'))} waiting`,
    ...(sum('conflict') ? [`${numberText(sum('conflict'))} in conflict`] : []),
    ...(sum('failed') ? [`${numberText(sum('failed'))} failed`] : []),
  ];
  return <span className="figures">Write-back: {parts.join(', ')}</span>;
}
