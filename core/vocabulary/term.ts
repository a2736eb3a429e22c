// The terms of a vocabulary (after SKOS, W3C Recommendation 2009): a tree of concepts with labels.

export type LabelKind = 'alternative' | 'hidden';

/** A label besides the preferred one. `language` is a BCP 47 tag, '' for the vocabulary's own language. */
export interface OtherLabel {
  kind: LabelKind;
  language: string;
  label: string;
}

export interface Term {
  id: number;
  /** The broader term; null at the top. */
  parentId: number | null;
  /** The preferred label. */
  label: string;
  /** A heading only groups others and can't be given to a photo. */
  heading: boolean;
  /** Whether its broader terms are written into files along with it. */
  writeBroader: boolean;
  scopeNote: string;
  otherLabels: OtherLabel[];
}

export const MAX_LABEL_LENGTH = 200;

/** A label as it is kept: white space folded. Undefined when nothing is left or it is too long. */
export function tidyLabel(label: string): string | undefined {
  const tidy = label.normalize('NFC').replace(/\s+/g, ' ').trim();
  return tidy === '' || tidy.length > MAX_LABEL_LENGTH ? undefined : tidy;
}
