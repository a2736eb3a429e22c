// In which language texts and terms leave.

import { Field } from '../parts/Field';
import { languageText } from '../parts/languageText';
import { Select } from '../parts/Select';

/** Those that texts of an archive are most often in; others stand in all of them. */
const LANGUAGES = ['en', 'de', 'fr', 'nl', 'da', 'es', 'it', 'pl', 'pt', 'sv'];

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
            ...LANGUAGES.map((language) => ({ value: language, label: languageText(language) })),
          ]}
        />
      )}
    </Field>
  );
}
