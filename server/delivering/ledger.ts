// How presets stand in the ledger.

import { COPY_FORMATS } from '@stellin/core/delivering/formats';
import { METADATA_MODES } from '@stellin/core/delivering/metadata';
import { SIZINGS } from '@stellin/core/delivering/sizing';
import { copySettings } from '@stellin/contract/delivering';
import type { ObjectKind } from '../ledger/kinds';

/** The settings that tell presets apart, in words. */
function settings(value: unknown): string {
  const { data } = copySettings.safeParse(value);
  if (!data) return '–';
  const { format, quality, size, metadata, name } = data;
  const { label, unit } = SIZINGS[size.by];
  return [
    COPY_FORMATS[format].label + (COPY_FORMATS[format].lossy ? ` ${quality}` : ''),
    size.by === 'whole' ? label : `${label} ${size.value} ${unit}`,
    `named ${name}`,
    `says: ${METADATA_MODES[metadata.what]}`,
  ].join(', ');
}

export const deliveringObjects = {
  preset: {
    label: 'Preset',
    named: 'name',
    columns: {
      name: { label: 'Name' },
      note: { label: 'Note' },
      settings: { label: 'Settings', show: settings },
      version: 'derived',
      owner_id: { label: 'Only for', refersTo: 'account' },
      created_by: { label: 'Made by', refersTo: 'account' },
    },
  },
} as const satisfies Record<string, ObjectKind>;
