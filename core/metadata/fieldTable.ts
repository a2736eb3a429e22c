// The field table as docs/metadata.md shows it.

import { FIELDS, type Field, type Member } from './fields';

const EXIF_PLACES = {
  captureTime: 'DateTimeOriginal, SubSecTimeOriginal, OffsetTimeOriginal',
  gps: 'GPS directory',
  orientation: 'Orientation',
} as const;

/** Markdown rows of all fields, and of the members of structures below them. */
export function fieldTable(): string {
  const rows = FIELDS.map((field) => [
    `\`${field.id}\``,
    field.label,
    `\`${field.xmp.prefix}:${field.xmp.name}\``,
    typeText(field),
    field.iim ? iimText(field.iim) : '',
    exifText(field.exif),
  ]);
  const structures = FIELDS.filter(({ type }) => type === 'struct').map(
    ({ id, members }) => `- \`${id}\`: ${membersText(members?.() ?? [], 0)}`,
  );
  return [
    '| id | field | XMP | type | IIM (bytes) | EXIF |',
    '| --- | --- | --- | --- | --- | --- |',
    ...rows.map((row) => `| ${row.join(' | ')} |`),
    '',
    'Members of structures:',
    '',
    ...structures,
  ].join('\n');
}

function typeText({ type, list }: Pick<Member, 'type' | 'list'>): string {
  const name = { langAlt: 'text by language', struct: 'structure', uri: 'address', boolean: 'yes or no' } as const;
  const one = type in name ? name[type as keyof typeof name] : type;
  return list ? `${list} of ${one}` : one;
}

function iimText({ dataset, maxBytes, form }: NonNullable<Field['iim']>): string {
  return form === 'date' ? '2:55, 2:60' : `2:${String(dataset).padStart(2, '0')} (${maxBytes})`;
}

function exifText(exif: Field['exif']): string {
  return exif === undefined ? '' : typeof exif === 'string' ? EXIF_PLACES[exif] : String(exif.tag);
}

/** Keywords hold keywords: so far down the members are named. */
const MAX_DEPTH = 2;

function membersText(members: readonly Member[], depth: number): string {
  return members
    .map((member) => {
      const inner = depth < MAX_DEPTH ? member.members?.() : undefined;
      const nested = inner && inner !== members ? ` {${membersText(inner, depth + 1)}}` : '';
      return `${member.id}${member.type === 'text' && !member.list ? '' : ` (${typeText(member)})`}${nested}`;
    })
    .join(', ');
}
