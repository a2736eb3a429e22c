// Choosing the colour of a dossier, or none.

import { RadioGroup } from 'radix-ui';
import { MARK_COLOURS } from '@stellin/core/describing/marks';
import { ColourDot } from './ColourDot';

export function ColourChoice({ colour, onChoose }: { colour: string; onChoose: (colour: string) => void }) {
  return (
    <fieldset>
      <legend>Colour</legend>
      <RadioGroup.Root value={colour} onValueChange={onChoose} orientation="horizontal" className="mt-1 flex gap-1">
        {['', ...MARK_COLOURS].map((each) => (
          <RadioGroup.Item
            key={each}
            value={each}
            aria-label={each || 'no colour'}
            className="flex size-7 items-center justify-center rounded border border-line data-[state=checked]:border-ink"
          >
            <ColourDot colour={each} />
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
    </fieldset>
  );
}
