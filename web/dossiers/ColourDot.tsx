import type { MarkColour } from '@stellin/core/describing/marks';
import { COLOURS } from '../parts/colours';

/** The colour of a dossier; a hollow dot for none. */
export function ColourDot({ colour }: { colour: string }) {
  const filled = colour in COLOURS ? COLOURS[colour as MarkColour] : undefined;
  return (
    <span
      aria-hidden="true"
      className={`size-2.5 shrink-0 rounded-full ${filled ? '' : 'border border-ink-3'}`}
      style={filled ? { background: filled } : undefined}
    />
  );
}
