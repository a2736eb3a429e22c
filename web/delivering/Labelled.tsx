// A choice or a number of the settings under its label.

import { Select } from '../parts/Select';
import { Field, TextField } from '../parts/Field';

interface ChoiceProps<Value extends string | number> {
  label: string;
  value: Value;
  labels: Readonly<Record<Value, string>>;
  onChange: (value: Value) => void;
  className?: string;
}

/** One of some, by their labels. */
export function Choice<Value extends string>({ label, value, labels, onChange, className = '' }: ChoiceProps<Value>) {
  const options = (Object.keys(labels) as Value[]).map((each) => ({ value: each, label: labels[each] }));
  return (
    <Field label={label} className={className}>
      {(tied) => <Select {...tied} className="w-full" value={value} options={options} onChange={onChange} />}
    </Field>
  );
}

interface NumberProps {
  label: string;
  value: number;
  least: number;
  most: number;
  step?: number;
  onChange: (value: number) => void;
  className?: string;
}

/** A number within bounds; what is no number yet changes nothing. */
export function NumberField({ label, value, least, most, step = 1, onChange, className = '' }: NumberProps) {
  return (
    <TextField
      label={label}
      type="number"
      className={className}
      boxClass="figures h-8"
      min={least}
      max={most}
      step={step}
      value={value}
      onChange={({ target }) => {
        const typed = target.valueAsNumber;
        if (Number.isFinite(typed)) onChange(Math.min(most, Math.max(least, typed)));
      }}
    />
  );
}
