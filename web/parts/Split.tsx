// Two areas with an edge between them that is dragged, or moved by the arrow keys while it has the focus. One of them has a
// size in pixels, which the browser remembers; the other takes what is left.

import { useEffect, useState, type ReactNode } from 'react';
import { Group, Panel, Separator, usePanelRef } from 'react-resizable-panels';
import { z } from 'zod';
import { useStored, type StoredName } from '../foundation/useStored';

/** In pixels. */
interface Size {
  usual: number;
  lowest: number;
  highest: number;
}

/** What an area holds fills it. */
const AREA = 'flex overflow-hidden! *:min-w-0 *:flex-1';

interface Props {
  /** Under which the size is remembered. */
  name: StoredName;
  /** What the edge does, as "Width of the sources". */
  label: string;
  size: Size;
  /** Where the area of that size stands. */
  at: 'left' | 'right' | 'bottom';
  sized: ReactNode;
  /** So many pixels are left of it while it is folded away. */
  foldedTo?: number | undefined;
  children: ReactNode;
}

export function Split({ name, label, size, at, sized, foldedTo, children }: Props) {
  const { usual, lowest, highest } = size;
  const [kept, setKept] = useStored(name, z.number().min(lowest).max(highest), usual);
  const [begun] = useState(foldedTo ?? kept);
  const panel = usePanelRef();
  const rest = usePanelRef();
  const isFolded = foldedTo !== undefined;
  /** Kept at once, so that who leaves right after does not lose it. The areas follow a moment later; together they stay as large. */
  const keep = (share: number) => {
    const both = [panel, rest].reduce((sum, { current }) => sum + (current?.getSize().inPixels ?? 0), 0);
    setKept(Math.min(highest, Math.max(lowest, Math.round(share * both))));
  };
  useEffect(() => panel.current?.resize(foldedTo ?? kept), [panel, foldedTo, kept]);
  const side = (
    <Panel
      id="sized"
      key="sized"
      panelRef={panel}
      defaultSize={begun}
      minSize={foldedTo ?? lowest}
      maxSize={foldedTo ?? highest}
      groupResizeBehavior="preserve-pixel-size"
      className={AREA}
    >
      {sized}
    </Panel>
  );
  const others = (
    <Panel id="rest" key="rest" panelRef={rest} className={AREA}>
      {children}
    </Panel>
  );
  const edge = (
    <Separator
      key="edge"
      aria-label={label}
      disabled={isFolded}
      className={`relative z-10 shrink-0 bg-line outline-none focus-visible:bg-spruce data-[separator=active]:bg-spruce data-[separator=hover]:bg-spruce ${at === 'bottom' ? 'h-[2px] !bg-ink' : 'w-px'}`}
    />
  );
  return (
    <Group
      orientation={at === 'bottom' ? 'vertical' : 'horizontal'}
      // Only what a person changed: a window made small changes nothing for good.
      onLayoutChanged={({ sized: share = 0 }, { isUserInteraction }) =>
        isUserInteraction && !isFolded && keep(share / 100)
      }
      className="min-h-0 min-w-0 flex-1"
    >
      {at === 'left' ? [side, edge, others] : [others, edge, side]}
    </Group>
  );
}
