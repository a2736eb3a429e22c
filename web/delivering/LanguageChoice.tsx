// In which language texts and terms leave.

import { Field } from '../parts/Field';
import { languageText, USUAL_LANGUAGES } from '../parts/languageText';
import { Select } from '../parts/Select';

interface Props {
  value: string;
  /** What stands for no language. */
  none: string;
  onChange: (language: string) => void;
}

export function LanguageChoice({ value, none, onChange }: Props) {
  return (
    <Field label="Language">
      {(tied) => (
        <Select
          {...tied}
          className="w-full"
          value={value}
          onChange={onChange}
          options={[
            { value: '', label: none },
            ...USUAL_LANGUAGES.map((language) => ({ value: language, label: languageText(language) })),
          ]}
        />
      )}
    </Field>
  );
}
