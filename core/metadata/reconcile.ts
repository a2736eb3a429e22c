// One value a field out of what the blocks say (MWG 2.0, section 5, as docs/metadata.md states it).

import { exifEcho } from './blocks/exif';
import { iimEcho } from './blocks/iim';
import { sameMoment } from './dateTime';
import { FIELDS, fieldOf, type Field, type FieldId, type FieldValue, type FieldValues } from './fields';
import { sameValue, textsOf } from './values';

/** `tags`: those of films and sounds, which are read and never written. */
export const BLOCKS = ['sidecar', 'xmp', 'iim', 'exif', 'tags'] as const;
export type BlockName = (typeof BLOCKS)[number];
/** What each block says. */
export type BlockValues = Partial<Record<BlockName, FieldValues>>;

export interface Reconciled {
  fields: FieldValues;
  /** Fields on which blocks disagree, beyond what a block has no room for. */
  disagreements: FieldId[];
}

type Order = readonly BlockName[];

/** Capture time, position and orientation come from the camera; all else from the first block that has it. A sidecar comes before all. */
function orderOf({ exif }: Field, embedded: Order): Order {
  return typeof exif === 'string' ? ['sidecar', 'exif', ...embedded, 'tags'] : ['sidecar', ...embedded, 'exif', 'tags'];
}

/** By whether IIM was changed by a program that knows no XMP. */
const ORDERS = {
  usual: new Map(FIELDS.map((field) => [field.id, orderOf(field, ['xmp', 'iim'])])),
  iimChanged: new Map(FIELDS.map((field) => [field.id, orderOf(field, ['iim', 'xmp'])])),
};

/** The values and where blocks disagree. `iimChanged`: the digest tells that IIM was changed after XMP. */
export function reconcile(blocks: BlockValues, iimChanged: boolean): Reconciled {
  const orders = iimChanged ? ORDERS.iimChanged : ORDERS.usual;
  const fields: FieldValues = {};
  const disagreements: FieldId[] = [];
  for (const name of BLOCKS) {
    for (const id in blocks[name]) {
      const order = orders.get(id as FieldId);
      if (!order || id in fields) continue;
      const agree = settle(fieldOf(id as FieldId), order, blocks, fields);
      if (!agree) disagreements.push(id as FieldId);
    }
  }
  return { fields, disagreements };
}

/** Sets one field to what the first block in the order says; returns whether the others agree. */
function settle(field: Field, order: Order, blocks: BlockValues, fields: FieldValues): boolean {
  let value: FieldValue | undefined;
  let agree = true;
  for (const block of order) {
    const said = blocks[block]?.[field.id];
    if (said === undefined) continue;
    if (value === undefined) value = said;
    // Tags stay as they were, whatever is said of the file since.
    else agree &&= block === 'tags' || agrees(field, block, said, value);
  }
  fields[field.id] = value;
  return agree;
}

/** What a block says of a value once the value is written there and read back. */
const ECHOES: Readonly<Record<BlockName, (field: Field, value: FieldValue | undefined) => FieldValue | undefined>> = {
  sidecar: (_field, value) => value,
  xmp: (_field, value) => value,
  iim: iimEcho,
  exif: exifEcho,
  tags: (_field, value) => value,
};

function agrees(field: Field, block: BlockName, said: FieldValue, value: FieldValue): boolean {
  if (sameValue(said, value)) return true;
  const echo = ECHOES[block](field, value) ?? value;
  if (field.type === 'date') return sameMoment(textsOf(said)[0] ?? '', textsOf(echo)[0] ?? '');
  if (field.type === 'langAlt') return textsOf(said)[0] === textsOf(echo)[0];
  if (field.list === 'bag' && field.type === 'text') return sameValue(textsOf(said).sort(), textsOf(echo).sort());
  return sameValue(said, echo);
}
