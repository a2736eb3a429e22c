// Choosing a template that new photos get as they come in.

import { usePrepared } from './queries';
import { Select } from '../parts/Select';

interface Props {
  templateId: number | null;
  onChoose: (templateId: number | null) => void;
}

export function TemplateChoice({ templateId, onChoose }: Props) {
  const { data } = usePrepared();
  const templates = data?.templates ?? [];
  // Until it is known its place is kept: what stands behind it must not move from under the pointer.
  if (data && templates.length === 0) return null;
  return (
    <label className="flex items-center gap-2">
      Template
      <Select
        className="max-w-52"
        value={templateId ?? ''}
        disabled={!data}
        onChange={(value) => onChoose(value === '' ? null : Number(value))}
        options={[{ value: '', label: 'none' }, ...templates.map(({ id, name }) => ({ value: id, label: name }))]}
      />
    </label>
  );
}
