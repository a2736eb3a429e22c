// How the picture of a copy becomes: its format, size and colours, and what is drawn on it.

import { COPY_FORMAT_IDS, COPY_FORMATS, formatFacts, type CopyFormat } from '@stellin/core/delivering/formats';
import { SIZING_IDS, SIZINGS, type SizingKind } from '@stellin/core/delivering/sizing';
import type { CopySettings } from '@stellin/contract/delivering';
import { Checkbox } from '../parts/Checkbox';
import { Field, TextField } from '../parts/Field';
import { Slider } from '../parts/Slider';
import { WatermarkPicture } from './WatermarkPicture';
import type { SetSettings } from './draft';
import { Choice, NumberField } from './Labelled';
import { Section } from './Section';

interface Props {
  settings: CopySettings;
  set: SetSettings;
}

const FORMAT_LABELS = Object.fromEntries(COPY_FORMAT_IDS.map((id) => [id, COPY_FORMATS[id].label])) as Record<
  CopyFormat,
  string
>;
const SIZING_LABELS = Object.fromEntries(SIZING_IDS.map((id) => [id, SIZINGS[id].label])) as Record<SizingKind, string>;
const UNIT_LABELS: Record<SizingKind, string> = {
  whole: '',
  long: 'Pixels',
  short: 'Pixels',
  box: 'Width in pixels',
  megapixels: 'Million pixels',
  percent: 'Of the original (%)',
};
const SHARPEN_LABELS: Record<CopySettings['sharpen'], string> = { none: 'No', light: 'A little', strong: 'Strongly' };
const COLOUR_LABELS: Record<CopySettings['colours'], string> = {
  srgb: 'sRGB',
  p3: 'Display P3',
  keep: 'As they are',
};
const BITS_LABELS: Record<'8' | '16', string> = { '8': '8 bits', '16': '16 bits' };
const PLACE_LABELS: Record<CopySettings['watermark']['place'], string> = {
  northwest: 'Top left',
  northeast: 'Top right',
  southwest: 'Bottom left',
  southeast: 'Bottom right',
  centre: 'In the middle',
};
const BYTES_PER_KB = 1000;

export function FormatSection({ settings, set }: Props) {
  const { format, quality, maxBytes, bits, resolution } = settings;
  const { lossy, bits: most } = formatFacts(format);
  const isDrawn = format !== 'original';
  return (
    <Section open title="Format" summary={`${FORMAT_LABELS[format]}${lossy ? `, quality ${quality}` : ''}`}>
      <Choice label="Made as" value={format} labels={FORMAT_LABELS} onChange={(value) => set({ format: value })} />
      {!isDrawn && (
        <p className="text-[12px] text-ink-2">
          Byte for byte as it is, with all that stands in it: what is left out below only counts for sidecars.
        </p>
      )}
      {lossy && (
        <>
          <Field label={`Quality: ${quality}`}>
            {() => (
              <Slider
                label="Quality"
                className="w-full"
                value={quality}
                lowest={1}
                highest={100}
                step={1}
                onChange={(value) => set({ quality: value })}
              />
            )}
          </Field>
          <Checkbox checked={maxBytes !== null} onChange={(on) => set({ maxBytes: on ? 1_000_000 : null })}>
            No file is larger than
          </Checkbox>
          {maxBytes !== null && (
            <NumberField
              label="Kilobytes"
              value={Math.round(maxBytes / BYTES_PER_KB)}
              least={10}
              most={2_000_000}
              onChange={(value) => set({ maxBytes: Math.round(value * BYTES_PER_KB) })}
            />
          )}
        </>
      )}
      {isDrawn && (
        <div className="grid grid-cols-2 gap-3">
          {most === 16 && (
            <Choice
              label="Depth"
              value={bits === 16 ? '16' : '8'}
              labels={BITS_LABELS}
              onChange={(value) => set({ bits: value === '16' ? 16 : 8 })}
            />
          )}
          <NumberField
            label="Resolution (dpi)"
            value={resolution}
            least={1}
            most={10_000}
            onChange={(value) => set({ resolution: Math.round(value) })}
          />
        </div>
      )}
    </Section>
  );
}

export function SizeSection({ settings, set }: Props) {
  const { size, sharpen, colours, background, format } = settings;
  const resize = (part: Partial<CopySettings['size']>) => set({ size: { ...size, ...part } });
  const { unit } = SIZINGS[size.by];
  return (
    <Section
      open
      title="Size and colours"
      summary={size.by === 'whole' ? SIZINGS.whole.label : `${SIZINGS[size.by].label} ${size.value} ${unit}`}
    >
      <div className="grid grid-cols-2 gap-3">
        <Choice label="Size" value={size.by} labels={SIZING_LABELS} onChange={(by) => resize({ by })} />
        {size.by !== 'whole' && (
          <NumberField
            label={UNIT_LABELS[size.by]}
            value={size.value}
            least={size.by === 'megapixels' ? 0.1 : 1}
            most={30_000}
            step={size.by === 'megapixels' ? 0.1 : 1}
            onChange={(value) => resize({ value })}
          />
        )}
        {size.by === 'box' && (
          <NumberField
            label="Height in pixels"
            value={size.height}
            least={1}
            most={30_000}
            onChange={(value) => resize({ height: Math.round(value) })}
          />
        )}
      </div>
      {size.by !== 'whole' && (
        <Checkbox checked={size.enlarge} onChange={(enlarge) => resize({ enlarge })}>
          Enlarge smaller pictures
        </Checkbox>
      )}
      <div className="grid grid-cols-2 gap-3">
        <Choice label="Sharpen" value={sharpen} labels={SHARPEN_LABELS} onChange={(value) => set({ sharpen: value })} />
        <Choice label="Colours" value={colours} labels={COLOUR_LABELS} onChange={(value) => set({ colours: value })} />
      </div>
      {!formatFacts(format).alpha && (
        <ColourField
          label="Behind what is transparent"
          value={background}
          onChange={(value) => set({ background: value })}
        />
      )}
    </Section>
  );
}

export function DrawnSection({ settings, set }: Props) {
  const { watermark, border, caption } = settings;
  const mark = (part: Partial<CopySettings['watermark']>) => set({ watermark: { ...watermark, ...part } });
  const parts = [
    ...(watermark.picture ? ['a picture'] : watermark.text ? [`“${watermark.text}”`] : []),
    ...(border.pixels ? ['a border'] : []),
    ...(caption ? ['the description'] : []),
  ];
  return (
    <Section title="Drawn on it" summary={parts.join(', ') || 'nothing'}>
      <TextField
        label="Watermark"
        placeholder="none"
        value={watermark.text}
        disabled={watermark.picture !== ''}
        onChange={(event) => mark({ text: event.target.value })}
      />
      <WatermarkPicture value={watermark.picture} onChange={(picture) => mark({ picture })} />
      {(watermark.text !== '' || watermark.picture !== '') && (
        <div className="grid grid-cols-2 gap-3">
          <Choice label="Where" value={watermark.place} labels={PLACE_LABELS} onChange={(place) => mark({ place })} />
          <NumberField
            label="Height (% of the picture)"
            value={watermark.percent}
            least={1}
            most={50}
            onChange={(percent) => mark({ percent })}
          />
          <Field label={`Strength: ${Math.round(watermark.opacity * 100)} %`} className="col-span-2">
            {() => (
              <Slider
                label="Strength of the watermark"
                className="w-full"
                value={watermark.opacity}
                lowest={0.05}
                highest={1}
                step={0.05}
                onChange={(opacity) => mark({ opacity })}
              />
            )}
          </Field>
        </div>
      )}
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Border in pixels"
          value={border.pixels}
          least={0}
          most={2000}
          onChange={(pixels) => set({ border: { ...border, pixels: Math.round(pixels) } })}
        />
        {border.pixels > 0 && (
          <ColourField
            label="Its colour"
            value={border.colour}
            onChange={(colour) => set({ border: { ...border, colour } })}
          />
        )}
      </div>
      <Checkbox checked={caption} onChange={(on) => set({ caption: on })}>
        The description below the picture
      </Checkbox>
    </Section>
  );
}

function ColourField({ label, value, onChange }: { label: string; value: string; onChange: (value: string) => void }) {
  return (
    <Field label={label}>
      {(tied) => (
        <input
          {...tied}
          type="color"
          className="h-8 w-16 rounded border border-line bg-card p-0.5"
          value={value}
          onChange={(event) => onChange(event.target.value)}
        />
      )}
    </Field>
  );
}
