// A template made of what a photo says.

import { DESCRIBED_FIELDS } from '@stellin/core/describing/targets';
import type { FieldValue } from '@stellin/core/metadata/fields';
import { photoRoutes } from '@stellin/contract/photos';
import { call } from '../foundation/api';
import type { TemplateDraft } from './TemplateDialog';

/** What one picture says of itself alone. */
const OF_ONE_PICTURE = new Set<string>(['dateCreated', 'dateUncertain', 'position', 'digitalImageGuid', 'registryId']);

/** A template of what a photo says and of its terms. */
export async function templateOf(photoId: number): Promise<TemplateDraft> {
  const [{ name, fields }, { terms }] = await Promise.all([
    call(photoRoutes.showPhoto, { params: { id: photoId } }),
    call(photoRoutes.describeSelection, { body: { selection: { query: null, plus: [photoId] } } }),
  ]);
  const edits = DESCRIBED_FIELDS.flatMap(({ id }) => {
    const value = fields[id];
    return value === undefined || OF_ONE_PICTURE.has(id)
      ? []
      : [{ target: id, mode: 'replace' as const, value: withBraces(value) }];
  });
  return { id: null, name: `As ${name}`, note: '', edits, terms, shared: true };
}

/** Braces in what a photo says are no placeholders. */
function withBraces(value: FieldValue): FieldValue {
  if (typeof value === 'string') return value.replace(/[{}]/g, '$&$&');
  if (Array.isArray(value)) return value.map(withBraces);
  if (typeof value !== 'object') return value;
  return Object.fromEntries(Object.entries(value).map(([name, item]) => [name, withBraces(item)]));
}
