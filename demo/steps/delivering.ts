// How the museum delivers: presets for what is asked for most.

import { copySettings, type CopySettings } from '@stellin/contract/delivering';
import { apply, ARCHIVIST, accountId, type Preparing } from './applying';

const { metadata: ALL } = copySettings.parse({});

const PRESETS: readonly { name: string; note: string; settings: Partial<CopySettings> }[] = [
  {
    name: 'Press',
    note: 'JPEG in full size with who made it and what is shown; no positions',
    settings: {
      format: 'jpeg',
      quality: 92,
      size: { by: 'whole', value: 1, height: 1, enlarge: false },
      name: 'saltmarsh_{year}_{number:3}',
      metadata: { ...ALL, position: false },
    },
  },
  {
    name: 'Web page',
    note: 'Small, with the name of the museum on it',
    settings: {
      format: 'webp',
      quality: 80,
      size: { by: 'box', value: 1600, height: 1200, enlarge: false },
      watermark: { picture: '', text: 'Saltmarsh Kite Museum', place: 'southeast', opacity: 0.6, percent: 3 },
      metadata: { ...ALL, what: 'rights' },
    },
  },
  {
    name: 'Print shop',
    note: 'TIFF with 16 bits, colours as they are, in a bag',
    settings: {
      format: 'tiff',
      bits: 16,
      colours: 'keep',
      size: { by: 'whole', value: 1, height: 1, enlarge: false },
      sharpen: 'none',
      folders: 'mirror',
      bag: true,
    },
  },
  {
    name: 'Originals',
    note: 'Untouched, with a sidecar beside each',
    settings: { format: 'original', sidecars: true },
  },
];

/** Presets for everybody. */
export async function setUpPresets({ services }: Preparing): Promise<void> {
  const there = new Set(
    (await services.deliveries.presets(await accountId(services, ARCHIVIST))).map(({ name }) => name),
  );
  for (const { name, note, settings } of PRESETS)
    if (!there.has(name))
      await apply(services, ARCHIVIST, { kind: 'savePreset', name, note, settings: copySettings.parse(settings) });
}
