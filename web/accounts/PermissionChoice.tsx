// Permissions as boxes to tick: of a role, or of a token.

import { PERMISSIONS, type Permission } from '@stellin/core/accounts/permissions';
import { Checkbox } from '../parts/Checkbox';

interface Props {
  legend: string;
  /** Those there are to choose from. */
  among: readonly Permission[];
  chosen: readonly Permission[];
  onChange: (chosen: Permission[]) => void;
  /** Each with what it means; otherwise short, side by side. */
  explained?: boolean;
}

export function PermissionChoice({ legend, among, chosen, onChange, explained = false }: Props) {
  return (
    <fieldset>
      <legend className="mb-1 text-[12px] text-ink-2">{legend}</legend>
      <div className={explained ? 'space-y-1.5' : 'grid grid-cols-2 gap-1'}>
        {among.map((id) => (
          <Checkbox
            key={id}
            checked={chosen.includes(id)}
            // Whoever may anything may see.
            disabled={id === 'see'}
            onChange={(may) => onChange(may ? [...chosen, id] : chosen.filter((other) => other !== id))}
          >
            {PERMISSIONS[id].label}
            {explained && <span className="block text-[12px] text-ink-2">{PERMISSIONS[id].help}</span>}
          </Checkbox>
        ))}
      </div>
    </fieldset>
  );
}
