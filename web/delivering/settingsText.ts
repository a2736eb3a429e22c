// Settings of a delivery in a line.

import { COPY_FORMATS, formatFacts } from '@stellin/core/delivering/formats';
import { METADATA_MODES } from '@stellin/core/delivering/metadata';
import { SIZINGS } from '@stellin/core/delivering/sizing';
import type { CopySettings } from '@stellin/contract/delivering';

export function settingsText({ format, quality, size, name, metadata }: CopySettings): string {
  const { label, unit } = SIZINGS[size.by];
  return [
    `${COPY_FORMATS[format].label}${formatFacts(format).lossy ? `, quality ${quality}` : ''}`,
    ...(format === 'original'
      ? []
      : [size.by === 'whole' ? 'in full size' : `${label.toLowerCase()} ${size.value} ${unit}`]),
    `named ${name}`,
    `says: ${METADATA_MODES[metadata.what].toLowerCase()}`,
  ].join(' · ');
}
