// Letting somebody choose files: a field that is not seen, and what opens it.

import { useRef, type ReactNode } from 'react';

interface Picking {
  /** What the field is called for assistive technology. */
  label: string;
  /** Endings or media types, as HTML has them. */
  accept: string;
  multiple?: boolean;
  onFiles: (files: File[]) => void;
}

/** The field, to be put anywhere, and a function that opens it. The same file can be chosen again. */
export function useFilePicker({
  label,
  accept,
  multiple = false,
  onFiles,
}: Picking): [field: ReactNode, open: () => void] {
  const input = useRef<HTMLInputElement>(null);
  const field = (
    <input
      ref={input}
      type="file"
      className="hidden"
      aria-label={label}
      {...{ accept, multiple }}
      onChange={({ target }) => {
        const files = [...(target.files ?? [])];
        target.value = '';
        if (files.length > 0) onFiles(files);
      }}
    />
  );
  return [field, () => input.current?.click()];
}
