// Choosing a template that new photos get as they come in.

import { usePrepared } from './queries';

interface Props {
  templateId: number | null;
  onChoose: (templateId: number | null) => void;
}

export function TemplateChoice({ templateId, onChoose }: Props) {
  const { data } = usePrepared();
  if (!data || data.templates.length === 0) return null;
  return (
    <label className="flex items-center gap-2">
      Template
      <select
        className="h-8 max-w-52 rounded border border-line bg-card px-2"
        value={templateId ?? ''}
        onChange={(event) => onChoose(event.target.value === '' ? null : Number(event.target.value))}
      >
        <option value="">none</option>
        {data.templates.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}
